/* eslint-disable no-await-in-loop -- pages of one list, until one is not full */
import { Op } from 'sequelize';
import type { Context } from '../context';
import { plain, type ShortLinkRow } from '../db';
import { makeLastKnown } from '../last-known';

export type ShortLinkBook = ReturnType<typeof makeShortLinkBook>;

const atOnce = 5000;
/** How far back (ms) each look goes: a change may be committed after a later one. */
const overlap = 10_000;

interface Page {
  byPath: Map<string, ShortLinkRow>;
  /** The newest change that was read, by the database's clock: the processes' own may differ. */
  until: Date;
}

/**
 * The last-known copy of every short link, by path, so that the edge answers while the database is away. What changed is
 * read anew every two seconds at most; the rest is kept.
 */
export function makeShortLinkBook({ tables }: Context) {
  const pages = new Map<string, Page>();

  const read = makeLastKnown(async (businessId): Promise<Page> => {
    const page = pages.get(businessId) ?? { byPath: new Map<string, ShortLinkRow>(), until: new Date(0) };
    const since = new Date(Math.max(0, page.until.getTime() - overlap));
    for (let offset = 0; ; offset += atOnce) {
      const rows = plain(
        await tables.shortLinks.findAll({
          where: { businessId, stamp: { [Op.gte]: since } },
          order: [
            ['stamp', 'ASC'],
            ['id', 'ASC'],
          ],
          limit: atOnce,
          offset,
        }),
      );
      for (const row of rows) page.byPath.set(row.path, row);
      if (rows.length < atOnce) {
        page.until = rows.at(-1)?.stamp ?? page.until;
        pages.set(businessId, page);
        return page;
      }
    }
  });

  return {
    async find(businessId: string, path: string): Promise<ShortLinkRow | null> {
      return (await read.get(businessId)).byPath.get(path) ?? null;
    },
    forget: (businessId: string) => read.forget(businessId),
  };
}
