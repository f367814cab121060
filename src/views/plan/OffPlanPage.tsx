import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { aliasId } from '../../core/rules';
import type { TagRule } from '../../core/plan';
import type { OffPlanView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { Key } from '../../ui/keys/Key';
import { isPlainKey } from '../../ui/keys/plain-key';
import { Live, pageRead } from '../../ui/live/Live';
import { FindField } from '../../ui/list/FindField';
import { NoRows } from '../../ui/list/NoRows';
import { Pages } from '../../ui/list/Pages';
import { SortHead } from '../../ui/list/SortHead';
import { useListState } from '../../ui/list/useListState';
import { useRowKeys } from '../../ui/list/useRowKeys';
import { useDraft } from '../../ui/rule/useDraft';
import { readJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { PlanFrame } from './PlanFrame';

interface Props {
  business: string;
  initial: OffPlanView;
  /** Query of the page at its first drawing. */
  search: string;
}
type Row = OffPlanView['rows'][number];

/** Values that arrived off plan: taken into the plan, read as another value, or left, each by one key. */
export function OffPlanPage(props: Props) {
  return (
    <Live>
      <OffPlan {...props} />
    </Live>
  );
}

function OffPlan({ business, initial, search }: Props) {
  const api = `/api/b/${business}/plan/off-plan`;
  const [state, change] = useListState(search, 'arrivals');
  const { data: view = initial, isPlaceholderData } = useQuery({
    queryKey: [api, state.query],
    queryFn: () => readJson<OffPlanView>(`${api}?${state.query}`),
    ...(state.query === new URLSearchParams(search).toString() ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    meta: pageRead,
  });
  const draft = useDraft(business);
  const [done, setDone] = useState<{ words: string; undo: () => void } | null>(null);
  const selected = useRowKeys(view.rows.length, () => undefined);

  const alias = (row: Row, means: string) => {
    const name = { kind: 'alias', id: aliasId(row) } as const;
    const value = { tag: row.tag, value: row.value, means };
    const words = means ? `“${row.value}” is read as “${means}”.` : `“${row.value}” is left as it is.`;
    const undo = () => draft.put.mutate([{ ...name, value: null, from: value }], { onSuccess: () => setDone(null) });
    draft.put.mutate([{ ...name, value }], { onSuccess: () => setDone({ words, undo }) });
  };
  /** Takes one value into a tag's plan, whatever else others take in or out meanwhile; so does Undo. */
  const accept = (row: Row) => {
    const rule = view.plan.tags.find(({ tag }) => tag === row.tag)!;
    const name = { kind: 'tag', id: rule.tag } as const;
    const without = (values: TagRule['values']) => values.filter(({ value }) => value !== row.value);
    const taken = (tag: TagRule): TagRule => ({
      ...tag,
      values: [...without(tag.values), { value: row.value, label: '' }],
    });
    const words = `“${row.value}” is a planned value.`;
    const undo = () =>
      draft.revise.mutate(
        { name, from: taken(rule), make: (tag) => ({ ...(tag as TagRule), values: without((tag as TagRule).values) }) },
        { onSuccess: () => setDone(null) },
      );
    draft.revise.mutate(
      { name, from: rule, make: (tag) => taken(tag as TagRule) },
      { onSuccess: () => setDone({ words, undo }) },
    );
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const row = selected === null ? undefined : view.rows[selected];
      if (!row || !view.mayChange || !isPlainKey(event)) return;
      if (event.key === 'a' && row.nearest) alias(row, row.nearest);
      else if (event.key === 'p') accept(row);
      else if (event.key === 'x') alias(row, '');
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });

  const sort = {
    sorting: { by: state.sort, descending: state.descending },
    onSort: (by: string) =>
      change({ sort: by, descending: state.sort === by ? !state.descending : by !== 'value', page: 1 }),
  };
  return (
    <PlanFrame
      business={business}
      section="Off plan"
      sentence={view.sentence}
      offPlan={view.offPlan}
      actions={
        <FindField
          what="Value or tag"
          value={state.find}
          width="w-[220px]"
          onFind={(find) => change({ find, page: 1 })}
        />
      }
    >
      <p className="mb-3 min-h-6" role="status">
        {draft.problem ? (
          <span className="text-error">{draft.problem}</span>
        ) : done ? (
          <>
            {done.words} It is in the draft, not live yet.{' '}
            <button type="button" className="quiet-link cursor-pointer" onClick={done.undo}>
              Undo
            </button>
          </>
        ) : (
          view.rows.length > 0 &&
          view.mayChange && (
            <span className="text-quiet">
              <Key k="j" /> <Key k="k" /> move, <Key k="a" /> read it as the planned value, <Key k="p" /> take it into
              the plan, <Key k="x" /> leave it
            </span>
          )
        )}
      </p>
      <div className={`sheet overflow-x-auto ${isPlaceholderData ? 'opacity-60' : ''}`} aria-busy={isPlaceholderData}>
        <table className="rows">
          <thead>
            <tr>
              <SortHead words="Value" column="value" {...sort} />
              <th scope="col">What is wrong</th>
              <th scope="col">Came from</th>
              <SortHead words="Arrived" column="arrivals" right {...sort} />
              <SortHead words="Last" column="lastAt" {...sort} />
              <th scope="col">What it should be</th>
            </tr>
          </thead>
          <tbody>
            {view.rows.map((row, index) => (
              <tr key={`${row.tag} ${row.value}`} aria-selected={selected === index} data-row={index}>
                <td>
                  <code className="value font-semibold">{row.value}</code>
                  <code className="value text-quiet block text-[12px]">{row.tag}</code>
                </td>
                <td className="max-w-72">{row.problems.join(', ')}</td>
                <td>
                  {row.host || <span className="text-quiet">no referrer</span>}
                  {row.campaign && row.tag !== 'utm_campaign' && (
                    <code className="value text-quiet block text-[12px]">{row.campaign}</code>
                  )}
                </td>
                <td className="text-right tabular-nums">{count(row.arrivals)}</td>
                <td>
                  <Time iso={new Date(row.lastAt).toISOString()} timeZone={view.timeZone} />
                </td>
                <td>
                  <Decide
                    row={row}
                    view={view}
                    busy={draft.put.isPending || draft.revise.isPending}
                    onAlias={alias}
                    onAccept={accept}
                  />
                </td>
              </tr>
            ))}
            {view.rows.length === 0 && (
              <NoRows columns={6} find={state.find}>
                Nothing that arrived is off plan.
              </NoRows>
            )}
          </tbody>
        </table>
      </div>
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
      {view.plan.aliases.length > 0 && <Aliases business={business} view={view} />}
    </PlanFrame>
  );
}

function Decide({
  row,
  view,
  busy,
  onAlias,
  onAccept,
}: {
  row: Row;
  view: OffPlanView;
  busy: boolean;
  onAlias: (row: Row, means: string) => void;
  onAccept: (row: Row) => void;
}) {
  const rule = view.plan.tags.find(({ tag }) => tag === row.tag)!;
  const [means, setMeans] = useState(row.nearest ?? '');
  if (!view.mayChange) return row.nearest ? <code className="value">{row.nearest}</code> : 'nothing is near';
  return (
    <span className="flex items-center gap-2 whitespace-nowrap">
      <select
        className="field value w-44"
        aria-label={`What ${row.value} should be`}
        value={means}
        onChange={(event) => setMeans(event.target.value)}
      >
        <option value="">nothing is near</option>
        {row.nearest && !rule.values.some(({ value }) => value === row.nearest) && (
          <option value={row.nearest}>{row.nearest}</option>
        )}
        {rule.values.map(({ value }) => (
          <option key={value} value={value}>
            {value}
          </option>
        ))}
      </select>
      <button type="button" className="button" disabled={busy || means === ''} onClick={() => onAlias(row, means)}>
        Read it so
      </button>
      <button type="button" className="button" disabled={busy} onClick={() => onAccept(row)}>
        Plan it
      </button>
      <button type="button" className="button" disabled={busy} onClick={() => onAlias(row, '')}>
        Leave it
      </button>
    </span>
  );
}

/** Values that are read as another, or left, by the draft. */
function Aliases({ business, view }: { business: string; view: OffPlanView }) {
  const draft = useDraft(business);
  const ids = new Set(view.changed.filter(({ kind }) => kind === 'alias').map(({ id }) => id));
  return (
    <section className="mt-6" aria-label="Aliases">
      <h2 className="text-base">What is read as something else</h2>
      <div className="sheet mt-2">
        <table className="rows">
          <tbody>
            {view.plan.aliases.map((one) => (
              <tr key={aliasId(one)}>
                <td>
                  <code className="value">{one.value}</code> <span className="text-quiet">in {one.tag}</span>
                </td>
                <td>
                  {one.means ? (
                    <>
                      is read as <code className="value">{one.means}</code>
                    </>
                  ) : (
                    'is left as it is'
                  )}
                </td>
                <td className="text-quiet">{ids.has(aliasId(one)) ? 'not live yet' : 'live'}</td>
                <td className="text-right">
                  {view.mayChange && (
                    <button
                      type="button"
                      className="button"
                      onClick={() => draft.put.mutate([{ kind: 'alias', id: aliasId(one), value: null }])}
                    >
                      Take it back
                    </button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
