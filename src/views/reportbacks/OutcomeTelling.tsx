import { useState } from 'react';
import { faceOf } from '../../core/destinations/faces';
import { takesGoals } from '../../core/outcomes/goals';
import type { OutcomeRule } from '../../core/outcomes/schema';
import { startTelling } from '../../core/outcomes/subscription';
import type { OutcomesView } from '../../core/outcomes/view';
import type { WayInKind } from '../../core/strands';
import { RuleSheet } from '../../ui/rule/RuleSheet';

interface Props {
  business: string;
  view: OutcomesView;
  outcome: OutcomeRule;
}

/** Who is told of an outcome, each a sentence; and whether it is the Qualified of a way in. */
export function OutcomeTelling({ business, view, outcome }: Props) {
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
function Goals({ business, view, outcome }: Props) {
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
function Ladder({ business, view, outcome }: Props) {
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
