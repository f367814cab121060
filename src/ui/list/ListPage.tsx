import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { flexRender, getCoreRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Sentence as SentenceWords } from '../../core/strands';
import { StationFrame } from '../frame/StationFrame';
import { Live, pageRead } from '../live/Live';
import { readJson } from '../text/read';
import { FindField } from './FindField';
import { useListState, type ListState } from './useListState';
import { NoRows } from './NoRows';
import { Pages } from './Pages';
import { useRowKeys } from './useRowKeys';

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
  under?: ReactNode;
  /** What an empty list offers as its first step. */
  first?: ReactNode;
  /** What finding looks through, for the field. */
  finds: string;
  columns: (timeZone: string) => ColumnDef<Row>[];
  hrefOf: (row: Row) => string;
}

const betweenReads = 5000;

/** A list with its sentence: found, sorted and paged by the server, kept in the address, moved through by keys. */
export function ListPage<Row extends { id: string }>(props: Props<Row>) {
  return (
    <Live>
      <List {...props} />
    </Live>
  );
}

function List<Row extends { id: string }>({
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
  const selected = useRowKeys(view.rows.length, (index) => location.assign(hrefOf(view.rows[index]!)));
  return (
    <StationFrame
      sentence={view.sentence}
      crumb={
        crumb && (
          <a href={crumb.href} className="quiet-link">
            {crumb.words}
          </a>
        )
      }
      actions={
        <div className="flex items-center gap-2">
          <FindField what={finds} width="w-[330px]" value={state.find} onFind={(find) => change({ find, page: 1 })} />
          <a href={`${api}.csv?${query}`} className="button" download>
            Export CSV
          </a>
        </div>
      }
    >
      {under}
      <div
        className={`sheet mt-4 overflow-x-auto ${isPlaceholderData ? 'opacity-60' : ''}`}
        aria-busy={isPlaceholderData}
      >
        <Rows
          view={view}
          first={first}
          columns={columns(view.timeZone)}
          state={state}
          change={change}
          selected={selected}
        />
      </div>
      <Pages view={view} page={state.page} onPage={(page) => change({ page })} />
    </StationFrame>
  );
}

interface RowsProps<Row> {
  view: ListView<Row>;
  first: ReactNode;
  columns: ColumnDef<Row>[];
  state: ListState;
  change: (state: Partial<ListState>) => void;
  selected: number | null;
}

function Rows<Row extends { id: string }>({ view, first, columns, state, change, selected }: RowsProps<Row>) {
  const table = useReactTable({
    data: view.rows,
    columns,
    getRowId: (row) => row.id,
    manualSorting: true,
    manualPagination: true,
    state: { sorting: [{ id: state.sort, desc: state.descending }] },
    onSortingChange: (next) => {
      const [sort] = typeof next === 'function' ? next(table.getState().sorting) : next;
      if (sort) change({ sort: sort.id, descending: sort.desc, page: 1 });
    },
    enableSortingRemoval: false,
    getCoreRowModel: getCoreRowModel(),
  });
  return (
    <table className="rows">
      <thead>
        {table.getHeaderGroups().map((group) => (
          <tr key={group.id}>
            {group.headers.map(({ id, column, getContext }) => (
              <th key={id} scope="col" aria-sort={ariaSort(column.getIsSorted())}>
                {column.getCanSort() ? (
                  <button
                    type="button"
                    onClick={column.getToggleSortingHandler()}
                    className="inline-flex cursor-pointer items-center gap-1 hover:underline"
                  >
                    {flexRender(column.columnDef.header, getContext())}
                    {column.getIsSorted() === 'asc' && <ArrowUp size={13} aria-hidden />}
                    {column.getIsSorted() === 'desc' && <ArrowDown size={13} aria-hidden />}
                  </button>
                ) : (
                  flexRender(column.columnDef.header, getContext())
                )}
              </th>
            ))}
          </tr>
        ))}
      </thead>
      <tbody>
        {table.getRowModel().rows.map((row, index) => (
          <tr key={row.id} aria-selected={selected === index} data-row={index}>
            {row.getVisibleCells().map((cell) => (
              <td key={cell.id}>{flexRender(cell.column.columnDef.cell, cell.getContext())}</td>
            ))}
          </tr>
        ))}
        {view.rows.length === 0 && (
          <NoRows columns={columns.length} find={state.find}>
            {first ?? 'Nothing yet.'}
          </NoRows>
        )}
      </tbody>
    </table>
  );
}

const ariaSort = (sorted: false | 'asc' | 'desc') =>
  sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined;
