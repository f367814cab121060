import { useState } from 'react';
import { faceOf } from '../../core/destinations/faces';
import type { AccountName } from '../../core/connections/view';
import type { EventRule, WireRule } from '../../core/events/schema';
import type { EventsView, Told } from '../../core/events/view';
import { freshWire } from '../../core/events/wires';
import { listed } from '../../core/listed';
import { comparedKey, isCompared } from '../../core/reportbacks/compare';
import { count } from '../../core/strands';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import { Time } from '../../ui/text/Time';
import { WireParts } from './WireParts';

/** The destinations that an event is told to, each a sentence with its mappings; and those that it could be. */
export function Wires({ business, view, event }: { business: string; view: EventsView; event: EventRule }) {
  const [adding, setAdding] = useState<string | null>(null);
  const own = view.wires.filter((wire) => wire.event === event.name);
  const destinations = view.beside.accounts.filter(({ kind }) => faceOf(kind, view.beside.platforms) !== null);
  const others = destinations.filter(({ key }) => !own.some(({ account }) => account === key));
  const added = others.find(({ key }) => key === adding);
  const face = added && faceOf(added.kind, view.beside.platforms);
  return (
    <div className="flex flex-col gap-4">
      {own.map((wire) => (
        <Wire key={wire.account} business={business} view={view} stored={wire} start={wire} />
      ))}
      {added && face && (
        <Wire
          key={added.key}
          business={business}
          view={view}
          stored={null}
          start={freshWire(event, added.key, face)}
          onKept={() => setAdding(null)}
        />
      )}
      {view.mayChange && !added && (
        <Offers business={business} others={others} onAdd={setAdding} isFirst={own.length === 0} />
      )}
    </div>
  );
}

function Wire({
  business,
  view,
  stored,
  start,
  onKept,
}: {
  business: string;
  view: EventsView;
  stored: WireRule | null;
  start: WireRule;
  onKept?: () => void;
}) {
  return (
    <RuleSheet
      business={business}
      kind="wire"
      label={`Telling ${start.account}`}
      stored={stored}
      start={start}
      view={view}
      beside={view.beside}
      {...(onKept ? { onKept } : {})}
    >
      {(rule, setRule) => (
        <>
          <WireParts business={business} view={view} rule={rule} onEdit={setRule} />
          {stored && <Answered business={business} view={view} wire={stored} />}
        </>
      )}
    </RuleSheet>
  );
}

/** What became of what was told, by each who tells it. */
function Answered({ business, view, wire }: { business: string; view: EventsView; wire: WireRule }) {
  const { event, account } = wire;
  const told = tellers.flatMap(([by, words]) => {
    const one = view.told[`${event} ${account} ${by}`];
    return one ? [{ by, words, one }] : [];
  });
  if (told.length === 0)
    return (
      <p className="text-quiet border-base-300 border-t px-5 py-3">Nothing was told yet; it begins once it is live.</p>
    );
  return (
    <div className="border-base-300 flex flex-col gap-1 border-t px-5 py-3">
      {told.map(({ by, words, one }) => (
        <p key={by}>
          {told.length > 1 || by === 'page' ? `${words}: ` : ''}
          {listed(countsOf(one))}
          {one.lastAt && (
            <>
              , the last <Time iso={one.lastAt} timeZone={view.timeZone} />
            </>
          )}
          .
          {one.why && (
            <span className="text-error block [overflow-wrap:anywhere]">The newest that was not taken: {one.why}</span>
          )}
        </p>
      ))}
      <p>
        <a className="quiet-link" href={`/b/${business}/events/told?event=${event}&account=${account}`}>
          Each of them, with what was sent
        </a>
        {isCompared(wire) && (
          <>
            {' · '}
            <a
              className="quiet-link"
              href={`/b/${business}/report-backs/compare?${new URLSearchParams({ of: comparedKey({ outcome: event, account }) })}`}
            >
              Compare with what the other way told
            </a>
          </>
        )}
      </p>
    </div>
  );
}

const tellers = [
  ['server', 'From the server'],
  ['page', 'From pages'],
] as const;

const countsOf = ({ told, refused, waiting, held, unsure, 'worked out': workedOut }: Told): string[] => [
  ...(told > 0 || workedOut === 0 ? [`${count(told)} taken`] : []),
  ...(workedOut > 0 ? [`${count(workedOut)} only worked out`] : []),
  ...(refused > 0 ? [`${count(refused)} refused`] : []),
  ...(waiting > 0 ? [`${count(waiting)} waiting`] : []),
  ...(held > 0 ? [`${count(held)} held`] : []),
  ...(unsure > 0 ? [`${count(unsure)} unsure`] : []),
];

function Offers({
  business,
  others,
  onAdd,
  isFirst,
}: {
  business: string;
  others: AccountName[];
  onAdd: (account: string) => void;
  isFirst: boolean;
}) {
  if (others.length === 0)
    return isFirst ? (
      <p className="text-quiet">
        It is told to nobody.{' '}
        <a className="quiet-link" href={`/b/${business}/connections?new=yes`}>
          Connect a place that takes events
        </a>
      </p>
    ) : null;
  return (
    <p className="flex flex-wrap gap-2">
      {others.map(({ key, name }) => (
        <button key={key} type="button" className="button" onClick={() => onAdd(key)}>
          Tell {name} of it
        </button>
      ))}
    </p>
  );
}
