import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { sumsOf } from '../../core/reportbacks/compare';
import type { ComparedTelling, CompareView, DifferenceRow } from '../../core/reportbacks/compare-view';
import { count, counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { Problem } from '../../ui/form/Problem';
import { Select } from '../../ui/form/rows';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { pageRead } from '../../ui/live/Live';
import { readJson, sendFile, sendJson } from '../../ui/text/read';
import { sayDraftChanged } from '../../ui/rule/draft-changed';
import { dayOfYear } from '../../ui/text/time';
import { Time } from '../../ui/text/Time';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: CompareView;
  search: string;
}

/** What Avrix would tell a platform, beside what another way told it; and the moment from which Avrix tells. */
export function ComparePage(props: Props) {
  return (
    <Live>
      <Compare {...props} />
    </Live>
  );
}

function Compare({ business, initial, search }: Props) {
  const api = `/api/b/${business}/report-backs/compare`;
  const [query, setQuery] = useState(search.replace(/^\?/, ''));
  const { data } = useQuery({
    queryKey: [api, query],
    queryFn: () => readJson<CompareView>(`${api}?${query}`),
    ...(query === search.replace(/^\?/, '') ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    refetchInterval: 30_000,
    meta: pageRead,
  });
  const view = data ?? initial;
  const chosen = view.tellings.find(({ key }) => key === view.chosen);
  const show = (part: Partial<Record<'of' | 'against' | 'as', string>>) => {
    const next = new URLSearchParams({ of: view.chosen, against: view.against, as: view.as, ...part }).toString();
    history.replaceState(null, '', `?${next}`);
    setQuery(next);
  };
  return (
    <StationFrame sentence={view.sentence} parts={reportBacksParts(business, 'Compare')}>
      {chosen && (
        <>
          <div className="mt-4 flex flex-wrap items-center gap-3">
            <Select
              label="What is compared"
              className="w-auto"
              value={view.chosen}
              options={view.tellings.map(
                ({ key, of, outcome, accountName }) =>
                  [key, `${of === 'event' ? 'event ' : ''}${outcome}, told to ${accountName}`] as const,
              )}
              disabled={false}
              onChange={(of) => show({ of, as: '' })}
            />
            <span className="text-quiet">with</span>
            <Select
              label="Compared with"
              className="w-auto"
              value={view.against}
              options={[
                ...(view.takesFiles ? ([['file', 'what the other way told, row by row']] as const) : []),
                ...(view.reported.length > 0 || !view.takesFiles
                  ? ([['report', 'what its own report counts, by day']] as const)
                  : []),
              ]}
              disabled={false}
              onChange={(against) => show({ against })}
            />
            {view.against === 'report' && view.reported.length > 0 && (
              <Select
                label="Name in its report"
                className="w-auto"
                value={view.as}
                options={view.reported.map((name) => [name, name] as const)}
                disabled={false}
                onChange={(as) => show({ as })}
              />
            )}
          </div>
          <div className="mt-4 grid gap-4 lg:grid-cols-[1fr_320px]">
            <div className="flex min-w-0 flex-col gap-4">
              <Days view={view} byClick={view.against === 'report' && chosen.of === 'outcome'} />
              {view.against === 'file' && view.files.length > 0 && <Differences business={business} view={view} />}
            </div>
            <div className="flex min-w-0 flex-col gap-4">
              {view.mayChange && (
                <SwitchOver key={chosen.key} business={business} telling={chosen} timeZone={view.timeZone} />
              )}
              {view.takesFiles && <Files business={business} view={view} />}
            </div>
          </div>
        </>
      )}
      {!chosen && (
        <p className="mt-4">
          <a className="button" href={`/b/${business}/report-backs`}>
            Go to the outcomes
          </a>
        </p>
      )}
    </StationFrame>
  );
}

/** Each day with how many both ways tell, and how many of them alike. */
function Days({ view: { days, against }, byClick }: { view: CompareView; byClick: boolean }) {
  const sums = sumsOf(days);
  const figure = (n: number) => <td className="value text-right">{count(n)}</td>;
  return (
    <section className="sheet p-4" aria-label="Days">
      <h2 className="text-base">{byClick ? 'By day of the click' : 'By day'}</h2>
      {days.length === 0 ? (
        <p className="text-quiet mt-2">Nothing was told in these days by either way.</p>
      ) : (
        <table className="rows mt-2 w-full">
          <thead>
            <tr>
              <th className="text-left">Day</th>
              <th className="text-right!">Avrix</th>
              <th className="text-right!">{against === 'report' ? 'Its report' : 'The other way'}</th>
              <th className="text-right!">{against === 'report' ? 'Differ by' : 'Alike'}</th>
            </tr>
          </thead>
          <tbody>
            {days.map((one) => (
              <tr key={one.day}>
                <td className="whitespace-nowrap">{dayOfYear(one.day, 'UTC')}</td>
                {figure(one.ours)}
                {figure(one.old)}
                {against === 'report' ? figure(Math.abs(one.ours - one.old)) : figure(one.same)}
              </tr>
            ))}
            <tr className="font-semibold">
              <td>All</td>
              {figure(sums.ours)}
              {figure(sums.old)}
              {against === 'report' ? figure(Math.abs(sums.ours - sums.old)) : figure(sums.same)}
            </tr>
          </tbody>
        </table>
      )}
    </section>
  );
}

const kindWords: Record<DifferenceRow['kind'], string> = {
  worth: 'another worth',
  'only ours': 'Avrix alone',
  'only old': 'the other way alone',
};

function Differences({ business, view }: { business: string; view: CompareView }) {
  const columns: Column<DifferenceRow>[] = [
    {
      id: 'kind',
      head: 'Told by',
      by: ({ kind }) => kind,
      cell: ({ kind, why }) => (
        <>
          {kindWords[kind]}
          {why && <span className="text-quiet block text-[13px]">{why}</span>}
        </>
      ),
    },
    {
      id: 'click',
      head: 'Click ID',
      by: ({ clickId }) => clickId,
      cell: ({ clickId, path }) =>
        path ? (
          <a href={`/b/${business}${path}`} className="value quiet-link block max-w-40 truncate" title={clickId}>
            {clickId}
          </a>
        ) : (
          <code className="value block max-w-40 truncate" title={clickId}>
            {clickId}
          </code>
        ),
    },
    {
      id: 'at',
      head: 'Happened',
      by: ({ at }) => at,
      className: 'whitespace-nowrap',
      cell: ({ at }) => <Time iso={at} timeZone={view.timeZone} />,
    },
    ...(['ours', 'old'] as const).map((side): Column<DifferenceRow> => ({
      id: side,
      head: side === 'ours' ? 'Avrix' : 'Other way',
      right: true,
      cell: (row) => <span className="value whitespace-nowrap">{row[side]}</span>,
    })),
  ];
  return (
    <section aria-label="Differences">
      <h2 className="text-base">
        {view.differing === 0 ? 'No row differs' : counted(view.differing, 'row differs', 'rows differ')}
        {view.differing > view.differences.length && `, the newest ${count(view.differences.length)} shown`}
      </h2>
      {view.differences.length > 0 && (
        <div className="mt-2">
          <DataTable label="Differences" rows={view.differences} idOf={({ id }) => id} columns={columns} none="" />
        </div>
      )}
    </section>
  );
}

/** States the moment from which Avrix tells. */
function SwitchOver({ business, telling, timeZone }: { business: string; telling: ComparedTelling; timeZone: string }) {
  const client = useQueryClient();
  const [at, setAt] = useState('');
  const send = useMutation({
    mutationFn: () => sendJson(`/api/b/${business}/report-backs/compare/switch`, { of: telling.key, at }),
    onSuccess: () => {
      sayDraftChanged();
      return client.invalidateQueries();
    },
  });
  const { from, fromInDraft, accountName } = telling;
  return (
    <section className="sheet p-4" aria-label="Switch over">
      <h2 className="text-base">{from === '' ? 'Switch over' : 'Switched over'}</h2>
      {from !== '' && (
        <p className="mt-1">
          Avrix tells {accountName} of all that happens from <Time iso={from} timeZone={timeZone} /> on. What happened
          before was told the other way.
        </p>
      )}
      {fromInDraft !== '' && fromInDraft !== from && (
        <p className="mt-1">
          From <Time iso={fromInDraft} timeZone={timeZone} /> on, once it is live.{' '}
          <a className="quiet-link" href={`/b/${business}/not-live`}>
            Make it live before then
          </a>
          , and stop the other way at that moment.
        </p>
      )}
      {from === '' && (
        <form
          className="mt-2"
          onSubmit={(event) => {
            event.preventDefault();
            send.mutate();
          }}
        >
          <label className="text-quiet block text-[12.5px]">
            Avrix tells what happens from
            <input
              type="datetime-local"
              className="field value mt-0.5 w-full"
              value={at}
              onChange={(event) => setAt(event.target.value)}
            />
          </label>
          <p className="text-quiet mt-1 text-[13px]">
            Both ways never tell the same: what happened before is told the other way alone. Stop that one then.
          </p>
          <button className="button mt-2" disabled={at === '' || send.isPending}>
            Set the time
          </button>
          <Problem text={send.error?.message} />
        </form>
      )}
    </section>
  );
}

/** What was brought of the other way. */
function Files({ business, view }: { business: string; view: CompareView }) {
  const here = `/b/${business}/report-backs/files`;
  const bring = useMutation({
    mutationFn: (file: File) =>
      sendFile<{ id: string }>(
        `/api${here}/bring?${new URLSearchParams({ name: file.name.slice(-120), compares: view.chosen })}`,
        file,
      ),
    onSuccess: ({ id }) => location.assign(`${here}/${id}`),
  });
  return (
    <section className="sheet p-4" aria-label="What the other way told">
      <h2 className="text-base">What the other way told</h2>
      {view.files.length === 0 && (
        <p className="text-quiet mt-1">
          A CSV or XLSX file with a click ID, a time and a worth in each row. It is compared, and counted nowhere.
        </p>
      )}
      <ul className="mt-1">
        {view.files.map(({ id, name, at, rows }) => (
          <li key={id} className="py-0.5">
            <a href={`${here}/${id}`} className="quiet-link [overflow-wrap:anywhere]">
              {name}
            </a>
            <span className="text-quiet">
              , {counted(rows, 'row', 'rows')}, <Time iso={at} timeZone={view.timeZone} />
            </span>
          </li>
        ))}
      </ul>
      {view.mayChange && (
        <div className="mt-2">
          <FileButton words="Import a file" accept=".csv,.xlsx" onFile={(file) => bring.mutate(file)} />
        </div>
      )}
      <Problem text={bring.error?.message} />
    </section>
  );
}
