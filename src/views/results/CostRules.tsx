import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import type { CostView, FeeGiven, RateGiven } from '../../core/results/cost-view';
import { Problem } from '../../ui/form/Problem';
import { useWritten } from '../../ui/form/useWritten';
import { sendJson } from '../../ui/text/read';
import { dayWords } from '../../ui/text/time';
import { CostPlaces } from './CostPlaces';
import { TakenOut, TakeOut, useTakenOut } from './TakenOut';

/** Exchange rates and fees by which cost is counted. */
export function CostRules({ api, view }: { api: string; view: CostView }) {
  const { rates, fees, accounts, currency, mayChange, range } = view;
  if (rates.length + fees.length === 0 && !mayChange) return null;
  return (
    <div className="mt-5 mb-4 grid grid-cols-1 gap-5 lg:grid-cols-2">
      <Kept
        api={`${api}/rates`}
        title="Exchange rates"
        none={`Cost in ${currency} needs none.`}
        items={rates.map((rate) => ({
          id: rate.id,
          words: `1 ${rate.currency} is ${rate.rate} ${currency} from ${dayWords(rate.day)}`,
        }))}
        add="Add a rate"
        fresh={(): RateGiven => ({ currency: '', day: range.firstDay, rate: '' })}
        mayChange={mayChange}
        fields={(given, set) => (
          <>
            <Text
              label="Currency"
              width="w-20"
              value={given.currency}
              placeholder="USD"
              onChange={(value) => set({ ...given, currency: value.toUpperCase() })}
            />
            <span>is</span>
            <Text
              label={`In ${currency}`}
              width="w-24"
              value={given.rate}
              placeholder="0.79"
              onChange={(rate) => set({ ...given, rate })}
            />
            <span>{currency} from</span>
            <Day label="From" value={given.day} onChange={(day) => set({ ...given, day })} />
          </>
        )}
      />
      <Kept
        api={`${api}/fees`}
        title="Fees"
        none="Nothing is added to what accounts report."
        items={fees.map(({ id, accountName, percent, firstDay, lastDay }) => ({
          id,
          words: `${percent} % on ${accountName} from ${dayWords(firstDay)}${lastDay ? ` to ${dayWords(lastDay)}` : ''}`,
        }))}
        add="Add a fee"
        fresh={(): FeeGiven => ({
          account: accounts[0]?.key ?? '',
          percent: '',
          firstDay: range.firstDay,
          lastDay: '',
        })}
        mayChange={mayChange && accounts.length > 0}
        fields={(given, set) => (
          <>
            <Text
              label="Percent"
              width="w-20"
              value={given.percent}
              placeholder="12.5"
              onChange={(percent) => set({ ...given, percent })}
            />
            <span>% on</span>
            <select
              className="field w-auto"
              aria-label="Account of the fee"
              value={given.account}
              onChange={({ target }) => set({ ...given, account: target.value })}
            >
              <CostPlaces accounts={accounts} />
            </select>
            <span>from</span>
            <Day label="First day" value={given.firstDay} onChange={(firstDay) => set({ ...given, firstDay })} />
            <span>to</span>
            <Day
              label="Last day, blank: until further notice"
              value={given.lastDay}
              isOptional
              onChange={(lastDay) => set({ ...given, lastDay })}
            />
          </>
        )}
      />
    </div>
  );
}

interface Item {
  id: string;
  words: string;
}

/** What is kept under a heading: listed, taken out with a way back, and added to. */
function Kept<Given extends object>({
  api,
  title,
  none,
  items,
  add,
  fresh,
  mayChange,
  fields,
}: {
  api: string;
  title: string;
  none: string;
  items: Item[];
  add: string;
  fresh: () => Given;
  mayChange: boolean;
  fields: (given: Given, set: (next: Given) => void) => ReactNode;
}) {
  const client = useQueryClient();
  const again = () => client.invalidateQueries();
  const { value: given, set } = useWritten<Given | null>(api, null, (one) => one === null);
  const out = useTakenOut<Item, void>(api, again);
  const [isSaved, setSaved] = useState(false);
  const save = useMutation({
    mutationFn: (next: Given) => sendJson(api, next),
    onSuccess: async () => {
      set(null);
      setSaved(true);
      await again();
    },
  });
  return (
    <section aria-label={title}>
      <h2 className="font-semibold">{title}</h2>
      {items.length === 0 && <p className="text-quiet text-[13px]">{none}</p>}
      <ul>
        {items.map((item) => (
          <li key={item.id}>
            {item.words}
            {mayChange && <TakeOut label={`Take out: ${item.words}`} onPress={() => out.takeOut(item)} />}
          </li>
        ))}
      </ul>
      {out.gone && <TakenOut words={`“${out.gone.words}”`} onUndo={out.undo} />}
      {mayChange &&
        (given === null ? (
          <button type="button" className="part part-more" onClick={() => set(fresh())}>
            {add}
          </button>
        ) : (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              save.mutate(given);
            }}
          >
            {fields(given, set)}
            <button className="button button-strong" disabled={save.isPending}>
              Save
            </button>
            <button type="button" className="quiet-link cursor-pointer" onClick={() => set(null)}>
              Cancel
            </button>
          </form>
        ))}
      {isSaved && given === null && !out.gone && (
        <span role="status" className="sr-only">
          Saved
        </span>
      )}
      <Problem text={save.error?.message ?? out.problem} />
    </section>
  );
}

function Text({
  label,
  width,
  value,
  placeholder,
  onChange,
}: {
  label: string;
  width: string;
  value: string;
  placeholder: string;
  onChange: (value: string) => void;
}) {
  return (
    <input
      className={`field ${width}`}
      aria-label={label}
      placeholder={placeholder}
      required
      value={value}
      onChange={({ target }) => onChange(target.value)}
    />
  );
}

function Day({
  label,
  value,
  isOptional = false,
  onChange,
}: {
  label: string;
  value: string;
  isOptional?: boolean;
  onChange: (value: string) => void;
}) {
  return (
    <input
      type="date"
      className="field w-auto"
      aria-label={label}
      required={!isOptional}
      value={value}
      onChange={({ target }) => onChange(target.value)}
    />
  );
}
