import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import yauzl from 'yauzl';
import { columnName, csvOptions, delimiterOf, encodingOf, longRow, notCsv, notText, unguard } from './csv';

/** Unpacked: 20,000 rows of long links are below 30 MB. */
const largestWorkbook = 60 * 2 ** 20;
const most = { rows: 20_000, columns: 200, cells: 400_000 };

export interface TableRow {
  /** As a spreadsheet counts, the heading being row 1. */
  row: number;
  /** By the heading's names, trimmed and in lower case. */
  cells: Record<string, string>;
}
export interface Table {
  columns: string[];
  rows: TableRow[];
  /** Rows that cannot be read, and why. */
  problems: { row: number; was: string; fix: string }[];
}

/** What is wrong with a file as a whole. */
export interface WrongFile {
  was: string;
  fix: string;
}

class Wrong extends Error {
  constructor(readonly file: WrongFile) {
    super(file.was);
  }
}
const wrong = (was: string, fix: string): Wrong => new Wrong({ was, fix });
const shown = (n: number): string => n.toLocaleString('en-GB');

/**
 * Reads a table from a CSV (RFC 4180; commas, semicolons or tabs; UTF-8 or UTF-16) or XLSX file. Runs in the pool, since
 * a file may be made to take long or much. Rows, columns and cells are counted before anything is built of them.
 *
 * @param needs columns without which the file is another one
 */
export async function parseTable({
  bytes,
  needs,
}: {
  bytes: Uint8Array;
  needs: string[];
}): Promise<{ table: Table } | { wrong: WrongFile }> {
  try {
    const file = Buffer.from(bytes);
    const isWorkbook = file.subarray(0, 2).toString('latin1') === 'PK';
    const table = isWorkbook ? await readWorkbook(file) : readCsv(file);
    const missing = needs.filter((name) => !table.columns.includes(name));
    if (missing.length > 0)
      throw wrong(
        `The file has no column ${missing.map((name) => `“${name}”`).join(', ')}; it has ${table.columns.filter(Boolean).join(', ') || 'none'}`,
        `Its first row must name ${needs.join(', ')}`,
      );
    return { table };
  } catch (error) {
    if (error instanceof Wrong) return { wrong: error.file };
    throw error;
  }
}

function refuseMany(rows: number, columns: number): void {
  if (columns > most.columns)
    throw wrong(`The file has ${shown(columns)} columns`, `Read in at most ${shown(most.columns)} of them`);
  if (rows > most.rows)
    throw wrong(`The file has more than ${shown(most.rows)} rows`, `Read in at most ${shown(most.rows)} at a time`);
  if (rows * columns > most.cells)
    throw wrong(
      `The file has ${shown(rows)} rows of ${shown(columns)} columns`,
      `Read in at most ${shown(most.cells)} cells at a time`,
    );
}

function readText(bytes: Buffer): string {
  try {
    return new TextDecoder(encodingOf(bytes), { fatal: true }).decode(bytes);
  } catch {
    throw new Wrong(notText);
  }
}

function readCsv(bytes: Buffer): Table {
  const text = readText(bytes);
  const [heading = ''] = text.split(/\r?\n/, 1);
  const delimiter = delimiterOf(heading);
  const records = (options: { to: number }) => {
    try {
      return parse(text, { ...csvOptions(delimiter), ...options }) as unknown as string[][];
    } catch (error) {
      throw new Wrong(notCsv(error));
    }
  };
  const columns = (records({ to: 1 })[0] ?? []).map(columnName);
  refuseMany(0, columns.length);
  // The heading, and one row more than is read.
  const lines = records({ to: most.rows + 2 });
  refuseMany(lines.length - 1, columns.length);
  const problems: Table['problems'] = [];
  const rows = lines.slice(1).flatMap((record, index): TableRow[] => {
    const row = index + 2;
    if (record.length > columns.length) {
      problems.push({ row, ...longRow(record.length, columns.length) });
      return [];
    }
    return [{ row, cells: Object.fromEntries(columns.map((name, i) => [name, unguard(record[i] ?? '').trim()])) }];
  });
  return { columns, rows, problems };
}

/** @throws Wrong as soon as a workbook unpacks to more than is read, whatever it says of its sizes */
async function refuseLarge(bytes: Buffer): Promise<void> {
  const zip = await yauzl.fromBufferPromise(bytes);
  let unpacked = 0;
  for await (const entry of zip.eachEntry()) {
    for await (const chunk of (await zip.openReadStreamPromise(entry)) as AsyncIterable<Buffer>) {
      unpacked += chunk.length;
      if (unpacked > largestWorkbook)
        throw wrong(
          `The workbook unpacks to more than ${largestWorkbook / 2 ** 20} MB`,
          'Save the one sheet as CSV, or in parts',
        );
    }
  }
}

async function readWorkbook(bytes: Buffer): Promise<Table> {
  const workbook = new ExcelJS.Workbook();
  try {
    await refuseLarge(bytes);
    await workbook.xlsx.load(bytes as unknown as ExcelJS.Buffer);
  } catch (error) {
    if (error instanceof Wrong) throw error;
    throw wrong('The file is a workbook that cannot be read', 'Save it anew as XLSX or as CSV');
  }
  const sheet = workbook.worksheets[0];
  if (!sheet) throw wrong('The workbook has no sheet', 'Give it one');
  // Only rows and cells that are there are looked at: one far cell makes a sheet of a thousand million.
  const headings: [column: number, name: string][] = [];
  sheet.findRow(1)?.eachCell((cell, column) => headings.push([column, columnName(cell.text)]));
  const columns = headings.filter(([, name]) => name !== '');
  let filled = 0;
  sheet.eachRow(() => (filled += 1));
  refuseMany(filled - 1, columns.length);
  const problems: Table['problems'] = [];
  const rows: TableRow[] = [];
  sheet.eachRow((found, row) => {
    if (row === 1) return;
    const cells: Record<string, string> = Object.fromEntries(columns.map(([, name]) => [name, '']));
    let problem: WrongFile | null = null;
    found.eachCell((cell, column) => {
      const name = columns.find(([at]) => at === column)?.[1];
      const text = cellText(cell);
      if (name !== undefined) cells[name] = text;
      if (text === '') return;
      if (name === undefined)
        problem = { was: `the cell ${cell.address} has no heading above it`, fix: 'Give its column a name.' };
      else if (cell.type === ExcelJS.ValueType.Formula)
        problem = { was: `“${name}” holds a formula`, fix: 'Paste its result as a value.' };
    });
    if (problem) problems.push({ row, ...(problem as WrongFile) });
    else if (Object.values(cells).some((text) => text !== '')) rows.push({ row, cells });
  });
  return { columns: columns.map(([, name]) => name), rows, problems };
}

/** A day, or a moment as clocks show it: a workbook says no zone. */
function writtenTime(at: Date): string {
  const text = at.toISOString().slice(0, 19).replace('T', ' ');
  return text.endsWith(' 00:00:00') ? text.slice(0, 10) : text;
}

function cellText(cell: ExcelJS.Cell): string {
  const { value } = cell;
  if (value instanceof Date) return writtenTime(value);
  return cell.text.trim();
}
