import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { NamedThere, OutcomesView } from '../../core/outcomes/view';
import { listed } from '../../core/listed';
import { outcomeNamed } from '../../core/outcomes/goals';
import { count, counted } from '../../core/strands';
import { goTo, useAddressPart } from '../../ui/address/useAddressPart';
import { useOpen } from '../../ui/address/useOpen';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { readJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { Time } from '../../ui/text/Time';
import { OutcomeEffect } from './OutcomeEffect';
import { OutcomeTelling } from './OutcomeTelling';
import { PretendHit } from './PretendHit';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: OutcomesView;
  search: string;
}

/** What counts as a conversion, what it is worth, who is told of it, and what that would have counted lately. */
export function OutcomesPage(props: Props) {
  return (
    <Live>
      <Outcomes {...props} />
    </Live>
  );
}

function Outcomes({ business, initial, search }: Props) {
  useDraftWatch(business);
  const view = useView(`/api/b/${business}/outcomes`, initial);
  const open = useOpen('outcome', search, ['named']);
  const [named] = useAddressPart('named', search);
  const { data: names } = useQuery({
    queryKey: [business, 'names-told'],
    queryFn: () => readJson<{ names: NamedThere[] }>(`/api/b/${business}/outcomes/names-told`),
    enabled: open.isNew && view.mayChange,
  });
  const told = names?.names ?? [];
  const like = told.find((one) => keyOf(one) === named);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={reportBacksParts(business, 'Outcomes')}
      actions={
        view.mayChange && (
          <span className="flex gap-3">
            <a className="button" href={`/b/${business}/report-backs/subscription`}>
              Outcomes of a subscription
            </a>
            <NewRule words="New outcome" open={open} />
          </span>
        )
      }
    >
      <div className="mt-4">
        {open.isNew && told.length > 0 && <CountedThere told={told} named={named} />}
        {view.outcomes.length === 0 && !open.isNew ? (
          <p className="text-quiet">
            The first one is made with <b>New outcome</b>; what it would have counted is shown before it is live.
          </p>
        ) : (
          <RuleStation
            key={`${open.isNew} ${like ? named : ''}`}
            business={business}
            kind="outcome"
            view={view}
            label="Outcomes"
            fresh="New outcome"
            rules={view.outcomes}
            open={open}
            {...(like ? { start: outcomeNamed(like.event, like.account, like.name) } : {})}
            item={({ code, words, version }) => {
              const known = view.evidence[code];
              const times = known && known.count > 0 ? `, counted ${count(known.count)}; ` : '; ';
              const which = version > 1 ? `, version ${version}` : '';
              return { words: code, under: `${words}${which}${times}${known?.words ?? 'not live'}` };
            }}
            beside={view.beside}
            offers={{ amounts: view.amounts, crmFields: view.crmFields, paths: view.paths }}
            title={({ code }) => code}
            also={({ rule, isNew }) =>
              !isNew && <OutcomeTelling key={rule.code} business={business} view={view} outcome={rule} />
            }
            effect={({ rule }) => (
              <>
                <OutcomeEffect business={business} rule={rule} view={view} />
                <PretendHit key={rule.code} business={business} rule={rule} view={view} />
              </>
            )}
          />
        )}
        {view.counters.length > 0 && (
          <section aria-label="Counted several times" className="mt-5">
            <h2 className="text-base">Counted several times</h2>
            <ul className="mt-1 max-w-[90ch]">
              {view.counters.map(({ key, words, fix }) => (
                <li key={key} className="py-1">
                  <Words text={words} />{' '}
                  <span className="text-quiet">
                    <Words text={fix} />
                  </span>
                </li>
              ))}
            </ul>
          </section>
        )}
        {view.retired.length > 0 && (
          <section aria-label="Retired" className="mt-5">
            <h2 className="text-base">Counted no more</h2>
            <ul className="mt-1">
              {view.retired.map(({ code, count: times, since }) => (
                <li key={code} className="py-0.5">
                  <code className="value">{code}</code>, counted {count(times)}, retired{' '}
                  <Time iso={since} timeZone={view.timeZone} />
                </li>
              ))}
            </ul>
          </section>
        )}
      </div>
    </StationFrame>
  );
}

const keyOf = ({ account, event, name }: NamedThere): string => `${account} ${event} ${name}`;

/** What places of the website's own reports count, to begin an outcome with: it keeps the name that it has there. */
function CountedThere({ told, named }: { told: NamedThere[]; named: string }) {
  const [isAll, setAll] = useState(false);
  const shown = isAll ? told : told.slice(0, 6);
  return (
    <section className="sheet mb-4 px-5 py-4" aria-label="Counted elsewhere">
      <h2 className="text-base">
        {listed([...new Set(told.map(({ accountName }) => accountName))])} already counts these
      </h2>
      <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-2">
        {shown.map((one) => (
          <li key={keyOf(one)} className="flex min-w-0 items-center gap-2">
            <button
              type="button"
              className="button"
              disabled={keyOf(one) === named}
              onClick={() => goTo({ outcome: '', new: 'yes', named: keyOf(one) })}
            >
              <Words text={`Begin with \`${one.name}\``} />
            </button>
            <span className="text-quiet text-[13px]">{counted(one.times, 'time', 'times')} lately</span>
          </li>
        ))}
        {shown.length < told.length && (
          <li>
            <button type="button" className="button" onClick={() => setAll(true)}>
              All {count(told.length)}
            </button>
          </li>
        )}
      </ul>
    </section>
  );
}
