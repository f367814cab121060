import {
  getCoreRowModel,
  getPaginationRowModel,
  getSortedRowModel,
  useReactTable,
  type ColumnDef,
  type RowData,
} from '@tanstack/react-table';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { Fragment, useState, type ReactNode } from 'react';
import { FindField } from './FindField';
import { Pages } from './Pages';
import { useRowKeys, type RowKeys } from './useRowKeys';

/** One column of a table. */
export interface Column<Row> {
  /** Its key; where the server sorts, the name that it sorts by. */
  id: string;
  head: string;
  /** For a column of buttons: the heading is only for those who hear it. */
  isHeadHidden?: boolean;
  cell: (row: Row) => ReactNode;
  /** What it is sorted by, on the page; `true` where the server sorts. A column without it stays as it is. */
  by?: true | ((row: Row) => string | number | null);
  /** Numbers stand at the right. */
  right?: boolean;
  className?: string;
}

export interface Sorting {
  by: string;
  descending: boolean;
}

interface Props<Row> {
  /** What the table holds, for those who do not see where it stands. */
  label?: string;
  rows: Row[];
  idOf: (row: Row) => string;
  columns: readonly Column<Row>[];
  /** The order to begin with, where the page sorts. */
  start?: Sorting;
  /** The order, where the server sorts. */
  sorted?: Sorting & { onSort: (next: Sorting) => void };
  /** A field above the table, by which the page finds rows. */
  finds?: { what: string; label: string; in: (row: Row) => string };
  /** What was looked for, where the server finds. */
  found?: string;
  /** What stands beside the field. */
  tools?: ReactNode;
  /** Address of the same rows as CSV. */
  csv?: string;
  /** What keys do with the marked row; `j` and `k` move. */
  keys?: RowKeys<Row>;
  isOpen?: (row: Row) => boolean;
  rowClass?: (row: Row) => string;
  /** A second line of a row, over all its columns. */
  under?: (row: Row) => ReactNode;
  /** What all rows are together, as a cell of each column; missing where they are not added up. */
  foot?: (column: string) => ReactNode;
  /** What stands in place of rows where there are none. */
  none: ReactNode;
  isBusy?: boolean;
  /** Whether it stands on a sheet of something else, and needs none of its own. */
  isPart?: boolean;
}

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars -- the package's own names, which a merged type needs
  interface ColumnMeta<TData extends RowData, TValue> {
    column: Column<TData>;
  }
}

/** Rows of a page that is sorted on the page; more are turned over. */
const pageSize = 100;

const definitionOf = <Row,>(column: Column<Row>): ColumnDef<Row> => ({
  id: column.id,
  header: column.head,
  enableSorting: column.by !== undefined,
  // The package sorts by columns with a value only, also where the server does.
  accessorFn: typeof column.by === 'function' ? valueBy(column.by) : () => undefined,
  sortingFn: (a, b, id) => compare(a.getValue(id), b.getValue(id)),
  // What is not there comes last, in either direction.
  sortUndefined: 'last',
  sortDescFirst: false,
  meta: { column },
});

const valueBy =
  <Row,>(by: (row: Row) => string | number | null) =>
  (row: Row) => {
    const value = by(row);
    return value === null || value === '' ? undefined : value;
  };

/** Numbers by size, texts as people order them. */
function compare(a: unknown, b: unknown): number {
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  return String(a).localeCompare(String(b), 'en', { numeric: true });
}

