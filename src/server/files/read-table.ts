import { AvrixError } from '../../core/errors';
import { PoolFailed, runInPool } from '../pool';
import type { Table } from './parse-table';

export type { Table, TableRow } from './parse-table';

/** Files of names and links are small; a larger one is something else. */
const largestFile = 5 * 2 ** 20;
/** The largest file that is taken is read in a second or two. */
const longest = 15_000;

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
 * Reads a table from a CSV or XLSX file, in a thread of its own: one that takes too long or too much ends there, and is
 * answered like any other that cannot be read.
 *
 * @param needs columns without which the file is another one
 * @param milliseconds after which reading it is ended
 * @throws AVX_FILE_WRONG naming what is wrong with the file as a whole
 */
export async function readTable(bytes: Buffer, needs: string[], milliseconds = longest): Promise<Table> {
  const read = await runInPool('parseTable', { bytes, needs }, milliseconds).catch((error: unknown) => {
    if (!(error instanceof PoolFailed)) throw error;
    return { wrong: { was: `The file ${error.message}`, fix: 'Save the one sheet as CSV, or in parts' } };
  });
  if ('wrong' in read) throw new AvrixError('AVX_FILE_WRONG', { ...read.wrong });
  return read.table;
}
