import type { Connection } from 'mariadb';
import { v7 } from 'uuid';

/* What results are measured on, and the same figures in SQL by hand. */

export const touchesOfEach = 4;
const atOnce = 5000;
const day = 86_400_000;
const days = 400;
const sources = ['quillsearch', 'wrenwick', 'tessaloop', 'larkmoor-letter', 'baker-weekly'];

/** Enquiries, each of a browser with some touches and visits before it; every fourth with an order too. */
export async function fillResults(plain: Connection, business: string, enquiries: number): Promise<void> {
  await plain.query('CREATE TEMPORARY TABLE made (n INT PRIMARY KEY, id UUID, visitor UUID, sent DATETIME(3))');
  for (let from = 0; from < enquiries; from += atOnce) {
    const rows = Array.from({ length: atOnce }, (_, i) => {
      const n = from + i;
      const at = new Date(Date.now() - (n % days) * day - n).toISOString().slice(0, 23).replace('T', ' ');
      return `(${n}, '${v7()}', '${v7()}', '${at}')`;
    });
    await plain.query(`INSERT INTO made VALUES ${rows.join(',')}`);
  }
  const of = `'${business}'`;
  for (let step = 0; step < touchesOfEach; step++)
    await plain.query(
      `INSERT INTO touches (business_id, id, visitor_id, visit_id, hit_id, at, source, medium, campaign, content, term,
         utm_id, referrer, landing, platform, click_id, because, page_because, is_first, is_last, release_number)
       SELECT ${of}, UUID(), visitor, visitor, visitor, sent - INTERVAL ${9 - step} DAY,
         ELT(1 + (n + ${step}) % 5, ${sources.map((one) => `'${one}'`).join(',')}), 'partner',
         CONCAT('campaign-', (n + ${step}) % 40), '', '', '', '', CONCAT('larkmoor.example/', n % 7), '', '',
         'campaign_values', 'campaign_values', 0, 0, 1 FROM made`,
    );
  await plain.query(
    `INSERT INTO visits (business_id, id, visitor_id, started_at, ended_at, pages, forms, touch_id, marked, previous_on)
     SELECT ${of}, UUID(), visitor_id, at, at, 1, 0, id, '', NULL FROM touches WHERE business_id = ${of}`,
  );
  await plain.query(
    `INSERT INTO enquiries (business_id, id, visitor_id, form, page, sent_at, fields, marked, release_number, way_in, quality,
       quality_reason, answered_by, said_quality, said_reason, said_by, said_answered_by)
     SELECT ${of}, id, visitor, 'test-ride', '', sent, '[]', '', 1, 'form', 'unanswered', '', '', '', '', '', '' FROM made`,
  );
  await plain.query(
    `INSERT INTO orders (business_id, id, number, visitor_id, hit_id, page, at, visit_number, currency, amounts, strands,
       marked, release_number)
     SELECT ${of}, UUID(), n, visitor, visitor, '', sent, 1, 'GBP', '{}', '[]', '', 1 FROM made WHERE n % 4 = 0`,
  );
  await plain.query(
    `INSERT INTO outcomes (business_id, id, code, version, dedupe_key, subject_kind, subject_id, happened_at, amount_minor,
       worth_minor, currency, counted_at, release_number)
     SELECT ${of}, UUID(), 'SHP-PAID', 1, number, 'order', id, at, 9000, 2000 + number % 1000, 'GBP', at, 1 FROM orders
     WHERE business_id = ${of}`,
  );
  for (const table of ['touches', 'visits', 'enquiries', 'orders', 'outcomes'])
    await plain.query(`ANALYZE TABLE ${table}`);
}

interface Days {
  firstDay: string;
  lastDay: string;
}
interface GroupedRow {
  cells: string;
  n: number | bigint | string;
}

/** A report of the station, and the best that SQL by hand says of the same. */
export interface Asked {
  query: Record<string, string>;
  read: (plain: Connection, business: string, days: Days) => Promise<GroupedRow[]>;
}

const asked = (query: Record<string, string>, sql: string): Asked => ({
  query,
  read: (plain, business, { firstDay, lastDay }) => plain.query(sql, [business, firstDay, lastDay]),
});
const within = (at: string) => `>= ? AND ${at} < ? + INTERVAL 1 DAY`;
const isCounted = `e.marked = '' AND e.quality <> 'no_enquiry'`;
/** The touch of an enquiry that came first or last. */
const one = (order: string) => `JOIN touches t ON t.business_id = e.business_id AND t.id = (
  SELECT o.id FROM touches o WHERE o.business_id = e.business_id AND o.visitor_id = e.visitor_id AND o.at <= e.sent_at
  ORDER BY o.at ${order}, o.id ${order} LIMIT 1)`;