/** A table: sorted by its headings, found, turned over and moved through by keys, by the page or by the server. */
export function DataTable<Row>(props: Props<Row>) {
  const { label, rows, columns, finds, tools, csv, sorted, keys, isBusy = false, isPart = false } = props;
  const [find, setFind] = useState('');
  const [own, setOwn] = useState<Sorting | null>(props.start ?? null);
  const [page, setPage] = useState(1);
  const sorting = sorted ?? own;
  const wanted = find.trim().toLowerCase();
  const isOneList = sorted !== undefined;
  const table = useReactTable({
    data: finds && wanted ? rows.filter((row) => finds.in(row).toLowerCase().includes(wanted)) : rows,
    columns: columns.map(definitionOf),
    getRowId: props.idOf,
    manualSorting: isOneList,
    manualPagination: isOneList,
    enableSortingRemoval: false,
    state: {
      sorting: sorting ? [{ id: sorting.by, desc: sorting.descending }] : [],
      pagination: { pageIndex: page - 1, pageSize },
    },
    onSortingChange: (next) => {
      const [sort] = typeof next === 'function' ? next(table.getState().sorting) : next;
      if (!sort) return;
      const wish = { by: sort.id, descending: sort.desc };
      if (sorted) sorted.onSort(wish);
      else setOwn(wish);
    },
    autoResetPageIndex: false,
    getCoreRowModel: getCoreRowModel(),
    getSortedRowModel: getSortedRowModel(),
    getPaginationRowModel: getPaginationRowModel(),
  });
  const total = table.getPrePaginationRowModel().rows.length;
  const shown = table.getRowModel().rows;
  const selected = useRowKeys(
    shown.map(({ original }) => original),
    keys,
    shown.findIndex(({ original }) => props.isOpen?.(original) ?? false),
  );
  const hasTools = finds !== undefined || tools !== undefined || csv !== undefined;
  return (
    <>
      <section
        className={`${isPart ? '' : 'sheet'} overflow-x-auto ${isBusy ? 'opacity-60' : ''}`}
        aria-label={label}
        aria-busy={isBusy}
      >
        {hasTools && (
          <div className="flex flex-wrap items-center gap-3 px-3.5 pt-3">
            {finds && (
              <FindField
                what={finds.what}
                label={finds.label}
                onFind={(text) => {
                  setFind(text);
                  setPage(1);
                }}
              />
            )}
            <div className="flex-1">{tools}</div>
            {csv && (
              <a href={csv} className="button" download>
                Export CSV
              </a>
            )}
          </div>
        )}
        <table className="rows">
          <thead>
            <tr>
              {table.getFlatHeaders().map(({ id, column }) => (
                <Head
                  key={id}
                  column={column.columnDef.meta!.column}
                  sorted={column.getIsSorted()}
                  onSort={column.getCanSort() ? column.getToggleSortingHandler() : undefined}
                />
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.map((row, index) => {
              const under = props.under?.(row.original);
              const isMarked = selected === index || (props.isOpen?.(row.original) ?? false);
              const className = props.rowClass?.(row.original) ?? '';
              return (
                <Fragment key={row.id}>
                  <tr
                    data-row={index}
                    aria-selected={isMarked}
                    className={`${className} ${under ? '[&>td]:border-b-0' : ''}`}
                  >
                    {row.getVisibleCells().map(({ id, column }) => (
                      <td key={id} className={classOf(column.columnDef.meta!.column)}>
                        {/* Called, not mounted: as a component of its own it would lose what is typed in it at each reading. */}
                        {column.columnDef.meta!.column.cell(row.original)}
                      </td>
                    ))}
                  </tr>
                  {under && (
                    <tr aria-selected={isMarked} className={className}>
                      <td colSpan={columns.length} className="h-auto! pt-0! pb-2.5!">
                        {under}
                      </td>
                    </tr>
                  )}
                </Fragment>
              );
            })}
            {shown.length === 0 && (
              <tr>
                <td colSpan={columns.length} className="text-quiet">
                  {wanted || props.found ? 'Nothing matches what you look for.' : props.none}
                </td>
              </tr>
            )}
          </tbody>
          {props.foot && shown.length > 0 && (
            <tfoot>
              <tr>
                {columns.map((column) => (
                  <td key={column.id} className={classOf(column)}>
                    {props.foot!(column.id)}
                  </td>
                ))}
              </tr>
            </tfoot>
          )}
        </table>
      </section>
      {!isOneList && total > pageSize && <Pages view={{ total, pageSize }} page={page} onPage={setPage} />}
    </>
  );
}

const classOf = <Row,>({ right, className = '' }: Column<Row>) =>
  right ? `text-right tabular-nums ${className}` : className;

/** A column's heading; one that sorts is a button. */
function Head<Row>({
  column: { head, isHeadHidden, right },
  sorted,
  onSort,
}: {
  column: Column<Row>;
  sorted: false | 'asc' | 'desc';
  onSort: ((event: unknown) => void) | undefined;
}) {
  const order = sorted === 'asc' ? 'ascending' : sorted === 'desc' ? 'descending' : undefined;
  return (
    <th scope="col" className={right ? 'text-right!' : ''} aria-sort={order}>
      {isHeadHidden ? (
        <span className="sr-only">{head}</span>
      ) : onSort ? (
        <button
          type="button"
          className="inline-flex cursor-pointer items-center gap-1 hover:underline"
          onClick={onSort}
        >
          {head}
          {sorted === 'asc' && <ArrowUp size={13} aria-hidden />}
          {sorted === 'desc' && <ArrowDown size={13} aria-hidden />}
        </button>
      ) : (
        head
      )}
    </th>
  );
}
