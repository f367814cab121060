import { useState } from 'react';
import { reportBackActs } from '../../core/reportbacks/acts';
import { reportBackStates } from '../../core/reportbacks/answers';
import type { QueueGroup, QueueRow, QueueView } from '../../core/reportbacks/queue-view';
import { count, counted } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { LiveList } from '../../ui/list/ListPage';
import { Live } from '../../ui/live/Live';
import { LeadingSelect } from '../../ui/pick/LeadingSelect';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { Acts } from './Acts';
import { HeldAsOne } from './HeldAsOne';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: QueueView;
  search: string;
  seesPeople: boolean;
}

/** What platforms are told: what waits, is held, told or refused, why, and what people do about it. */
export function QueuePage(props: Props) {
  return (
    <Live>
      <Queue {...props} />
    </Live>
  );
}

function Queue({ business, initial, search, seesPeople }: Props) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  /** All of a list as it was when it was chosen: what is found since is another one. */
  const [all, setAll] = useState<{ list: Record<string, string>; many: number } | null>(null);
  const toggle = (id: string) => {
    setAll(null);
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    setChosen(next);
  };
  const clear = () => {
    setChosen(new Set());
    setAll(null);
  };
  const hrefOf = ({ id }: QueueRow) => `/b/${business}/report-backs/queue/${id}`;
  const columns = (timeZone: string): Column<QueueRow>[] => [
    ...(initial.mayChange
      ? [
          {
            id: 'choose',
            head: 'Chosen',
            isHeadHidden: true,
            cell: ({ id, words, outcome, correction }: QueueRow) => (
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                aria-label={`Choose ${correction > 0 ? 'the correction of ' : ''}${outcome} of ${words}`}
                checked={all !== null || chosen.has(id)}
                onChange={() => toggle(id)}
              />
            ),
          },
        ]
      : []),
    {
      id: 'words',
      head: 'Of',
      cell: (row) => (
        <a href={hrefOf(row)} className="quiet-link font-semibold">
          {row.words}
        </a>
      ),
    },
    {
      id: 'outcome',
      head: 'Outcome',
      cell: ({ outcome, correction }) => (
        <>
          <code className="value whitespace-nowrap">{outcome}</code>
          {correction > 0 && <span className="text-quiet block text-[13px]">correction</span>}
        </>
      ),
    },
    { id: 'account', head: 'Told to', cell: ({ account }) => account },
    {
      id: 'happenedAt',
      head: 'Happened',
      by: true,
      className: 'whitespace-nowrap',
      cell: ({ happenedAt }) => <Time iso={happenedAt} timeZone={timeZone} />,
    },
    {
      id: 'state',
      head: 'State',
      cell: ({ state, why }) => (
        <>
          <span className={state === 'refused' ? 'text-error' : 'font-semibold'}>{state}</span>
          {why && (
            <span className="text-quiet text-[13px]">
              : <Words text={why} />
            </span>
          )}
        </>
      ),
    },
    {
      id: 'dueAt',
      head: 'Due',
      by: true,
      className: 'whitespace-nowrap',
      cell: ({ dueAt, state }) => (dueAt && state === 'waiting' ? <Time iso={dueAt} timeZone={timeZone} /> : ''),
    },
    {
      id: 'worth',
      head: 'Worth',
      by: true,
      right: true,
      cell: ({ worth }) => <span className="value whitespace-nowrap">{worth}</span>,
    },
  ];
  return (
    <LiveList
      api={`/api/b/${business}/report-backs`}
      initial={initial}
      search={search}
      usualSort="madeAt"
      finds={seesPeople ? 'Click ID, order, company, name' : 'Click ID, order'}
      columns={columns}
      hrefOf={hrefOf}
      parts={reportBacksParts(business, 'Queue')}
      first={search ? 'None of this kind.' : 'Nothing is told yet: outcomes that an account is told of come here.'}
      also={(query) =>
        initial.seesMoney && (
          <a href={`/api/b/${business}/report-backs/conversions.csv?${query}`} className="button" download>
            Export conversions
          </a>
        )
      }
      keys={initial.mayChange ? { x: ({ id }) => toggle(id) } : {}}
      under={(given) => {
        const view = given as QueueView;
        const many = all?.many ?? chosen.size;
        return (
          <>
            <Narrowing business={business} view={view} search={search} />
            <HeldAsOne business={business} brakes={view.brakes} timeZone={view.timeZone} mayChange={view.mayChange} />
            {view.groups.length > 0 && <Groups business={business} groups={view.groups} />}
            {initial.mayChange && view.rows.length > 0 && (
              <section aria-label="What to do" className="mt-4 flex min-h-9 flex-wrap items-center gap-3">
                {many === 0 ? (
                  <span className="text-quiet">Choose some to hold, let go, withdraw or tell again; or</span>
                ) : (
                  <>
                    <span className="font-semibold">{counted(many, 'is', 'are')} chosen.</span>
                    <Acts
                      business={business}
                      acts={reportBackActs}
                      chosen={all ? { list: all.list } : { ids: [...chosen] }}
                      onDone={clear}
                    />
                    <button type="button" className="quiet-link cursor-pointer" onClick={clear}>
                      Choose none
                    </button>
                  </>
                )}
                {!all && (
                  <button
                    type="button"
                    className="quiet-link cursor-pointer"
                    onClick={() =>
                      setAll({ list: Object.fromEntries(new URLSearchParams(location.search)), many: view.total })
                    }
                  >
                    {many === 0 ? 'choose' : 'Choose'} all {count(view.total)} of this list
                  </button>
                )}
              </section>
            )}
          </>
        );
      }}
    />
  );
}

