import { useState } from 'react';
import { destinationOf } from '../../core/destinations';
import type { AccountName } from '../../core/connections/view';
import type { EventRule, WireRule } from '../../core/events/schema';
import type { EventsView } from '../../core/events/view';
import { freshWire } from '../../core/events/wires';
import { listed } from '../../core/listed';
import { count } from '../../core/strands';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import { Time } from '../../ui/text/Time';
import { WireParts } from './WireParts';

/** The destinations that an event is told to, each a sentence with its mappings; and those that it could be. */
export function Wires({ business, view, event }: { business: string; view: EventsView; event: EventRule }) {
  const [adding, setAdding] = useState<string | null>(null);
  const own = view.wires.filter((wire) => wire.event === event.name);
  const destinations = view.beside.accounts.filter(({ kind }) => destinationOf(kind) !== null);
  const others = destinations.filter(({ key }) => !own.some(({ account }) => account === key));
  const added = others.find(({ key }) => key === adding);
  return (
    <div className="flex flex-col gap-4">
      {own.map((wire) => (
        <Wire key={wire.account} business={business} view={view} stored={wire} start={wire} />
      ))}
      {added && (
        <Wire
          key={added.key}
          business={business}
          view={view}
          stored={null}
          start={freshWire(event, added.key, added.kind)}
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
          <WireParts view={view} rule={rule} onEdit={setRule} />
          {stored && <Answered view={view} wire={stored} />}
        </>
      )}
    </RuleSheet>
  );
}

/** What became of what was told. */
function Answered({ view, wire: { event, account } }: { view: EventsView; wire: WireRule }) {
  const told = view.told[`${event} ${account}`];
  if (!told)
    return (
      <p className="text-quiet border-base-300 border-t px-5 py-3">Nothing was told yet; it begins once it is live.</p>
    );
  const counts = [
    `${count(told.told)} taken`,
    ...(told.refused > 0 ? [`${count(told.refused)} refused`] : []),
    ...(told.waiting > 0 ? [`${count(told.waiting)} waiting`] : []),
    ...(told.held > 0 ? [`${count(told.held)} held`] : []),
  ];
  return (
    <p className="border-base-300 border-t px-5 py-3">
      {listed(counts)}
      {told.lastAt && (
        <>
          , the last <Time iso={told.lastAt} timeZone={view.timeZone} />
        </>
      )}
      .
      {told.why && (
        <span className="text-error block [overflow-wrap:anywhere]">The newest that was not taken: {told.why}</span>
      )}
    </p>
  );
}

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
