import type { Sequelize } from 'sequelize';
import type { Hit } from '../../core/capture';
import type { JustInQuery } from '../../core/results/just-in-view';
import type { Mark } from '../../core/strands';
import { events, eventTellings } from '../events/table';
import { hits } from '../capture/table';
import { json, likeText, orNull, pick, selectOne, selectRows, text, time, uuid, whole } from '../db';
import { firstIdAt } from '../ids';
import { enquiries, leads } from '../leads/table';
import { orders } from '../orders/table';
import { outcomes } from '../outcomes/table';
import { attempts, reportBacks } from '../reportbacks/table';

/*
 * What came in since some time, the newest first. Each kind is read by its own index of time, so that what is asked for each
 * second costs little however much there is.
 */

/** Since when, what is looked for, and at most how many rows. */
export interface Since {
  from: Date;
  find: string;
  whose: JustInQuery['whose'];
  browser: string;
  limit: number;
}

/** An attempt takes no longer than this (ms); its ID is of when it began. */
const longest = 86_400_000;

/** Adds what is looked for, and whose. @param finds columns to look in @param marked what a browser's mark is read by */
function narrowed({ find, whose, browser }: Since, finds: string[], visitor: string, marked: string) {
  const where: string[] = [];
  const values: unknown[] = [];
  if (find !== '') {
    where.push(`(${finds.map((column) => `${column} LIKE ?`).join(' OR ')})`);
    values.push(...finds.map(() => likeText(find)));
  }
  if (whose === 'browser') {
    where.push(`${visitor} = ?`);
    values.push(browser);
  }
  if (whose === 'customers') where.push(`${marked} = ''`);
  if (whose === 'marked') where.push(`${marked} = 'browser'`);
  return { sql: where.map((one) => ` AND ${one}`).join(''), values };
}

/** Why a hit is no customer's, as far as the hit itself says it. */
const markOfHit = `CASE WHEN h.bot THEN 'bot' WHEN h.own_network THEN 'network'
  WHEN JSON_VALUE(h.body, '$.noCustomer') IS NOT NULL THEN 'browser' ELSE '' END`;

export function readHitsIn(db: Sequelize, businessId: string, since: Since) {
  const { sql, values } = narrowed(since, ['h.page'], 'h.visitor_id', markOfHit);
  return selectRows(
    db,
    {
      ...pick(hits, ['id', 'visitorId', 'at', 'releaseNumber', 'page'], 'h'),
      body: json<Hit>().of('h.body'),
      marked: text<Mark>().of(markOfHit),
    },
    `FROM hits h WHERE h.business_id = ? AND h.at >= ?${sql} ORDER BY h.at DESC LIMIT ?`,
    [businessId, since.from, ...values, since.limit],
  );
}

export function readEventsIn(db: Sequelize, businessId: string, since: Since) {
  const { sql, values } = narrowed(since, ['e.name', 'e.page'], 'e.visitor_id', 'e.marked');
  return selectRows(
    db,
    pick(events, ['id', 'name', 'visitorId', 'page', 'at', 'marked', 'releaseNumber'], 'e'),
    `FROM events e WHERE e.business_id = ? AND e.at >= ?${sql} ORDER BY e.at DESC LIMIT ?`,
    [businessId, since.from, ...values, since.limit],
  );
}

export function readEnquiriesIn(db: Sequelize, businessId: string, since: Since, seesPeople: boolean) {
  const finds = ['e.form', 'e.page', ...(seesPeople ? ['l.name', 'l.company'] : [])];
  const { sql, values } = narrowed(since, finds, 'e.visitor_id', 'e.marked');
  return selectRows(
    db,
    {
      ...pick(enquiries, ['id', 'visitorId', 'form', 'page', 'sentAt', 'marked', 'releaseNumber', 'wayIn'], 'e'),
      ...orNull(pick(leads, ['name', 'company'], 'l')),
    },
    `FROM enquiries e LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
     WHERE e.business_id = ? AND e.sent_at >= ?${sql} ORDER BY e.sent_at DESC LIMIT ?`,
    [businessId, since.from, ...values, since.limit],
  );
}

