import { randomUUID } from 'node:crypto';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { now, nowMs } from '../clock';
import { groupBy } from '../group-by';
import { inTransaction } from './transaction';

/** The kinds of background work, in the order in which one follows from another. */
export const workKinds = [
  'visitor',
  'crm_event',
  'crm_poll',
  'enquiry',
  'report_back',
  'platform_report',
  'page_check',
] as const;
export type WorkKind = (typeof workKinds)[number];

/** Something to be done about one subject of one business. */
export interface WorkItem {
  businessId: string;
  kind: WorkKind;
  subject: string;
  attempts: number;
  /** Counts how often it was marked; work marked again while it ran is done again. */
  marks: number;
}

const leaseSeconds = 60;
const owner = randomUUID();

/** Marks subjects for work at `dueAt`; one already marked keeps the earlier time. */
export async function markWork(
  db: Sequelize,
  kind: WorkKind,
  businessId: string,
  subjects: string[],
  dueAt: Date,
  transaction?: Transaction,
): Promise<void> {
  if (subjects.length === 0) return;
  await db.query(
    `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts) VALUES
     ${subjects.map(() => '(?, ?, ?, ?, 1, 0)').join(', ')}
     ON DUPLICATE KEY UPDATE marks = marks + 1, due_at = LEAST(due_at, VALUES(due_at))`,
    { replacements: subjects.flatMap((subject) => [businessId, kind, subject, dueAt]), transaction },
  );
}

/** Work that comes again every few minutes is never due later than this (ms): such a time came from a wrong clock. */
const latestAgain: Partial<Record<WorkKind, number>> = { crm_poll: 8 * 3_600_000, platform_report: 8 * 3_600_000 };
const isFree = '(lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3))';
/** The second value is the time from which on a due time is wrong. */
const isDue = `(due_at <= ? OR due_at > ?) AND ${isFree}`;
const dueTimes = (kind: WorkKind): [Date, Date] => {
  const latest = latestAgain[kind];
  return [now(), latest ? new Date(nowMs() + latest) : endOfTime];
};
/** The last moment that the database can hold. */
const endOfTime = new Date('9999-12-31T23:59:59.999Z');

/** The kinds of which some work is due and free, in their order: one cheap look before anything is claimed. */
export async function dueKinds(db: Sequelize): Promise<WorkKind[]> {
  const rows = await db.query<{ kind: WorkKind }>(
    workKinds
      .map((kind) => `SELECT '${kind}' AS kind WHERE EXISTS (SELECT 1 FROM work WHERE kind = '${kind}' AND ${isDue})`)
      .join(' UNION ALL '),
    { replacements: workKinds.flatMap(dueTimes), type: QueryTypes.SELECT },
  );
  return workKinds.filter((kind) => rows.some((row) => row.kind === kind));
}

/**
 * Claims work that is due and that nobody holds. The claim is committed before this returns, so the work itself runs
 * outside any transaction; a worker that dies loses its lease after a minute of database time.
 */
export async function claimWork(db: Sequelize, kind: WorkKind, limit: number): Promise<WorkItem[]> {
  return inTransaction(db, async (transaction) => {
    const items = await db.query<WorkItem>(
      `SELECT business_id AS businessId, kind, subject, attempts, marks FROM work
       WHERE kind = ? AND ${isDue}
       ORDER BY due_at LIMIT ? FOR UPDATE SKIP LOCKED`,
      { replacements: [kind, ...dueTimes(kind), limit], type: QueryTypes.SELECT, transaction },
    );
    for (const [businessId, own] of groupBy(items, (item) => item.businessId))
      await db.query(
        `UPDATE work SET owner = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ${leaseSeconds} SECOND
         WHERE business_id = ? AND kind = ? AND subject IN (?)`,
        { replacements: [owner, businessId, kind, own.map((item) => item.subject)], transaction },
      );
    return items;
  });
}

