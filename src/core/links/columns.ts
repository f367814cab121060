import type { GridRow } from './combine';
import { cellsOf, landingColumn, linkColumns } from './cells';
import type { LinkPlan } from './check-tags';
import { readLink } from './read';

/** A column of a file of links, as `link`, `landing` or a tag, and what it is called there. */
export function readColumn(text: string): { heading: string; valueOf: (row: GridRow, link: string) => string } {
  const [, column = '', heading = ''] = /^(\S+?)(?:\s+as\s+(.+))?$/.exec(text.trim()) ?? [];
  const name = column || text.trim();
  return { heading: heading || name, valueOf: (row, link) => (name === 'link' ? link : (cellsOf(row)[name] ?? '')) };
}

/** A table with a heading, as it was read from a file. */
interface Table {
  columns: string[];
  rows: { row: number; cells: Record<string, string> }[];
  problems: { row: number; was: string; fix: string }[];
}

/**
 * Rows of the grid from a table: its columns are `landing` and tags, by name or heading; a whole `link` is read into them. Columns of other
 * names are left out. A row without a page is named.
 */
export function columnsOf(table: Table, plan: LinkPlan): { rows: GridRow[]; problems: Table['problems'] } {
  const named = new Map(
    linkColumns(plan).flatMap(({ key, heading }) => [
      [key.toLowerCase(), key],
      [heading.toLowerCase(), key],
    ]),
  );
  /** What the file calls a column, by the grid's key. */
  const there = new Map(table.columns.flatMap((column) => (named.has(column) ? [[named.get(column)!, column]] : [])));
  const problems = [...table.problems];
  if (!there.has(landingColumn) && !table.columns.includes('link'))
    return {
      rows: [],
      problems: [
        ...problems,
        {
          row: 1,
          was: `no column is called landing or link; there are ${table.columns.filter(Boolean).join(', ') || 'none'}`,
          fix: 'Name the columns in the first row.',
        },
      ],
    };
  const rows = table.rows.flatMap(({ row, cells }): GridRow[] => {
    const { landing = '', ...given } = Object.fromEntries(
      [...there].map(([key, column]) => [key, cells[column] ?? '']),
    );
    if (landing) return [{ landing, tags: given }];
    const read = cells.link ? readLink(cells.link, plan) : null;
    if (read) return [{ landing: read.landing, tags: { ...given, ...Object.fromEntries(read.tags) } }];
    const was = cells.link ? `“${cells.link.slice(0, 80)}” is no link` : 'it has no landing page';
    problems.push({ row, was, fix: 'Give a page such as larkmoor.example/fleet.' });
    return [];
  });
  return { rows, problems };
}
