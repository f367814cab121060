/* eslint-disable no-await-in-loop -- what comes bit by bit is waited for bit by bit */
import { Readable } from 'node:stream';
import { parse } from 'csv-parse';
import { AvrixError } from '../../core/errors';
import { columnName, csvOptions, delimiterOf, encodingOf, longRow, notCsv, notText, unguard } from './csv';
import type { WrongFile } from './parse-table';
import { readTable } from './read-table';

/** A row of a table that is read bit by bit: its cells by the headings of their columns, or why it cannot be read. */
export type StreamedRow = { row: number } & ({ cells: Record<string, string> } | WrongFile);

/** The longest heading (bytes) that is looked for. */
const longestHeading = 2 ** 16;
const mostColumns = 200;

/**
 * Reads a table from the bytes of a CSV file as they come, in the memory of some rows; a workbook is read as a whole, which
 * takes 20,000 rows at most.
 *
 * @throws AVX_FILE_WRONG naming what is wrong with the file as a whole, also in the midst of its rows
 */
export async function streamTable(
  chunks: AsyncIterable<Buffer>,
): Promise<{ columns: string[]; rows: AsyncIterable<StreamedRow> }> {
  const source = chunks[Symbol.asyncIterator]();
  let begun = Buffer.alloc(0);
  let isWhole = false;
  while (!isWhole && begun.length < longestHeading && !begun.includes(0x0a)) {
    const { value, done } = await source.next();
    if (done) isWhole = true;
    else begun = Buffer.concat([begun, value]);
  }
  async function* all() {
    yield begun;
    for (let next = isWhole ? null : await source.next(); next && !next.done; next = await source.next())
      yield next.value;
  }
  if (begun.subarray(0, 2).toString('latin1') === 'PK') {
    const parts: Buffer[] = [];
    for await (const part of all()) parts.push(part);
    const { columns, rows, problems } = await readTable(Buffer.concat(parts), []);
    return { columns, rows: inOrder([...rows, ...problems]) };
  }
  return streamCsv(begun, all());
}

async function* inOrder(rows: StreamedRow[]): AsyncGenerator<StreamedRow> {
  yield* rows.sort((a, b) => a.row - b.row);
}

async function streamCsv(begun: Buffer, chunks: AsyncIterable<Buffer>) {
  const heading = new TextDecoder(encodingOf(begun)).decode(begun).split(/\r?\n/, 1)[0]!;
  const text = Readable.from(decoded(chunks, encodingOf(begun)));
  const parser = parse(csvOptions(delimiterOf(heading)));
  text.on('error', (error) => parser.destroy(error));
  const records = text.pipe(parser)[Symbol.asyncIterator]() as AsyncIterator<string[]>;
  const next = async () => {
    try {
      return await records.next();
    } catch (error) {
      if (error instanceof AvrixError) throw error;
      throw new AvrixError('AVX_FILE_WRONG', notCsv(error));
    }
  };
  const first = await next();
  const columns = first.done ? [] : first.value.map(columnName);
  if (columns.length > mostColumns)
    throw new AvrixError('AVX_FILE_WRONG', {
      was: `The file has ${columns.length} columns`,
      fix: `Read in at most ${mostColumns} of them`,
    });
  async function* rows(): AsyncGenerator<StreamedRow> {
    let row = 1;
    for (let one = await next(); !one.done; one = await next()) {
      row += 1;
      const cells = one.value;
      if (cells.length > columns.length) yield { row, ...longRow(cells.length, columns.length) };
      else yield { row, cells: Object.fromEntries(columns.map((name, i) => [name, unguard(cells[i] ?? '').trim()])) };
    }
  }
  return { columns, rows: rows() };
}

/** @throws AVX_FILE_WRONG where bytes are no text */
async function* decoded(chunks: AsyncIterable<Buffer>, encoding: string): AsyncGenerator<string> {
  const decoder = new TextDecoder(encoding, { fatal: true });
  const read = (chunk?: Buffer) => {
    try {
      return decoder.decode(chunk, { stream: chunk !== undefined });
    } catch {
      throw new AvrixError('AVX_FILE_WRONG', notText);
    }
  };
  for await (const chunk of chunks) yield read(chunk);
  yield read();
}
