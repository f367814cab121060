import { pageOf } from '../../core/capture';
import { awaitedPaths, movedPage, type MovedPage, type Step } from '../../core/events/moved';
import type { EventRule } from '../../core/events/schema';
import type { Context } from '../context';
import { selectRows, text, whole } from '../db';

const day = 86_400_000;
/** Steps that are looked at, the newest ones. */
const mostSteps = 2000;

/** Finds the page that took the place of the one that a quiet event waits for. */
export function makeFindMoved({ db }: Pick<Context, 'db'>) {
  /** Steps from own pages to some pages, counted. */
  async function readSteps(businessId: string, pages: string[], from: Date, to: Date): Promise<Step[]> {
    if (pages.length === 0) return [];
    const rows = await selectRows(
      db,
      { referrer: text().nullable(), page: text(), count: whole().of('COUNT(*)') },
      `FROM (SELECT JSON_VALUE(body, '$.referrer') AS referrer, page FROM hits FORCE INDEX (by_time)
        WHERE business_id = ? AND at >= ? AND at < ? AND kind = 'arrived' AND page IN (?)
        ORDER BY at DESC LIMIT ${mostSteps}) AS steps GROUP BY referrer, page`,
      [businessId, from, to, pages],
    );
    return rows.flatMap(({ referrer, page, count }) => {
      const before = pageOf(referrer ?? '');
      return before === '' ? [] : [{ from: before, to: page, count }];
    });
  }

  /** @param lastAt when (ms) the event was last counted */
  return async function findMoved(
    businessId: string,
    rule: EventRule,
    lastAt: number,
    now: number,
  ): Promise<MovedPage | null> {
    const paths = awaitedPaths(rule);
    if (paths.length === 0) return null;
    const last = new Date(lastAt);
    const weeksBefore = new Date(lastAt - 56 * day);
    const pages = await selectRows(
      db,
      { page: text(), first: text().of('CAST(MIN(day) AS CHAR)') },
      'FROM page_days WHERE business_id = ? AND day >= ? GROUP BY page LIMIT 20000',
      [businessId, weeksBefore.toISOString().slice(0, 10)],
    );
    const lastDay = last.toISOString().slice(0, 10);
    const awaited = pages.filter(({ page }) => paths.includes(page.slice(page.indexOf('/')))).map(({ page }) => page);
    const fresh = pages.filter(({ first }) => first >= lastDay).map(({ page }) => page);
    const [before, since] = await Promise.all([
      readSteps(businessId, awaited, weeksBefore, new Date(lastAt + 1)),
      readSteps(businessId, fresh, last, new Date(now)),
    ]);
    return movedPage(before, since);
  };
}
