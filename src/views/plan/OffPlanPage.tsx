import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { aliasId } from '../../core/rules';
import { ruleOf, type Plan, type TagRule } from '../../core/plan';
import type { OffPlanView } from '../../core/plan/view';
import { count } from '../../core/strands';
import { Key } from '../../ui/keys/Key';
import { Live, pageRead } from '../../ui/live/Live';
import { FindField } from '../../ui/list/FindField';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Pages } from '../../ui/list/Pages';
import { useListState } from '../../ui/list/useListState';
import type { RowKeys } from '../../ui/list/useRowKeys';
import { useDraft } from '../../ui/rule/useDraft';
import { readJson, sendJson } from '../../ui/text/read';
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
  const client = useQueryClient();
  const [done, setDone] = useState<{ words: string; undo: (() => void) | null } | null>(null);
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

  const register = useMutation({
    mutationFn: ({ value }: Row) => sendJson(`/api/b/${business}/plan/campaigns/register`, { name: value }),
    onSuccess: (_, { value }) => {
      setDone({ words: `“${value}” is in the register.`, undo: null });
      return client.invalidateQueries();
    },
  });
  /** Campaigns belong in the register, once it has any; other values in their tag's plan. */
  const add = (row: Row) => (isRegistered(view, row) ? register.mutate(row) : accept(row));

  const keys: RowKeys<Row> = {
    a: (row) => row.nearest && alias(row, row.nearest),
    p: add,
    x: (row) => alias(row, ''),
  };
  const columns: Column<Row>[] = [
    {
      id: 'value',
      head: 'Value',
      by: true,
      className: 'whitespace-nowrap',
      cell: ({ value, tag }) => (
        <>
          <code className="value font-semibold">{value}</code>
          <code className="value text-quiet block text-[12px]">{tag}</code>
        </>
      ),
    },
    { id: 'problems', head: 'What is wrong', className: 'max-w-72', cell: ({ problems }) => problems.join(', ') },
    {
      id: 'host',
      head: 'Came from',
      cell: ({ host, campaign, tag }) => (
        <>
          {host || <span className="text-quiet">no referrer</span>}
          {campaign && tag !== 'utm_campaign' && <code className="value text-quiet block text-[12px]">{campaign}</code>}
        </>
      ),
    },
    {
      id: 'arrivals',
      head: 'Arrived',
      by: true,
      right: true,
      cell: ({ arrivals }) => count(arrivals),
    },
    {
      id: 'lastAt',
      head: 'Last',
      by: true,
      cell: ({ lastAt }) => <Time iso={new Date(lastAt).toISOString()} timeZone={view.timeZone} />,
    },
    {
      id: 'decide',
      head: 'What it should be',
      cell: (row) => (
        <Decide
          row={row}
          view={view}
          busy={draft.put.isPending || draft.revise.isPending || register.isPending}
          onAlias={alias}
          onAccept={add}
        />
      ),
    },
  ];
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
        {(draft.problem ?? register.error) ? (
          <span className="text-error">{draft.problem ?? register.error?.message}</span>
        ) : done ? (
          <>
            {done.words}{' '}
            {done.undo && (
              <>
                It is in the draft, not live yet.{' '}
                <button type="button" className="quiet-link cursor-pointer" onClick={done.undo}>
                  Undo
                </button>
              </>
            )}
          </>
        ) : (
          view.rows.length > 0 &&
          view.mayChange && (
            <span className="text-quiet">
              <Key k="j" /> <Key k="k" /> move, <Key k="a" /> count it as the planned value, <Key k="p" /> add it to the
              plan, <Key k="x" /> ignore it
            </span>
          )
        )}
      </p>
      <DataTable
        label="Off plan"
        rows={view.rows}
        idOf={({ tag, value }) => `${tag} ${value}`}
        columns={columns}
        sorted={{
          by: state.sort,
          descending: state.descending,
          onSort: ({ by, descending }) => change({ sort: by, descending, page: 1 }),
        }}
        found={state.find}
        {...(view.mayChange ? { keys } : {})}
        none="Nothing that arrived is off plan."
        isBusy={isPlaceholderData}
      />
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
      {view.plan.aliases.length > 0 && <Aliases business={business} view={view} />}
    </PlanFrame>
  );
}

/** Whether a value is a campaign that belongs in the register: it has some. */
const isRegistered = ({ campaigns, plan }: OffPlanView, { tag }: Row): boolean =>
  campaigns.length > 0 && ruleOf(plan, tag)?.named === true;

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
  const inRegister = isRegistered(view, row);
  const known = [...rule.values.map(({ value }) => value), ...(inRegister ? view.campaigns : [])];
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
        {row.nearest && !known.includes(row.nearest) && <option value={row.nearest}>{row.nearest}</option>}
        {known.map((value) => (
          <option key={value} value={value}>
            {value}
          </option>
        ))}
      </select>
      <button
        type="button"
        className="button"
        disabled={busy || means === ''}
        title={means === '' ? 'Pick the planned value that it means.' : undefined}
        onClick={() => onAlias(row, means)}
      >
        Count as this
      </button>
      <button type="button" className="button" disabled={busy} onClick={() => onAccept(row)}>
        {inRegister ? 'Add to register' : 'Add to plan'}
      </button>
      <button type="button" className="button" disabled={busy} onClick={() => onAlias(row, '')}>
        Ignore
      </button>
    </span>
  );
}

/** Values that are read as another, or left, by the draft. */
function Aliases({ business, view }: { business: string; view: OffPlanView }) {
  const draft = useDraft(business);
  const ids = new Set(view.changed.filter(({ kind }) => kind === 'alias').map(({ id }) => id));
  const columns: Column<Plan['aliases'][number]>[] = [
    {
      id: 'value',
      head: 'Value',
      by: ({ value }) => value,
      cell: ({ value, tag }) => (
        <>
          <code className="value">{value}</code> <span className="text-quiet">in {tag}</span>
        </>
      ),
    },
    {
      id: 'means',
      head: 'Counts as',
      by: ({ means }) => means,
      cell: ({ means }) => (means ? <code className="value">{means}</code> : 'ignored'),
    },
    {
      id: 'state',
      head: 'State',
      cell: (alias) => <span className="text-quiet">{ids.has(aliasId(alias)) ? 'not live yet' : 'live'}</span>,
    },
    {
      id: 'do',
      head: 'What to do',
      isHeadHidden: true,
      className: 'text-right',
      cell: (alias) =>
        view.mayChange && (
          <button
            type="button"
            className="button"
            onClick={() => draft.put.mutate([{ kind: 'alias', id: aliasId(alias), value: null }])}
          >
            Take it back
          </button>
        ),
    },
  ];
  return (
    <section className="mt-6" aria-label="Aliases">
      <h2 className="text-base">Values that count as another, or are ignored</h2>
      <div className="mt-2">
        <DataTable rows={view.plan.aliases} idOf={aliasId} columns={columns} none="Nothing is." />
      </div>
    </section>
  );
}