/** Ends claims: gone, or due `again` later. Work that was marked again while it ran stays due. */
export async function finishWork(db: Sequelize, done: { item: WorkItem; again: Date | null }[]): Promise<void> {
  if (done.length === 0) return;
  await inTransaction(db, async (transaction) => {
    const alike = groupBy(done, ({ item }) => `${item.businessId} ${item.kind} ${item.marks}`);
    for (const group of alike.values()) {
      const over = group.filter(({ again }) => again === null).map(({ item }) => item.subject);
      const { businessId, kind, marks } = group[0]!.item;
      if (over.length > 0)
        await db.query('DELETE FROM work WHERE business_id = ? AND kind = ? AND subject IN (?) AND marks = ?', {
          replacements: [businessId, kind, over, marks],
          transaction,
        });
    }
    const later = done.filter(({ again }) => again !== null);
    if (later.length > 0)
      await db.query(
        `INSERT INTO work (business_id, kind, subject, due_at, marks, attempts)
         VALUES ${later.map(() => '(?,?,?,?,?,0)').join(',')}
         ON DUPLICATE KEY UPDATE due_at = IF(marks = VALUES(marks), VALUES(due_at), due_at), attempts = 0,
           last_error = NULL`,
        {
          replacements: later.flatMap(({ item, again }) => [
            ...[item.businessId, item.kind, item.subject, again],
            item.marks,
          ]),
          transaction,
        },
      );
    const held = groupBy(done, ({ item }) => `${item.businessId} ${item.kind}`);
    for (const group of held.values()) {
      const { businessId, kind } = group[0]!.item;
      await db.query(
        `UPDATE work SET owner = NULL, lease_until = NULL
         WHERE business_id = ? AND kind = ? AND subject IN (?) AND owner = ?`,
        { replacements: [businessId, kind, group.map(({ item }) => item.subject), owner], transaction },
      );
    }
  });
}

/** Tries after which work is given up that depends on nothing outside: it fails for what it is made of. */
const mostTries: Partial<Record<WorkKind, number>> = { visitor: 6 };

/**
 * Puts failed work back, to be tried again at `dueAt`, with what went wrong. What can never be done stands in quarantine
 * after some tries, with its reason; it is tried anew when something comes that concerns it.
 */
export async function putBackWork(db: Sequelize, item: WorkItem, dueAt: Date, error: string): Promise<void> {
  if (item.attempts + 1 >= (mostTries[item.kind] ?? Infinity)) return giveUp(db, item, error);
  await db.query(
    `UPDATE work SET attempts = attempts + 1, due_at = ?, owner = NULL, lease_until = NULL, last_error = ?
     WHERE business_id = ? AND kind = ? AND subject = ?`,
    { replacements: [dueAt, error.slice(0, 500), item.businessId, item.kind, item.subject] },
  );
}

async function giveUp(db: Sequelize, { businessId, kind, subject, marks }: WorkItem, error: string): Promise<void> {
  await inTransaction(db, async (transaction) => {
    await db.query(
      `INSERT INTO quarantine (business_id, id, kind, received_at, reason, body) VALUES (?,?,?,?,?,?)
       ON DUPLICATE KEY UPDATE received_at = VALUES(received_at), reason = VALUES(reason)`,
      {
        transaction,
        replacements: [businessId, subject, kind, now(), error.slice(0, 500), JSON.stringify({ kind, subject })],
      },
    );
    await db.query('DELETE FROM work WHERE business_id = ? AND kind = ? AND subject = ? AND marks = ?', {
      transaction,
      replacements: [businessId, kind, subject, marks],
    });
    // Marked again meanwhile: it stays, with its tries counted anew.
    await db.query(
      `UPDATE work SET attempts = 0, owner = NULL, lease_until = NULL, last_error = ?
       WHERE business_id = ? AND kind = ? AND subject = ?`,
      { transaction, replacements: [error.slice(0, 500), businessId, kind, subject] },
    );
  });
}
