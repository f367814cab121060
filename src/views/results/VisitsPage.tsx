import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { capital } from '../../core/capital';
import {
  askedVisits,
  settledVisits,
  visitColumnWords,
  visitsAddress,
  visitsPieces,
} from '../../core/results/visits-words';
import type { VisitColumn, VisitListRow, VisitsView } from '../../core/results/visits-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { FindField } from '../../ui/list/FindField';
import { Pages } from '../../ui/list/Pages';
import { useListState } from '../../ui/list/useListState';
import { Live, pageRead } from '../../ui/live/Live';
import { Sentence } from '../../ui/rule/RuleSentence';
import { readJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { OwnDays } from './OwnDays';
import { resultsParts } from './ResultsFrame';
import { ShownDays } from './ShownDays';

interface Props {
  business: string;
  initial: VisitsView;
  /** Query of the page at its first drawing. */
  search: string;
}

/** Visits one by one, with and without a lead; each opens its lead, or the trace of the click that brought it. */
export function VisitsPage(props: Props) {
  return (
    <Live>
      <Visits {...props} />
    </Live>
  );
}

function Visits({ business, initial, search }: Props) {
  const api = `/api/b/${business}/results/visits`;
  const [asked, setAsked] = useState(() => askedVisits(initial));
  const own = new URLSearchParams(visitsAddress(asked, initial.asked));
  const given = new URLSearchParams(search);
  for (const name of ['find', 'sort', 'descending', 'page']) if (given.has(name)) own.set(name, given.get(name)!);
  const [state, change] = useListState(`?${own}`, 'at');
  const [begun] = useState(state.query);
  const { data, isPlaceholderData } = useQuery({
    queryKey: [api, state.query],
    queryFn: () => readJson<VisitsView>(`${api}?${state.query}`),
    ...(state.query === begun ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    meta: pageRead,
  });
  const view = data ?? initial;
  const isOfBrowser = initial.asked.browser !== '';
  const isNarrowed = isOfBrowser || initial.asked.row !== null || initial.asked.first === 'yes';
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Visits')}
      {...(isNarrowed
        ? {
            crumb: (
              <a href={`/b/${business}/results/visits`} className="quiet-link">
                All visits
              </a>
            ),
          }
        : {})}
      actions={
        <div className="flex flex-wrap items-center justify-end gap-2 whitespace-nowrap">
          <FindField
            what="source, campaign or page"
            width="w-[230px]"
            value={state.find}
            onFind={(find) => change({ find, page: 1 })}
          />
          <a href={`${api}.csv?${state.query}`} className="button" download>
            Export CSV
          </a>
        </div>
      }
    >
      <Sentence
        pieces={visitsPieces(view.range, isOfBrowser)}
        className="text-[17px] leading-[1.9]"
        rule={asked}
        onEdit={(next) => {
          setAsked(settledVisits(next));
          change({ page: 1 });
        }}
        beside={{}}
        disabled={false}
      />
      {asked.range === 'own' && !isOfBrowser && (
        <OwnDays days={asked} onChange={(days) => setAsked({ ...asked, ...days })} />
      )}
      {!isOfBrowser && <ShownDays range={view.range} isBusy={isPlaceholderData} />}
      <div className="mt-1.5">
        <DataTable
          label="Visits"
          rows={view.rows}
          idOf={({ id }) => id}
          columns={columnsOf(business, view)}
          sorted={{
            by: state.sort,
            descending: state.descending,
            onSort: ({ by, descending }) => change({ sort: by, descending, page: 1 }),
          }}
          found={state.find}
          keys={{ Enter: ({ path }) => path !== null && location.assign(`/b/${business}${path}`) }}
          none="None in these days."
          isBusy={isPlaceholderData}
        />
      </div>
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
    </StationFrame>
  );
}

const columnsOf = (business: string, { asked: { columns, browser }, timeZone }: VisitsView): Column<VisitListRow>[] => [
  {
    id: 'at',
    head: 'Began',
    by: true,
    className: 'whitespace-nowrap',
    cell: ({ at, path, mark }) => (
      <>
        {path === null ? (
          <Time iso={at} timeZone={timeZone} />
        ) : (
          <a href={`/b/${business}${path}`} className="quiet-link">
            <Time iso={at} timeZone={timeZone} />
          </a>
        )}
        {mark && <span className="text-quiet block text-[12.5px] whitespace-normal">{mark}</span>}
      </>
    ),
  },
  ...columns.map((column): Column<VisitListRow> => {
    const isNumber = column === 'pages' || column === 'length';
    return {
      id: column,
      head: capital(visitColumnWords[column]),
      right: isNumber,
      className: column === 'landing' || column === 'referrer' ? 'min-w-44' : '',
      ...(isNumber ? { by: true as const } : {}),
      cell: ({ cells }) => <Cell {...(cells[column] ?? { text: '', isValue: false })} />,
    };
  }),
  ...(browser === ''
    ? [
        {
          id: 'all',
          head: 'All visits of its browser',
          isHeadHidden: true,
          className: 'text-right whitespace-nowrap',
          cell: ({ visitor }: VisitListRow) => (
            <a href={`/b/${business}/results/visits?browser=${visitor}`} className="quiet-link">
              its visits
            </a>
          ),
        },
      ]
    : []),
];

const Cell = ({ text, isValue }: NonNullable<VisitListRow['cells'][VisitColumn]>) =>
  isValue ? <code className="value [overflow-wrap:anywhere]">{text}</code> : text;