/** Which report-backs are listed: by state, outcome and account; every choice is an address. */
function Narrowing({ business, view, search }: { business: string; view: QueueView; search: string }) {
  const given = new URLSearchParams(search);
  const here = `/b/${business}/report-backs/queue`;
  const address = (change: Record<string, string>) => {
    const next = new URLSearchParams(search);
    next.delete('page');
    for (const [name, value] of Object.entries(change))
      if (value === '') next.delete(name);
      else next.set(name, value);
    return `${here}${next.size > 0 ? `?${next}` : ''}`;
  };
  const all = Object.values(view.states).reduce<number>((sum, n) => sum + (n ?? 0), 0);
  const states: { state: QueueRow['state'] | ''; words: string; many: number }[] = [
    { state: '', words: 'All', many: all },
    ...reportBackStates.map((state) => ({ state, words: state, many: view.states[state] ?? 0 })),
  ];
  const current = given.get('state') ?? '';
  const picks = [
    ['outcome', 'Outcome', view.outcomes.map((code) => [code, code] as const)],
    ['account', 'Told to', view.accounts.map(({ key, name }) => [key, name] as const)],
  ] as const;
  return (
    <div className="mt-3 flex flex-wrap items-baseline justify-between gap-x-6 gap-y-2">
      <nav aria-label="State" className="flex flex-wrap gap-x-4 gap-y-1">
        {states
          .filter(({ state, many }) => state === '' || state === current || many > 0)
          .map(({ state, words, many }) => (
            <a
              key={state}
              href={address({ state, reason: '' })}
              aria-current={state === current ? 'true' : undefined}
              className={state === current ? 'font-semibold underline underline-offset-4' : 'quiet-link'}
            >
              {words.replace(/^./, (letter) => letter.toUpperCase())} {count(many)}
            </a>
          ))}
      </nav>
      <div className="flex flex-wrap gap-4">
        {picks.map(([name, label, options]) => (
          <label key={name}>
            <span className="text-quiet mr-2">{label}</span>
            <LeadingSelect
              value={given.get(name) ?? ''}
              options={[['', 'all'], ...options]}
              onChoose={(value) => location.assign(address({ [name]: value }))}
            />
          </label>
        ))}
      </div>
    </div>
  );
}

/** Why report-backs are held, refused or unsure, and what to do about it; each leads to its rows. */
function Groups({ business, groups }: { business: string; groups: QueueGroup[] }) {
  const here = `/b/${business}/report-backs/queue`;
  const columns: Column<QueueGroup>[] = [
    { id: 'state', head: 'Stopped', className: 'font-semibold', cell: ({ state }) => state },
    { id: 'why', head: 'Why', cell: ({ words }) => <Words text={words.text} /> },
    {
      id: 'fix',
      head: 'Fix',
      className: 'text-[13px]',
      cell: ({ words, fixedAt }) =>
        fixedAt && words.mend ? (
          <a href={`/b/${business}${fixedAt}`} className="quiet-link">
            <Words text={words.mend} />
          </a>
        ) : (
          <Words text={words.mend} />
        ),
    },
    {
      id: 'count',
      head: 'How many',
      right: true,
      by: ({ count: n }) => n,
      cell: ({ state, code, count: n }) => (
        <a href={`${here}?state=${state}&reason=${code}`} className="value quiet-link font-semibold">
          {count(n)}
        </a>
      ),
    },
  ];
  return (
    <div className="mt-3">
      <DataTable
        label="Why they stopped"
        rows={groups}
        idOf={({ state, code, words }) => `${state} ${code} ${words.short}`}
        columns={columns}
        none=""
      />
    </div>
  );
}
