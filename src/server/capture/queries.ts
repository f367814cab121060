import type { Sequelize } from 'sequelize';
import { json, pick, selectRows, text, time, whole } from '../db';
import type { Stopped } from '../../core/capture/stopped';
import type { ArrivedHit } from '../../core/capture';
import type { Returns } from '../../core/capture/capped';
import type { CountedFinding, Quarantined } from '../../core/capture/faults';
import { findingDays, pageDays, returnDays } from '../rollups/table';
import type { FollowedSending } from '../../core/capture/fields-in-crm';
import { deals, enquiries } from '../leads/table';
import { hits, stoppedPages } from './table';

/** Pages (host and path) where the snippet was seen since a day, with how often. */
export async function readPagesSeen(
  db: Sequelize,
  businessId: string,
  since: string,
): Promise<{ page: string; arrivals: number; lastAt: Date }[]> {
  return selectRows(
    db,
    { ...pick(pageDays, ['page']), arrivals: whole().of('SUM(arrivals)'), lastAt: time().of('MAX(last_at)') },
    `FROM page_days WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY page ORDER BY arrivals DESC LIMIT 500`,
    [businessId, since],
  );
}

/** Every page (host and path) that was reached since a day, 20,000 at most. */
export async function readEveryPage(db: Sequelize, businessId: string, since: Date): Promise<string[]> {
  const rows = await selectRows(
    db,
    pick(pageDays, ['page']),
    'FROM page_days WHERE business_id = ? AND day >= ? GROUP BY page LIMIT 20000',
    [businessId, since.toISOString().slice(0, 10)],
  );
  return rows.map(({ page }) => page);
}

/** The paths that were reached most since a day, the most often reached first. */
export async function readPathsSeen(db: Sequelize, businessId: string, since: Date, most: number): Promise<string[]> {
  const rows = await selectRows(
    db,
    { ...pick(pageDays, ['page']), arrivals: whole().of('SUM(arrivals)') },
    'FROM page_days WHERE business_id = ? AND day >= ? GROUP BY page ORDER BY SUM(arrivals) DESC LIMIT ?',
    [businessId, since.toISOString().slice(0, 10), most],
  );
  return [...new Set(rows.map(({ page }) => page.slice(page.indexOf('/'))))];
}

/** Whether anything was ever recorded of a business. */
export async function isRecorded(db: Sequelize, businessId: string): Promise<boolean> {
  const rows = await selectRows(db, pick(hits, ['id']), 'FROM hits WHERE business_id = ? LIMIT 1', [businessId]);
  return rows.length > 0;
}

/** Visits that followed another of the same browser since a day, by its engine: within 7 days of it, and later. */
export async function readReturns(db: Sequelize, businessId: string, since: string): Promise<Returns[]> {
  return selectRows(
    db,
    { ...pick(returnDays, ['browser']), soon: whole().of('SUM(soon)'), later: whole().of('SUM(later)') },
    `FROM return_days WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY browser`,
    [businessId, since],
  );
}

/** The newest sendings since a time that the CRM has a record of, newest first: what was filled, and the record's fields. */
export async function readFollowedSendings(db: Sequelize, businessId: string, since: Date): Promise<FollowedSending[]> {
  const rows = await selectRows(
    db,
    { ...pick(enquiries, ['form', 'fills'], 'e'), record: deals.columns.record.of('d.record') },
    `FROM enquiries e JOIN deals d ON d.business_id = e.business_id AND d.id = e.deal_id
     WHERE e.business_id = ? AND e.sent_at >= ? AND e.hit_id IS NOT NULL ORDER BY e.sent_at DESC LIMIT 200`,
    [businessId, since],
  );
  return rows.map(({ form, fills, record }) => ({ form, fills: fills ?? [], record: record.fields }));
}

/** What could not be stored or worked out since a time, by kind and reason, the newest first. */
export async function readQuarantine(
  db: Sequelize,
  businessId: string,
  since: Date,
): Promise<(Omit<Quarantined, 'lastAt'> & { lastAt: Date })[]> {
  return selectRows(
    db,
    {
      kind: text<Quarantined['kind']>(),
      reason: text(),
      n: whole().of("SUM(IF(kind = 'body', JSON_VALUE(body, '$.times'), 1))"),
      lastAt: time().of('MAX(received_at)'),
    },
    'FROM quarantine WHERE business_id = ? AND received_at >= ? GROUP BY kind, reason ORDER BY lastAt DESC LIMIT 20',
    [businessId, since],
  );
}

/** Which of some pages told of themselves since a day. */
export async function readSeenAmong(
  db: Sequelize,
  businessId: string,
  pages: string[],
  since: string,
): Promise<Set<string>> {
  if (pages.length === 0) return new Set();
  const rows = await selectRows(
    db,
    pick(pageDays, ['page']),
    'FROM page_days WHERE business_id = ? AND page IN (?) AND day >= ? GROUP BY page',
    [businessId, pages, since],
  );
  return new Set(rows.map(({ page }) => page));
}

/** What arrivals show of faults since a day, the commonest first. */
export async function readFindings(db: Sequelize, businessId: string, since: string): Promise<CountedFinding[]> {
  const rows = await selectRows(
    db,
    {
      ...pick(findingDays, ['kind', 'name', 'page', 'campaign', 'detail']),
      times: whole().of('SUM(times)'),
      lastAt: time().of('MAX(last_at)'),
    },
    `FROM finding_days WHERE business_id = ? AND zone = '' AND day >= ?
     GROUP BY kind, name, page, campaign, detail ORDER BY times DESC LIMIT 5000`,
    [businessId, since],
  );
  return rows.map((row) => ({ ...row, lastAt: row.lastAt.getTime() }));
}

/** How often each carry name arrived empty since a day. */
export async function readEmptyCarries(
  db: Sequelize,
  businessId: string,
  since: string,
): Promise<Record<string, number>> {
  const rows = await selectRows(
    db,
    { ...pick(findingDays, ['name']), times: whole().of('SUM(times)') },
    `FROM finding_days WHERE business_id = ? AND zone = '' AND day >= ? AND kind = 'carry_empty'
     GROUP BY name LIMIT 200`,
    [businessId, since],
  );
  return Object.fromEntries(rows.map(({ name, times }) => [name, times]));
}

/** Pages whose policy stopped the snippet in somebody's browser since a time, and that told of nothing after that. */
export async function readStopped(
  db: Sequelize,
  businessId: string,
  since: Date,
): Promise<(Stopped & { lastAt: Date })[]> {
  return selectRows(
    db,
    pick(stoppedPages, ['page', 'directive', 'wanted', 'lastAt']),
    `FROM stopped_pages
     WHERE business_id = ? AND last_at >= ? AND NOT EXISTS (
       SELECT 1 FROM page_days WHERE page_days.business_id = stopped_pages.business_id
         AND page_days.page = stopped_pages.page AND page_days.last_at > stopped_pages.last_at)
     ORDER BY last_at DESC LIMIT 200`,
    [businessId, since],
  );
}

/** What the newest arrivals kept. */
export async function readNewestKept(db: Sequelize, businessId: string): Promise<ArrivedHit['kept'][]> {
  const rows = await selectRows(
    db,
    { body: json<ArrivedHit>() },
    "FROM hits WHERE business_id = ? AND kind = 'arrived' ORDER BY id DESC LIMIT 300",
    [businessId],
  );
  return rows.map(({ body }) => body.kept);
}
