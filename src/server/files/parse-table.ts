import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import yauzl from 'yauzl';

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
  const encoding =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes);
  } catch {
    throw wrong('The file’s letters are not in UTF-8', 'Save it as “CSV UTF-8”, or as XLSX');
  }
}

/** What a spreadsheet would have run was written with an apostrophe in front; it is taken off again. */
const unguard = (cell: string): string => cell.replace(/^'(?='*[=+\-@\t\r＝＋－＠])/, '');

const columnName = (cell: string): string => unguard(cell).trim().toLowerCase();

function readCsv(bytes: Buffer): Table {
  const text = readText(bytes);
  const [heading = ''] = text.split(/\r?\n/, 1);
  const delimiter = [',', ';', '\t'].sort((a, b) => heading.split(b).length - heading.split(a).length)[0]!;
  const records = (options: { to: number }) => {
    try {
      return parse(text, {
        bom: true,
        delimiter,
        relax_column_count: true,
        skip_empty_lines: true,
        max_record_size: 200_000,
        ...options,
      }) as unknown as string[][];
    } catch (error) {
      throw wrong(`The file is no CSV: ${(error as Error).message}`, 'Save it from a spreadsheet as CSV or XLSX');
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
      const was = `it has ${record.length} cells, the heading ${columns.length}`;
      problems.push({ row, was, fix: 'Put cells that hold a comma into quotation marks.' });
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

function cellText(cell: ExcelJS.Cell): string {
  const { value } = cell;
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  return cell.text.trim();
}
