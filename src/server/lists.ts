/* eslint-disable no-await-in-loop -- a part is read once the one before is taken */
import type { Cursor } from './cursor';

/** Rows on one page of a list. */
export const pageSize = 50;

/** Which part of a list: so many rows, behind others; `after` goes on behind a place of the list, newest first. */
export interface Part {
  limit: number;
  offset?: number;
  after?: Cursor | null;
}

/** At most this many rows of a list stand in one file. */
export const mostInFile = 1_000_000;
const partSize = 2000;

/**
 * Rows read part by part, so that a file of any length takes the memory of two parts: one is read while the one before is
 * worked on.
 *
 * @param of what they are read by, such as IDs
 * @param size so many of them at once
 */
export async function* inParts<One, Row>(
  of: readonly One[],
  read: (part: One[]) => Promise<Row[]>,
  size = partSize,
): AsyncGenerator<Row[]> {
  let next: Promise<Row[]> | null = null;
  for (let at = 0; at < of.length; at += size) {
    const rows: Row[] = await (next ?? read(of.slice(at, at + size)));
    const behind = of.slice(at + size, at + 2 * size);
    next = behind.length > 0 ? read(behind) : null;
    // Who stops before the end never asks for it, and then its failure is nobody's.
    next?.catch(() => {});
    yield rows;
  }
}

/** Rows in the order of IDs; what is gone meanwhile is left out. */
export function inOrderOf<Row extends { id: string }>(ids: string[], rows: Row[]): Row[] {
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}
