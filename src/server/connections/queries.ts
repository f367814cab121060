import type { Sequelize } from 'sequelize';
import { selectRows, text, time, uuid, whole } from '../db';

/** What report-backs of each account came to: their number by state, and when the newest of them was answered. */
export const readTold = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    {
      accountId: uuid(),
      state: text(),
      count: whole().of('COUNT(*)'),
      lastAt: time().nullable().of('MAX(answered_at)'),
    },
    'FROM report_backs WHERE business_id = ? GROUP BY account_id, state',
    [businessId],
  );

/** How many events each destination was told, by its key, by who told them and by what became of them. */
export const readToldEvents = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    {
      account: text(),
      event: text(),
      toldBy: text<'server' | 'page'>(),
      state: text(),
      count: whole().of('COUNT(*)'),
      lastAt: time().nullable().of('MAX(told_at)'),
    },
    'FROM event_tellings FORCE INDEX (by_told) WHERE business_id = ? GROUP BY event, account, told_by, state',
    [businessId],
  );

/** How many records were read from each CRM, and when the newest of them was made. */
export const readRecordCounts = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    { accountId: uuid(), count: whole().of('COUNT(*)') },
    'FROM deals WHERE business_id = ? GROUP BY account_id',
    [businessId],
  );

/** When each CRM's newest event was read back. */
export const readLastEvents = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    { accountId: uuid(), lastAt: time().of('MAX(received_at)') },
    `FROM (SELECT account_id, received_at FROM crm_events WHERE business_id = ?
       UNION ALL SELECT account_id, received_at FROM crm_arrivals WHERE business_id = ?) AS both_ways GROUP BY account_id`,
    [businessId, businessId],
  );

/** When the newest page of each host told something. @param since a day of the business, YYYY-MM-DD */
export const readHostsSeen = (db: Sequelize, businessId: string, since: string) =>
  selectRows(
    db,
    { host: text().of("SUBSTRING_INDEX(page, '/', 1)"), lastAt: time().of('MAX(last_at)') },
    "FROM page_days WHERE business_id = ? AND zone = '' AND day >= ? GROUP BY SUBSTRING_INDEX(page, '/', 1)",
    [businessId, since],
  );

/** Hosts whose pages told something although they are no website of the business, of the newest hits of that sort. */
export const readStrangers = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    { host: text(), hits: whole().of('COUNT(*)') },
    `FROM (SELECT host FROM foreign_hits WHERE business_id = ? ORDER BY id DESC LIMIT 5000) AS newest
     GROUP BY host ORDER BY COUNT(*) DESC LIMIT 20`,
    [businessId],
  );
