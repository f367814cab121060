/* eslint-disable no-await-in-loop -- part by part, so that memory holds one */
import type { Transaction } from 'sequelize';
import type { Context } from '../../context';
import { insertRows } from '../../db';

const chunkSize = 2 ** 19;

/** Keeps the bytes of a file, in parts. */
export async function storeContent(
  { tables }: Pick<Context, 'tables'>,
  of: { businessId: string; fileId: string },
  bytes: Buffer,
  transaction: Transaction,
): Promise<void> {
  for (let n = 0; n * chunkSize < bytes.length; n += 1) {
    const part = bytes.subarray(n * chunkSize, (n + 1) * chunkSize);
    await insertRows(tables.filedChunks, [{ ...of, n, bytes: part }], [], transaction);
  }
}

/** The bytes of a file, part by part. */
export async function* readContent(
  { tables }: Pick<Context, 'tables'>,
  { businessId, id: fileId }: { businessId: string; id: string },
): AsyncGenerator<Buffer> {
  for (let n = 0; ; n += 1) {
    const chunk = await tables.filedChunks.findOne({ where: { businessId, fileId, n } });
    if (!chunk) return;
    yield chunk.get({ plain: true }).bytes;
  }
}
