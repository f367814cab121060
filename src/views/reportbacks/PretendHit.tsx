import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import type { TryView } from '../../core/connections/view';
import { askedOfPretend } from '../../core/outcomes/pretend';
import type { OutcomeRule, PretendGiven } from '../../core/outcomes/schema';
import type { OutcomesView, PretendView } from '../../core/outcomes/view';
import { platformName } from '../../core/platforms/links';
import { useFocusFirst } from '../../ui/form/useFocusFirst';
import { useWritten } from '../../ui/form/useWritten';
import { useSettled } from '../../ui/rule/useSettled';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';
import { Result } from '../connections/TryBox';

/** Tries an outcome out by one pretend hit, which is counted nowhere: what it would be worth, and who would be told what. */
export function PretendHit({ business, rule, view }: { business: string; rule: OutcomeRule; view: OutcomesView }) {
  const { value: typed, set } = useWritten<Typed | null>(
    `${business} pretend hit ${rule.code}`,
    null,
    (written) => written === null,
  );
  if (typed === null)
    return (
      <p>
        <button type="button" className="button" onClick={() => set({})}>
          Try one pretend hit
        </button>
      </p>
    );
  return <Pretend business={business} rule={rule} view={view} typed={typed} setTyped={set} />;
}

/** What somebody wrote of it, as it is written; the rest is as the outcome's rule suggests it. */
interface Typed extends Partial<Pick<PretendGiven, 'what' | 'reads' | 'amount' | 'platform'>> {
  clickDays?: string;
}

function Pretend({
  business,
  rule,
  view,
  typed,
  setTyped,
}: {
  business: string;
  rule: OutcomeRule;
  view: OutcomesView;
  typed: Typed;
  setTyped: (typed: Typed | null) => void;
}) {
  const api = `/api/b/${business}/outcomes/pretend`;
  const sheet = useFocusFirst<HTMLElement>(Object.keys(typed).length === 0);
  const asked = askedOfPretend(rule);
  const kinds = [...new Set(view.telling.flatMap((one) => (one.outcome === rule.code ? one.platform : [])))];
  const clickDays = typed.clickDays ?? '3';
  const given: PretendGiven = {
    outcome: { ...rule, code: rule.code || 'NEW-ONE', words: rule.words || 'new' },
    what: typed.what ?? asked.what?.value ?? '',
    reads: { ...Object.fromEntries(asked.reads.map(({ reading, value }) => [reading, value])), ...typed.reads },
    amount: typed.amount ?? (asked.amount === '' ? '' : '100.00'),
    currency: view.currency,
    platform: typed.platform ?? kinds[0] ?? '',
    clickDays: clickDays.trim() === '' ? NaN : Number(clickDays),
  };
  const settled = useSettled(given);
  const { data, error } = useQuery({
    queryKey: [api, settled],
    queryFn: () => sendJson<PretendView>(api, settled),
    placeholderData: keepPreviousData,
    retry: false,
  });
  const ask = useMutation({
    mutationFn: (account: string) => sendJson<TryView>(`${api}/ask`, { ...given, account }),
  });
  const edit = (part: Typed) => {
    ask.reset();
    setTyped({ ...typed, ...part });
  };
  return (
    <section ref={sheet} className="sheet p-4" aria-label="Pretend hit">
      <div className="flex items-start justify-between gap-3">
        <h2 className="text-base">Try one pretend hit</h2>
        <button type="button" className="quiet-link cursor-pointer" onClick={() => setTyped(null)}>
          Close
        </button>
      </div>
      <p className="text-quiet mt-1 text-[13px]">Nothing of it is counted, here or at a platform.</p>
      <div className="mt-3 space-y-2">
        {asked.what && <Asked words={asked.what.words} value={given.what} onChange={(what) => edit({ what })} />}
        {asked.reads.map(({ reading }) => (
          <Asked
            key={reading}
            words={reading}
            value={given.reads[reading] ?? ''}
            onChange={(value) => edit({ reads: { ...typed.reads, [reading]: value } })}
          />
        ))}
        {asked.amount !== '' && (
          <Asked
            words={`${asked.amount}, in ${view.currency}`}
            value={given.amount}
            onChange={(amount) => edit({ amount })}
          />
        )}
        <label className="flex items-center justify-between gap-3">
          <span className="text-quiet">By a click of</span>
          <select
            className="field w-40"
            value={given.platform}
            onChange={(event) => edit({ platform: event.target.value })}
          >
            {kinds.map((kind) => (
              <option key={kind} value={kind}>
                {platformName(kind, view.beside.platforms)}
              </option>
            ))}
            <option value="">none</option>
          </select>
        </label>
        <Asked words="Days before it" value={clickDays} onChange={(days) => edit({ clickDays: days })} />
      </div>
      <div className="border-base-300 mt-3 border-t pt-3" aria-live="polite">
        {error instanceof ApiProblem && (
          <p className="text-error">
            <Words text={error.fields[0]?.was ?? error.message} />
          </p>
        )}
        {data && <Outcome data={data} canAsk={view.mayChange} isAsking={ask.isPending} onAsk={ask.mutate} />}
        {ask.error && (
          <p role="alert" className="text-error mt-2">
            <Words text={ask.error.message} />
          </p>
        )}
        {ask.data && <Result tried={ask.data} />}
      </div>
    </section>
  );
}

function Outcome({
  data: { isReached, worth, tellings },
  canAsk,
  isAsking,
  onAsk,
}: {
  data: PretendView;
  canAsk: boolean;
  isAsking: boolean;
  onAsk: (account: string) => void;
}) {
  if (!isReached) return <p className="text-error">This does not reach it.</p>;
  return (
    <>
      <p className="font-semibold">It is counted{worth && `, worth ${worth}`}.</p>
      {tellings.length === 0 && <p className="text-quiet mt-1">No platform is told of it.</p>}
      <ul className="mt-1 space-y-2">
        {tellings.map(({ account, name, text, canTest }) => (
          <li key={account}>
            <Words text={text} />
            {canTest && canAsk && (
              <button type="button" className="button mt-1 block" disabled={isAsking} onClick={() => onAsk(account)}>
                Ask {name} as a test
              </button>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}

function Asked({ words, value, onChange }: { words: string; value: string; onChange: (value: string) => void }) {
  return (
    <label className="flex items-center justify-between gap-3">
      <span className="text-quiet min-w-0 [overflow-wrap:anywhere]">{words}</span>
      <input
        className="field value w-40"
        value={value}
        spellCheck={false}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}
