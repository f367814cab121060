/* eslint-disable no-await-in-loop -- once, at the start; the database has other work too */
import { plain } from '../db';
import type { DomainServices } from '../services';

/**
 * Reads what the edge answers from for every business, so that a process that has just begun goes on answering when the
 * database goes away.
 */
export async function warmEdge({ context: { tables }, businesses, releases, shortLinkBook }: DomainServices) {
  const all = plain(await tables.businesses.findAll({ attributes: ['id', 'key'], limit: 10_000 }));
  for (const { id, key } of all) {
    const business = await businesses.byKey(key);
    for (const { registrable } of business?.websites ?? []) await businesses.byHost(`t.${registrable}`);
    await releases.live(id).catch(() => undefined);
    await shortLinkBook.find(id, '');
  }
}
