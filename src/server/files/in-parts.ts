/* eslint-disable no-await-in-loop -- a part is read once the one before is taken */
/** At most this many rows of a list stand in one file. */
export const mostInFile = 1_000_000;
const partSize = 2000;

/** Rows read part by part, so that a file of any length takes the memory of one part. */
export async function* inParts<Row>(ids: string[], read: (ids: string[]) => Promise<Row[]>): AsyncGenerator<Row[]> {
  for (let at = 0; at < ids.length; at += partSize) yield await read(ids.slice(at, at + partSize));
}
