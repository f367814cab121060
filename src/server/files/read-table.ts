import { parse } from 'csv-parse/sync';
import ExcelJS from 'exceljs';
import yauzl from 'yauzl';
import { AvrixError } from '../../core/errors';

/** Files of names and links are small; a larger one is something else. */
const largestFile = 5 * 2 ** 20;
/** Unpacked: 20,000 rows of long links are below 30 MB. */
const largestWorkbook = 60 * 2 ** 20;
const mostRows = 20_000;

export interface TableRow {
  /** As a spreadsheet counts, the heading being row 1. */
  row: number;
  /** By the heading's names, trimmed and in small letters. */
  cells: Record<string, string>;
}
export interface Table {
  columns: string[];
  rows: TableRow[];
  /** Rows that cannot be read, and why. */
  problems: { row: number; was: string; wants: string }[];
}

/** Reads a body up to the largest file. @throws AVX_BODY_TOO_LARGE as soon as there is more, however much is to come */
export async function readFileBody(request: Request): Promise<Buffer> {
  const limit = largestFile;
  const told = Number(request.headers.get('content-length') ?? 0);
  if (told > limit) throw new AvrixError('AVX_BODY_TOO_LARGE', { bytes: told, limit });
  const chunks: Uint8Array[] = [];
  let bytes = 0;
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    bytes += chunk.length;
    if (bytes > limit) throw new AvrixError('AVX_BODY_TOO_LARGE', { bytes, limit });
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/**
 * Reads a table from a CSV (RFC 4180; commas, semicolons or tabs; UTF-8 or UTF-16) or XLSX file.
 * @param needs columns without which the file is another one
 * @throws AVX_FILE_WRONG naming what is wrong with the file as a whole
 */
export async function readTable(bytes: Buffer, needs: string[]): Promise<Table> {
  const isWorkbook = bytes.subarray(0, 2).toString('latin1') === 'PK';
  const table = isWorkbook ? await readWorkbook(bytes) : readCsv(bytes);
  const missing = needs.filter((name) => !table.columns.includes(name));
  if (missing.length > 0)
    throw new AvrixError('AVX_FILE_WRONG', {
      was: `The file has no column ${missing.map((name) => `“${name}”`).join(', ')}; it has ${table.columns.filter(Boolean).join(', ') || 'none'}`,
      wants: `Its first row must name ${needs.join(', ')}`,
    });
  if (table.rows.length > mostRows)
    throw new AvrixError('AVX_FILE_WRONG', {
      was: `The file has ${table.rows.length.toLocaleString('en-GB')} rows`,
      wants: `Read in at most ${mostRows.toLocaleString('en-GB')} at a time`,
    });
  return table;
}

function readText(bytes: Buffer): string {
  const encoding =
    bytes[0] === 0xff && bytes[1] === 0xfe ? 'utf-16le' : bytes[0] === 0xfe && bytes[1] === 0xff ? 'utf-16be' : 'utf-8';
  try {
    return new TextDecoder(encoding, { fatal: true }).decode(bytes);
  } catch {
    throw new AvrixError('AVX_FILE_WRONG', {
      was: 'The file’s letters are not in UTF-8',
      wants: 'Save it as “CSV UTF-8”, or as XLSX',
    });
  }
}

/** What a spreadsheet would have run was written with an apostrophe in front; it is taken off again. */
const unguard = (cell: string): string => cell.replace(/^'(?='*[=+\-@\t\r＝＋－＠])/, '');

const columnName = (cell: string): string => unguard(cell).trim().toLowerCase();

function readCsv(bytes: Buffer): Table {
  const text = readText(bytes);
  const [heading = ''] = text.split(/\r?\n/, 1);
  const delimiter = [',', ';', '\t'].sort((a, b) => heading.split(b).length - heading.split(a).length)[0]!;
  let lines: { record: string[]; info: { lines: number } }[];
  try {
    lines = parse(text, {
      ...{ bom: true, delimiter, relax_column_count: true, skip_empty_lines: true, info: true },
      max_record_size: 200_000,
    }) as unknown as typeof lines;
  } catch (error) {
    throw new AvrixError('AVX_FILE_WRONG', {
      was: `The file is no CSV: ${(error as Error).message}`,
      wants: 'Save it from a spreadsheet as CSV or XLSX',
    });
  }
  const columns = (lines[0]?.record ?? []).map(columnName);
  const problems: Table['problems'] = [];
  const rows = lines.slice(1).flatMap(({ record }, index): TableRow[] => {
    const row = index + 2;
    if (record.length > columns.length) {
      const was = `it has ${record.length} cells, the heading ${columns.length}`;
      problems.push({ row, was, wants: 'Put cells that hold a comma into quotation marks.' });
      return [];
    }
    return [{ row, cells: Object.fromEntries(columns.map((name, i) => [name, unguard(record[i] ?? '').trim()])) }];
  });
  return { columns, rows, problems };
}

/** @throws AVX_FILE_WRONG as soon as a workbook unpacks to more than is read, whatever it says of its sizes */
async function refuseLarge(bytes: Buffer): Promise<void> {
  const zip = await yauzl.fromBufferPromise(bytes);
  let unpacked = 0;
  for await (const entry of zip.eachEntry()) {
    for await (const chunk of (await zip.openReadStreamPromise(entry)) as AsyncIterable<Buffer>) {
      unpacked += chunk.length;
      if (unpacked > largestWorkbook)
        throw new AvrixError('AVX_FILE_WRONG', {
          was: `The workbook unpacks to more than ${largestWorkbook / 2 ** 20} MB`,
          wants: 'Save the one sheet as CSV, or in parts',
        });
    }
  }
}

async function readWorkbook(bytes: Buffer): Promise<Table> {
  const workbook = new ExcelJS.Workbook();
  try {
    await refuseLarge(bytes);
    await workbook.xlsx.load(bytes as unknown as ExcelJS.Buffer);
  } catch (error) {
    if (error instanceof AvrixError) throw error;
    throw new AvrixError('AVX_FILE_WRONG', {
      was: 'The file is a workbook that cannot be read',
      wants: 'Save it anew as XLSX or as CSV',
    });
  }
  const sheet = workbook.worksheets[0];
  if (!sheet) throw new AvrixError('AVX_FILE_WRONG', { was: 'The workbook has no sheet', wants: 'Give it one' });
  const columns = Array.from({ length: sheet.columnCount }, (_, i) => columnName(sheet.getCell(1, i + 1).text));
  const problems: Table['problems'] = [];
  const rows: TableRow[] = [];
  for (let row = 2; row <= sheet.rowCount; row++) {
    const cells: Record<string, string> = {};
    let formula = '';
    columns.forEach((name, i) => {
      const cell = sheet.getCell(row, i + 1);
      if (cell.type === ExcelJS.ValueType.Formula) formula = name || cell.address;
      cells[name] = cellText(cell);
    });
    if (Object.values(cells).every((text) => text === '')) continue;
    if (formula) {
      problems.push({ row, was: `“${formula}” holds a formula`, wants: 'Paste its result as a value.' });
      continue;
    }
    rows.push({ row, cells });
  }
  return { columns, rows, problems };
}

function cellText(cell: ExcelJS.Cell): string {
  const { value } = cell;
  if (value instanceof Date) return value.toISOString().slice(0, 10);
  return cell.text.trim();
}
