import { QueryTypes, type Sequelize } from 'sequelize';
import type { Stopped } from '../../core/capture/stopped';
import type { ArrivedHit } from '../../core/capture';
import type { Returns } from '../../core/capture/capped';
import type { CountedFinding, Quarantined } from '../../core/capture/faults';

/** Pages (host and path) where the snippet was seen since a day, with how often. */
export async function readPagesSeen(
  db: Sequelize,
  businessId: string,
  since: string,
): Promise<{ page: string; arrivals: number; lastAt: Date }[]> {
  const rows = await db.query<{ page: string; arrivals: number; lastAt: Date }>(
    `SELECT page, SUM(arrivals) AS arrivals, MAX(last_at) AS lastAt
     FROM page_days WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY page ORDER BY arrivals DESC LIMIT 500`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, arrivals: Number(row.arrivals) }));
}

/** Whether anything was ever recorded of a business. A model's `findOne` would read the ID of every hit. */
export async function isRecorded(db: Sequelize, businessId: string): Promise<boolean> {
  const rows = await db.query('SELECT 1 AS one FROM hits WHERE business_id = ? LIMIT 1', {
    replacements: [businessId],
    type: QueryTypes.SELECT,
  });
  return rows.length > 0;
}

/** Visits that followed another of the same browser since a day, by its engine: within 7 days of it, and later. */
export async function readReturns(db: Sequelize, businessId: string, since: string): Promise<Returns[]> {
  const rows = await db.query<Returns>(
    `SELECT browser, SUM(soon) AS soon, SUM(later) AS later FROM return_days
     WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY browser`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ browser: row.browser, soon: Number(row.soon), later: Number(row.later) }));
}

/** What could not be stored or worked out since a time, by kind and reason, the newest first. */
export async function readQuarantine(
  db: Sequelize,
  businessId: string,
  since: Date,
): Promise<(Omit<Quarantined, 'lastAt'> & { lastAt: Date })[]> {
  const rows = await db.query<Omit<Quarantined, 'lastAt'> & { lastAt: Date }>(
    `SELECT kind, reason, SUM(IF(kind = 'body', JSON_VALUE(body, '$.times'), 1)) AS n, MAX(received_at) AS lastAt
     FROM quarantine
     WHERE business_id = ? AND received_at >= ? GROUP BY kind, reason ORDER BY lastAt DESC LIMIT 20`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, n: Number(row.n) }));
}

/** Which of some pages told of themselves since a day. */
export async function readSeenAmong(
  db: Sequelize,
  businessId: string,
  pages: string[],
  since: string,
): Promise<Set<string>> {
  if (pages.length === 0) return new Set();
  const rows = await db.query<{ page: string }>(
    'SELECT DISTINCT page FROM page_days WHERE business_id = ? AND page IN (?) AND day >= ?',
    { replacements: [businessId, pages, since], type: QueryTypes.SELECT },
  );
  return new Set(rows.map(({ page }) => page));
}

/** What arrivals show of faults since a day, the commonest first. */
export async function readFindings(db: Sequelize, businessId: string, since: string): Promise<CountedFinding[]> {
  const rows = await db.query<Omit<CountedFinding, 'lastAt'> & { lastAt: Date }>(
    `SELECT kind, name, page, campaign, detail, SUM(times) AS times, MAX(last_at) AS lastAt FROM finding_days
     WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY kind, name, page, campaign, detail ORDER BY times DESC LIMIT 5000`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
  return rows.map((row) => ({ ...row, times: Number(row.times), lastAt: row.lastAt.getTime() }));
}

/** Pages whose policy stopped the snippet in somebody's browser since a time, and that told of nothing after that. */
export async function readStopped(
  db: Sequelize,
  businessId: string,
  since: Date,
): Promise<(Stopped & { lastAt: Date })[]> {
  return db.query(
    `SELECT page, directive, wanted, last_at AS lastAt FROM stopped_pages
     WHERE business_id = ? AND last_at >= ? AND NOT EXISTS (
       SELECT 1 FROM page_days WHERE page_days.business_id = stopped_pages.business_id
         AND page_days.page = stopped_pages.page AND page_days.last_at > stopped_pages.last_at)
     ORDER BY last_at DESC LIMIT 200`,
    { replacements: [businessId, since], type: QueryTypes.SELECT },
  );
}

/** What the newest arrivals kept. */
export async function readNewestKept(db: Sequelize, businessId: string): Promise<ArrivedHit['kept'][]> {
  const rows = await db.query<{ body: ArrivedHit }>(
    "SELECT body FROM hits WHERE business_id = ? AND kind = 'arrived' ORDER BY id DESC LIMIT 300",
    { replacements: [businessId], type: QueryTypes.SELECT },
  );
  return rows.map(({ body }) => body.kept);
}