const ever = { range: 'own', from: ago(398), to: ago(0) };

export const byHand: Record<string, Asked> = {
  'visits by source, 92 days': asked(
    { count: 'visits', by: 'source', range: 'weeks13' },
    `SELECT t.source AS cells, COUNT(*) AS n FROM visits v JOIN touches t ON t.business_id = v.business_id AND t.id = v.touch_id
     WHERE v.business_id = ? AND v.started_at ${within('v.started_at')} AND v.marked = '' GROUP BY t.source`,
  ),
  'leads by source, last touch, 92 days': asked(
    { count: 'leads', by: 'source', range: 'weeks13' },
    `SELECT t.source AS cells, COUNT(*) * 1000 AS n FROM enquiries e ${one('DESC')}
     WHERE e.business_id = ? AND e.sent_at ${within('e.sent_at')} AND ${isCounted} GROUP BY t.source`,
  ),
  'leads by campaign, first touch, 13 months': asked(
    { count: 'leads', by: 'campaign', credit: 'first', ...ever },
    `SELECT t.campaign AS cells, COUNT(*) * 1000 AS n FROM enquiries e ${one('ASC')}
     WHERE e.business_id = ? AND e.sent_at ${within('e.sent_at')} AND ${isCounted} GROUP BY t.campaign`,
  ),
  // Four touches each: 400 thousandths for the first and the last, 100 for each of the others.
  'leads by source, by position, 92 days': asked(
    { count: 'leads', by: 'source', credit: 'position.40.40', range: 'weeks13' },
    `SELECT source AS cells, CAST(SUM(IF(place = 1 OR place = many, 400, 100)) AS INT) AS n FROM (
       SELECT t.source, ROW_NUMBER() OVER (PARTITION BY e.id ORDER BY t.at, t.id) AS place, COUNT(*) OVER (PARTITION BY e.id) AS many
       FROM enquiries e JOIN touches t ON t.business_id = e.business_id AND t.visitor_id = e.visitor_id AND t.at <= e.sent_at
       WHERE e.business_id = ? AND e.sent_at ${within('e.sent_at')} AND ${isCounted}) AS placed GROUP BY source`,
  ),
  'profit by campaign, last touch, 92 days': asked(
    { count: 'profit', by: 'campaign', range: 'weeks13' },
    `SELECT t.campaign AS cells, CAST(SUM(COALESCE(p.corrected_minor, p.worth_minor)) AS INT) AS n FROM outcomes p
     JOIN orders b ON b.business_id = p.business_id AND b.id = p.subject_id AND b.marked = '' AND b.same_as = ''
     JOIN touches t ON t.business_id = b.business_id AND t.id = (SELECT o.id FROM touches o WHERE o.business_id = b.business_id
       AND o.visitor_id = b.visitor_id AND o.at <= p.happened_at ORDER BY o.at DESC, o.id DESC LIMIT 1)
     WHERE p.business_id = ? AND p.happened_at ${within('p.happened_at')} AND p.code = 'SHP-PAID' AND p.worth_change <> 'taken_back'
     GROUP BY t.campaign`,
  ),
};

const all = 't.source, t.medium, t.campaign, t.content, t.term, t.platform, t.referrer, t.landing';
/** Leads of a day by all that their last, their first, and each of their touches came with. */
export const leadsOfDay: string[] = [
  ...['ASC', 'DESC'].map(
    (order) => `SELECT ${all}, COUNT(*) * 1000 AS n FROM enquiries e ${one(order)}
      WHERE e.business_id = ? AND e.sent_at ${within('e.sent_at')} AND ${isCounted} GROUP BY ${all}`,
  ),
  `SELECT ${all}, SUM(1000 / many) AS n FROM (
     SELECT ${all}, COUNT(*) OVER (PARTITION BY e.id) AS many
     FROM enquiries e JOIN touches t ON t.business_id = e.business_id AND t.visitor_id = e.visitor_id AND t.at <= e.sent_at
     WHERE e.business_id = ? AND e.sent_at ${within('e.sent_at')} AND ${isCounted}) AS t GROUP BY ${all}`,
];

function ago(many: number): string {
  return new Date(Date.now() - many * day).toISOString().slice(0, 10);
}
