import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { StationFrame, type StationParts } from '../frame/StationFrame';
import { Live, pageRead } from '../live/Live';
import { readJson } from '../text/read';
import { FindField } from './FindField';
import { DataTable, type Column } from './DataTable';
import { Pages } from './Pages';
import type { RowKeys } from './useRowKeys';
import { useListState } from './useListState';

/** What the server gives of one page of a list. */
export interface ListView<Row> {
  sentence: SentenceWords;
  rows: Row[];
  total: number;
  pageSize: number;
  timeZone: string;
}

interface Props<Row> {
  /** API address without its query; the CSV has the same address with `.csv`. */
  api: string;
  initial: ListView<Row>;
  /** Query of the page at its first drawing. */
  search: string;
  usualSort: string;
  crumb?: { words: string; href: string };
  /** What stands between the sentence and the list. */
  under?: ReactNode | ((view: ListView<Row>) => ReactNode);
  /** What an empty list offers as its first step. */
  first?: ReactNode;
  /** What finding looks through, for the field. */
  finds: string;
  columns: (timeZone: string) => Column<Row>[];
  /** Where a row leads; missing where it leads nowhere. */
  hrefOf?: (row: Row) => string;
  /** Whether the same rows are there as a workbook too. */
  hasBook?: boolean;
  /** What else can be done with the list as it is found and sorted, beside its exports. */
  also?: ReactNode | ((query: string) => ReactNode);
  /** What further keys do with the marked row. */
  keys?: RowKeys<Row>;
  /** The other parts of the station it is of. */
  parts?: StationParts;
}

const betweenReads = 5000;

/** A list with its sentence: found, sorted and paged by the server, kept in the address, moved through by keys. */
export function ListPage<Row extends { id: string }>(props: Props<Row>) {
  return (
    <Live>
      <LiveList {...props} />
    </Live>
  );
}

/** The same within a page that is live already. */
export function LiveList<Row extends { id: string }>({
  api,
  initial,
  search,
  usualSort,
  crumb,
  under,
  first,
  finds,
  columns,
  hrefOf,
  hasBook = false,
  also,
  keys,
  parts,
}: Props<Row>) {
  const [state, change] = useListState(search, usualSort);
  const query = state.query;
  const { data, isPlaceholderData } = useQuery({
    queryKey: [api, query],
    queryFn: () => readJson<ListView<Row>>(`${api}?${query}`),
    ...(query === new URLSearchParams(search).toString() ? { initialData: initial } : {}),
    placeholderData: keepPreviousData,
    refetchInterval: betweenReads,
    meta: pageRead,
  });
  const view = data ?? initial;
  return (
    <StationFrame
      sentence={view.sentence}
      {...(parts ? { parts } : {})}
      crumb={
        crumb && (
          <a href={crumb.href} className="quiet-link">
            {crumb.words}
          </a>
        )
      }
      actions={
        <div className="flex flex-wrap items-center justify-end gap-2 whitespace-nowrap">
          <FindField what={finds} width="w-[290px]" value={state.find} onFind={(find) => change({ find, page: 1 })} />
          <a href={`${api}.csv?${query}`} className="button" download>
            Export CSV
          </a>
          {hasBook && (
            <a href={`${api}.xlsx?${query}`} className="button" download>
              Export XLSX
            </a>
          )}
          {typeof also === 'function' ? also(query) : also}
        </div>
      }
    >
      {typeof under === 'function' ? under(view) : under}
      <div className="mt-4">
        <DataTable
          rows={view.rows}
          idOf={({ id }) => id}
          columns={columns(view.timeZone)}
          sorted={{
            by: state.sort,
            descending: state.descending,
            onSort: ({ by, descending }) => change({ sort: by, descending, page: 1 }),
          }}
          found={state.find}
          {...(hrefOf ? { keys: { ...keys, Enter: (row: Row) => location.assign(hrefOf(row)) } } : {})}
          none={first ?? 'Nothing yet.'}
          isBusy={isPlaceholderData}
        />
      </div>
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
    </StationFrame>
  );
}
