import { Readable } from 'node:stream';
import { stringify } from 'csv-stringify';
import { stringify as stringifyAll } from 'csv-stringify/sync';
import ExcelJS from 'exceljs';

export type TableFormat = 'csv' | 'xlsx';

const types: Record<TableFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

const asCsv = { bom: true, quoted: true, quoted_empty: true };

const headersOf = (name: string, format: TableFormat) => ({
  'content-type': types[format],
  'content-disposition': `attachment; filename="${name}.${format}"`,
});

/**
 * A table as a download. In CSV every cell is quoted, since some programs split at other signs than the comma, and a text
 * that a spreadsheet would run as a formula gets an apostrophe in front; in XLSX every cell is a text, which is never run.
 */
export async function tableResponse(name: string, format: TableFormat, rows: string[][]): Promise<Response> {
  return new Response((await tableBody(format, rows)) as BodyInit, { headers: headersOf(name, format) });
}

/** Pages of a workbook, the first row of each its heading; every cell is a text. */
export async function pagesResponse(name: string, pages: { name: string; rows: string[][] }[]): Promise<Response> {
  const workbook = new ExcelJS.Workbook();
  for (const page of pages) addSheet(workbook, sheetName(workbook, page.name), page.rows);
  const body = new Uint8Array(await workbook.xlsx.writeBuffer());
  return new Response(body as BodyInit, { headers: headersOf(name, 'xlsx') });
}

/** A name that spreadsheets take for a sheet: some signs are not allowed, 31 characters are, and each once. */
function sheetName(workbook: ExcelJS.Workbook, wanted: string): string {
  const plain =
    wanted
      .replace(/[[\]:*?/\\]/g, ' ')
      .replace(/^'+|'+$/g, '')
      .trim()
      .slice(0, 27) || 'Page';
  const isTaken = (name: string) =>
    workbook.worksheets.some((sheet) => sheet.name.toLowerCase() === name.toLowerCase());
  for (let n = 1; ; n += 1) {
    const name = n === 1 ? plain : `${plain} ${n}`;
    if (!isTaken(name)) return name;
  }
}

/** Rows as a download in CSV, as `tableResponse` writes it, sent as they come. */
export function listResponse(name: string, rows: AsyncIterable<string[]>): Response {
  async function* guarded() {
    for await (const row of rows) yield row.map(guard);
  }
  const body = Readable.from(guarded()).compose(stringify(asCsv));
  return new Response(Readable.toWeb(body) as unknown as BodyInit, { headers: headersOf(name, 'csv') });
}

/** Reading takes just one apostrophe off again, so that a text which begins with some comes back whole. */
const guard = (cell: string): string => (/^'*[=+\-@\t\r＝＋－＠]/.test(cell) ? `'${cell}` : cell);

async function tableBody(format: TableFormat, rows: string[][]): Promise<string | Uint8Array> {
  if (format === 'csv')
    return stringifyAll(
      rows.map((row) => row.map(guard)),
      asCsv,
    );
  const workbook = new ExcelJS.Workbook();
  addSheet(workbook, 'Avrix', rows);
  return new Uint8Array(await workbook.xlsx.writeBuffer());
}

function addSheet(workbook: ExcelJS.Workbook, name: string, rows: string[][]): void {
  const sheet = workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRows(rows);
  sheet.getRow(1).font = { bold: true };
  sheet.columns.forEach((column, i) => {
    // Kept as text also where somebody edits the cell.
    column.numFmt = '@';
    column.alignment = { wrapText: true, vertical: 'top' };
    column.width = Math.min(60, Math.max(10, ...rows.slice(0, 200).map((row) => (row[i] ?? '').length + 2)));
  });
}