export function readOrdersIn(db: Sequelize, businessId: string, since: Since) {
  const { sql, values } = narrowed(since, ['o.number', 'o.page'], 'o.visitor_id', 'o.marked');
  return selectRows(
    db,
    pick(orders, ['id', 'number', 'visitorId', 'page', 'at', 'marked', 'releaseNumber', 'strands'], 'o'),
    `FROM orders o WHERE o.business_id = ? AND o.at >= ?${sql} ORDER BY o.at DESC LIMIT ?`,
    [businessId, since.from, ...values, since.limit],
  );
}

/** What platforms answered to report-backs; each try once more. */
export function readAnswersIn(db: Sequelize, businessId: string, since: Since) {
  const visitor = 'COALESCE(e.visitor_id, n.visitor_id, c.visitor_id)';
  const { sql, values } = narrowed(since, ['r.account', 'o.code', 'a.answer'], visitor, "''");
  return selectRows(
    db,
    {
      ...pick(attempts, ['id', 'reportBackId', 'endedAt', 'status', 'answer'], 'a'),
      ...pick(reportBacks, ['account'], 'r'),
      ...pick(outcomes, ['code'], 'o'),
      visitorId: uuid().nullable().of(visitor),
    },
    `FROM attempts a JOIN report_backs r ON r.business_id = a.business_id AND r.id = a.report_back_id
     JOIN outcomes o ON o.business_id = r.business_id AND o.id = r.outcome_id
     LEFT JOIN enquiries e ON r.subject_kind = 'enquiry' AND e.business_id = r.business_id AND e.id = r.subject_id
     LEFT JOIN orders n ON r.subject_kind = 'order' AND n.business_id = r.business_id AND n.id = r.subject_id
     LEFT JOIN conversions c ON r.subject_kind = 'conversion' AND c.business_id = r.business_id AND c.id = r.subject_id
     WHERE a.business_id = ? AND a.id >= ? AND a.ended_at >= ?${sql} ORDER BY a.id DESC LIMIT ?`,
    [businessId, firstIdAt(since.from.getTime() - longest), since.from, ...values, since.limit],
  );
}

/** What destinations answered to events, or why they were not told. */
export function readTellingsIn(db: Sequelize, businessId: string, since: Since) {
  const { sql, values } = narrowed(since, ['t.event', 't.account'], 'e.visitor_id', 'e.marked');
  return selectRows(
    db,
    {
      ...pick(eventTellings, ['id', 'event', 'account', 'toldBy', 'state', 'reason'], 't'),
      at: time().of('COALESCE(t.told_at, t.made_at)'),
      ...pick(events, ['visitorId', 'page', 'marked'], 'e'),
    },
    `FROM event_tellings t JOIN events e ON e.business_id = t.business_id AND e.id = t.event_row_id
     WHERE t.business_id = ? AND t.happened_at >= ? AND t.state NOT IN ('waiting', 'worked out')${sql}
     ORDER BY t.happened_at DESC LIMIT ?`,
    [businessId, since.from, ...values, since.limit],
  );
}

/** How many hits came since some time, how many of them under a release, and when the newest came. */
export async function countCameIn(db: Sequelize, businessId: string, from: Date, release: number) {
  const { hits: came, underLive } = await selectOne(
    db,
    { hits: whole().of('COUNT(*)'), underLive: whole().of('COALESCE(SUM(release_number = ?), 0)') },
    'FROM hits WHERE business_id = ? AND at >= ?',
    [release, businessId, from],
  );
  const of = (table: string, column: string) =>
    selectOne(db, { rows: whole().of('COUNT(*)') }, `FROM ${table} WHERE business_id = ? AND ${column} >= ?`, [
      businessId,
      from,
    ]);
  const [eventsIn, enquiriesIn, ordersIn] = await Promise.all([
    of('events', 'at'),
    of('enquiries', 'sent_at'),
    of('orders', 'at'),
  ]);
  return { hits: came, underLive, events: eventsIn.rows, leads: enquiriesIn.rows, orders: ordersIn.rows };
}

/** When the newest hit came; null where none ever did. */
export async function readNewestHit(db: Sequelize, businessId: string): Promise<Date | null> {
  const [row] = await selectRows(db, pick(hits, ['at']), 'FROM hits WHERE business_id = ? ORDER BY at DESC LIMIT 1', [
    businessId,
  ]);
  return row?.at ?? null;
}
