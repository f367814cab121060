import Papa from 'papaparse';
import type { GridRow } from './combine';

/** A grid's columns: the landing page first, then the plan's tags. */
export const landingColumn = 'landing';

export const readCell = (row: GridRow, column: string): string =>
  column === landingColumn ? row.landing : (row.tags[column] ?? '');

export const writeCell = (row: GridRow, column: string, value: string): GridRow =>
  column === landingColumn ? { ...row, landing: value } : { ...row, tags: { ...row.tags, [column]: value } };

/** Cells as a spreadsheet copies them: tabs between, a line each; quoted where a cell holds either. */
export const readTabbed = (text: string): string[][] =>
  Papa.parse<string[]>(text, { delimiter: '\t', skipEmptyLines: true }).data.map((row) =>
    row.map((cell) => cell.trim()),
  );

export const writeTabbed = (rows: string[][]): string => Papa.unparse(rows, { delimiter: '\t', newline: '\n' });

/**
 * Puts pasted cells into a grid from one cell on; rows that are missing are added. A first row that names columns is
 * taken as the heading and puts each cell where it says.
 *
 * @param most rows at most; what is beyond is left out
 */
export function pasteCells(
  rows: GridRow[],
  columns: string[],
  at: { row: number; column: string },
  cells: string[][],
  most: number,
): GridRow[] {
  const heading = cells[0]?.every((cell) => columns.includes(cell)) && cells.length > 1 ? cells[0] : null;
  const start = columns.indexOf(at.column);
  const into = heading ?? columns.slice(start);
  const next = [...rows];
  for (const [index, line] of (heading ? cells.slice(1) : cells).entries()) {
    const target = at.row + index;
    if (target >= most) break;
    while (next.length <= target) next.push({ landing: '', tags: {} });
    next[target] = line.reduce(
      (row, cell, i) => (into[i] === undefined ? row : writeCell(row, into[i], cell)),
      next[target]!,
    );
  }
  return next;
}

/** Copies a cell's value into the cells below it. */
export const fillDown = (rows: GridRow[], column: string, from: number, to: number): GridRow[] =>
  rows.map((row, index) => (index > from && index <= to ? writeCell(row, column, readCell(rows[from]!, column)) : row));
