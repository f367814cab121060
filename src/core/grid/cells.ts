import Papa from 'papaparse';

/** A row of a grid: every cell is a text, by its column's key, as a spreadsheet has it. */
export type Cells = Record<string, string>;

export interface CellColumn {
  key: string;
  heading: string;
  /** What a text that comes from elsewhere means in this column, for one that holds one of a few values. */
  read?: (text: string) => string;
}

/**
 * Cells as a spreadsheet copies them: tabs between, a line each; quoted where a cell holds either. Text that begins with
 * a quotation mark and was never quoted stays as it is.
 */
export function readTabbed(text: string): string[][] {
  const { data, errors } = Papa.parse<string[]>(text, { delimiter: '\t', skipEmptyLines: true });
  const rows = errors.some(({ type }) => type === 'Quotes')
    ? text
        .split(/\r?\n/)
        .filter((line) => line !== '')
        .map((line) => line.split('\t'))
    : data;
  return rows.map((row) => row.map((cell) => cell.trim()));
}

export const writeTabbed = (rows: string[][]): string => Papa.unparse(rows, { delimiter: '\t', newline: '\n' });

export const isBlank = (cells: Cells): boolean => Object.values(cells).every((text) => text === '');

/**
 * Puts texts that come from elsewhere into their columns. A first row that names columns, by their keys or headings in
 * whatever case, is taken as the heading and puts each text where it says.
 *
 * @param from key of the column that the first text of a line belongs to, where there is no heading
 */
export function placeCells(columns: readonly CellColumn[], texts: string[][], from = columns[0]!.key): Cells[] {
  const named = (text: string) => {
    const plain = text.trim().toLowerCase();
    return columns.find(({ key, heading }) => key.toLowerCase() === plain || heading.toLowerCase() === plain);
  };
  const [head = [], ...rest] = texts;
  const heading = head.map(named);
  const isHeaded = heading.length > 0 && heading.every((column) => column !== undefined);
  const order = isHeaded ? heading : columns.slice(columns.findIndex(({ key }) => key === from));
  return (isHeaded ? rest : texts).map((line) =>
    Object.fromEntries(
      line.slice(0, order.length).map((text, at) => {
        const { key, read } = order[at]!;
        return [key, read ? read(text) : text.trim()];
      }),
    ),
  );
}

/**
 * Pastes texts into a grid from one cell on; rows that are missing are added.
 * @param most rows at most; what is beyond is left out
 */
export function pasteCells(
  rows: readonly Cells[],
  columns: readonly CellColumn[],
  at: { row: number; key: string },
  texts: string[][],
  most: number,
): Cells[] {
  const next = [...rows];
  for (const [index, cells] of placeCells(columns, texts, at.key).entries()) {
    const target = at.row + index;
    if (target >= most) break;
    while (next.length <= target) next.push({});
    next[target] = { ...next[target], ...cells };
  }
  return next;
}

/**
 * Fills marked cells of a column from the first of them, as spreadsheets do; a single one takes what stands above it.
 * @param first row of the first marked cell
 * @param last row of the last one
 */
export function fillDown(rows: readonly Cells[], key: string, first: number, last: number): Cells[] {
  const source = first === last ? first - 1 : first;
  const text = rows[source]?.[key];
  if (text === undefined && source < 0) return [...rows];
  return rows.map((row, at) => (at > source && at <= last ? { ...row, [key]: text ?? '' } : row));
}
