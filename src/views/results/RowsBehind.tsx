import type { Sentence } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Pages } from '../../ui/list/Pages';
import { turnTo } from '../../ui/list/turn-to';

/** The rows behind a figure, page by page and as a file, with the way back to where it stands. */
export function RowsBehind<Row extends { id: string }>({
  view,
  query,
  own,
  from,
  csv,
  label,
  columns,
  hrefOf,
  none,
}: {
  view: { sentence: Sentence; rows: Row[]; total: number; page: number; pageSize: number };
  /** Query of the page, and what of it says which figure is opened. */
  query: URLSearchParams;
  own: readonly string[];
  from: { words: string; path: string };
  csv: string;
  label: string;
  columns: Column<Row>[];
  /** Where a row leads; null where it leads nowhere. */
  hrefOf: (row: Row) => string | null;
  none: string;
}) {
  const back = new URLSearchParams(query);
  for (const name of [...own, 'page']) back.delete(name);
  const open = (row: Row) => {
    const href = hrefOf(row);
    if (href !== null) location.assign(href);
  };
  return (
    <StationFrame
      sentence={view.sentence}
      crumb={
        <a href={`${from.path}?${back}`} className="quiet-link">
          {from.words}
        </a>
      }
      actions={
        <a href={`${csv}?${query}`} className="button" download>
          Export CSV
        </a>
      }
    >
      <div className="mt-4">
        <DataTable
          label={label}
          rows={view.rows}
          idOf={({ id }) => id}
          columns={columns}
          keys={{ Enter: open }}
          none={none}
        />
      </div>
      <Pages view={view} page={view.page} onPage={(next) => turnTo(query, next)} />
    </StationFrame>
  );
}
