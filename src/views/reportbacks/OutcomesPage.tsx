import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { OutcomeEffectView, OutcomesView } from '../../core/outcomes/view';
import type { OutcomeRule } from '../../core/outcomes/schema';
import { faceOf } from '../../core/destinations/faces';
import { listed } from '../../core/listed';
import { outcomeNamed, takesGoals } from '../../core/outcomes/goals';
import { startTelling } from '../../core/outcomes/subscription';
import { count, counted, type WayInKind } from '../../core/strands';
import { goTo, useAddressPart } from '../../ui/address/useAddressPart';
import { useOpen } from '../../ui/address/useOpen';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Words } from '../../ui/text/Words';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import { useSettled } from '../../ui/rule/useSettled';
import { useDraftWatch } from '../../ui/rule/useDraftWatch';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
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
  const like = view.counted.find((one) => keyOf(one) === named);
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
        {open.isNew && view.mayChange && <CountedThere view={view} named={named} />}
        {view.outcomes.length === 0 && !open.isNew ? (
          <p className="text-quiet">
            The first one is made with <b>New outcome</b>; what it would have counted is shown before it is live.
          </p>
        ) : (
          <RuleStation
            key={`${open.isNew} ${named}`}
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
              !isNew && <Telling key={rule.code} business={business} view={view} outcome={rule} />
            }
            effect={({ rule }) => (
              <>
                <Effect business={business} rule={rule} view={view} />
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

const keyOf = ({ account, event, name }: OutcomesView['counted'][number]): string => `${account} ${event} ${name}`;

/** What places of the website's own reports count, to begin an outcome with: it keeps the name that it has there. */
function CountedThere({ view, named }: { view: OutcomesView; named: string }) {
  const [isAll, setAll] = useState(false);
  if (view.counted.length === 0) return null;
  const shown = isAll ? view.counted : view.counted.slice(0, 6);
  return (
    <section className="sheet mb-4 px-5 py-4" aria-label="Counted elsewhere">
      <h2 className="text-base">
        {listed([...new Set(view.counted.map(({ accountName }) => accountName))])} already counts these
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
        {shown.length < view.counted.length && (
          <li>
            <button type="button" className="button" onClick={() => setAll(true)}>
              All {count(view.counted.length)}
            </button>
          </li>
        )}
      </ul>
    </section>
  );
}

function Effect({ business, rule, view }: { business: string; rule: OutcomeRule; view: OutcomesView }) {
  const api = `/api/b/${business}/outcomes/effect`;
  const asked = useSettled(rule);
  // A code and a name change nothing of what is counted, and may be missing while it is written.
  const tried = { ...asked, code: asked.code || 'NEW-ONE', words: asked.words || 'new' };
  const { data, error } = useQuery({
    queryKey: [api, tried],
    queryFn: () => sendJson<OutcomeEffectView>(api, tried),
    placeholderData: keepPreviousData,
    retry: false,
  });
  if (error instanceof ApiProblem)
    return <EffectSheet heading="Not complete yet" under={<Words text={error.fields[0]?.was ?? error.message} />} />;
  if (!data) return <EffectSheet heading={null} />;
  return (
    <EffectSheet
      heading={`In ${data.weeks} weeks it would have counted ${count(data.written)}`}
      under={
        <>
          of {counted(data.of, ...subjectsOf[rule.reachedBy.kind])}, staff and bots aside
          {data.live !== data.written && data.live > 0 && <>; the live version counts {count(data.live)}</>}
          {data.worth !== null && data.worth.length > 0 && <>, worth {data.worth.join(' and ')}</>}.
        </>
      }
    >
      {data.withoutAmount > 0 && (
        <p className="text-error mt-2">
          {counted(data.withoutAmount, 'of them lacks', 'of them lack')} the amount: no worth is told.
        </p>
      )}
      {data.clicks.length > 0 && (
        <ul className="mt-2">
          {data.clicks.map((one) => (
            <li key={one.platform}>
              {count(one.count)} came by a click of {one.words}
            </li>
          ))}
        </ul>
      )}
      {data.told.length > 0 && (
        <ul className="mt-2">
          {data.told.map((one) => (
            <li key={one.account}>
              {one.name} would be told of {count(one.times)}
              {one.worth !== null && one.worth.length > 0 && <>, worth {one.worth.join(' and ')}</>}
              {one.tooOld > 0 && (
                <span className="text-quiet">
                  ; {counted(one.tooOld, 'click is', 'clicks are')} {count(one.limitDays)} days old or older
                </span>
              )}
            </li>
          ))}
        </ul>
      )}
      {data.newest.length > 0 && (
        <table className="rows mt-3">
          <tbody>
            {data.newest.map(({ id, words, href, at, worth }) => (
              <tr key={id}>
                <td className="px-0!">
                  {href ? (
                    <a className="quiet-link" href={`/b/${business}${href}`}>
                      {words}
                    </a>
                  ) : (
                    words
                  )}
                  <span className="text-quiet block text-[12.5px]">
                    <Time iso={at} timeZone={view.timeZone} />
                  </span>
                </td>
                <td className="px-0! text-right align-top whitespace-nowrap">{worth}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </EffectSheet>
  );
}

/** Who is told of an outcome, each a sentence; and whether it is the Qualified of a way in. */
function Telling({ business, view, outcome }: { business: string; view: OutcomesView; outcome: OutcomeRule }) {
  const [adding, setAdding] = useState<string | null>(null);
  const own = view.telling.filter((rule) => rule.outcome === outcome.code);
  const platforms = view.beside.accounts.filter(({ does }) => does === 'platform');
  const others = platforms.filter(({ key }) => !own.some(({ account }) => account === key));
  const added = others.find(({ key }) => key === adding);
  const common = { business, view, beside: view.beside };
  const wayIn = wayInOf(outcome);
  const qualified = view.qualified.find(({ way }) => way === wayIn) ?? null;
  return (
    <div className="flex flex-col gap-4">
      {own.map((rule) => (
        <RuleSheet {...common} key={rule.account} kind="telling" label={`Telling ${rule.account}`} stored={rule} />
      ))}
      {added && (
        <RuleSheet
          {...common}
          key={added.key}
          kind="telling"
          label={`Telling ${added.key}`}
          stored={null}
          start={startTelling(outcome, added)}
          onKept={() => setAdding(null)}
        />
      )}
      {view.mayChange && !added && others.length > 0 && (
        <p className="flex flex-wrap gap-2">
          {others.map(({ key, name }) => (
            <button key={key} type="button" className="button" onClick={() => setAdding(key)}>
              Tell {name} of it
            </button>
          ))}
        </p>
      )}
      {platforms.length === 0 && view.mayChange && (
        <p className="text-quiet">
          No platform is connected that could be told of it.{' '}
          <a className="quiet-link" href={`/b/${business}/connections?new=yes`}>
            Connect a platform
          </a>
        </p>
      )}
      <Goals business={business} view={view} outcome={outcome} />
      <Ladder business={business} view={view} outcome={outcome} />
      {(qualified !== null || view.mayChange) && (
        <RuleSheet
          {...common}
          kind="qualified"
          label="Qualified"
          stored={qualified}
          start={{ way: wayIn, outcome: outcome.code }}
        />
      )}
    </div>
  );
}

/** The places of the website's own reports that count an outcome as a goal, and those that could. */
function Goals({ business, view, outcome }: { business: string; view: OutcomesView; outcome: OutcomeRule }) {
  const [adding, setAdding] = useState<string | null>(null);
  const own = view.goals.filter((rule) => rule.outcome === outcome.code);
  const { accounts, platforms } = view.beside;
  const others = accounts.filter(({ key, kind }) => {
    const face = faceOf(kind, platforms);
    return face !== null && takesGoals(face) && !own.some(({ account }) => account === key);
  });
  const added = others.find(({ key }) => key === adding);
  const common = { business, view, beside: view.beside, kind: 'goal' as const };
  return (
    <>
      {own.map((rule) => (
        <RuleSheet {...common} key={rule.account} label={`Goal at ${rule.account}`} stored={rule} />
      ))}
      {added && (
        <RuleSheet
          {...common}
          label={`Goal at ${added.key}`}
          stored={null}
          start={{ outcome: outcome.code, account: added.key, kind: added.kind, purpose: 'measurement' }}
          onKept={() => setAdding(null)}
        />
      )}
      {view.mayChange && !added && others.length > 0 && (
        <p className="flex flex-wrap gap-2">
          {others.map(({ key, name }) => (
            <button key={key} type="button" className="button" onClick={() => setAdding(key)}>
              Offer it to {name} as a goal
            </button>
          ))}
        </p>
      )}
    </>
  );
}

/** The ladder that an outcome is on; or the way to put it on one, where there is another outcome to go with it. */
function Ladder({ business, view, outcome }: { business: string; view: OutcomesView; outcome: OutcomeRule }) {
  const [isAdding, setAdding] = useState(false);
  const own = view.ladders.find(({ steps }) => steps.includes(outcome.code));
  const common = { business, view, beside: view.beside, kind: 'ladder' as const };
  if (own) return <RuleSheet {...common} label={`Ladder ${own.name}`} stored={own} />;
  if (!view.mayChange || view.outcomes.length < 2) return null;
  if (!isAdding)
    return (
      <p>
        <button type="button" className="button" onClick={() => setAdding(true)}>
          Put it on a ladder
        </button>
      </p>
    );
  return (
    <RuleSheet
      {...common}
      label="New ladder"
      stored={null}
      start={{ name: '', steps: [outcome.code], tells: 'what it adds' }}
      onKept={() => setAdding(false)}
    />
  );
}

/** The way in on whose line an outcome stands first. */
function wayInOf({ reachedBy: { kind }, countedOnceFor }: OutcomeRule): WayInKind {
  if (kind === 'stage' || kind === 'field') return 'form';
  if (kind === 'event' || kind === 'page' || kind === 'file') return 'conversion';
  return kind === 'order' || countedOnceFor === 'order' ? 'order' : 'subscription';
}

const subjectsOf: Record<OutcomeRule['reachedBy']['kind'], [one: string, many: string]> = {
  stage: ['record', 'records'],
  order: ['order', 'orders'],
  postback: ['order or subscription', 'orders and subscriptions'],
  field: ['record', 'records'],
  event: ['time it went off', 'times it went off'],
  page: ['time it was reached', 'times it was reached'],
  file: ['row of a file', 'rows of files'],
};
