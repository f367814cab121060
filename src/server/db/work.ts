import { randomUUID } from 'node:crypto';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { now } from '../clock';
import { inTransaction } from './transaction';

/** The kinds of background work, in the order in which one follows from another. */
export const workKinds = ['visitor', 'crm_event', 'crm_poll', 'enquiry', 'report_back', 'platform_report'] as const;
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

/**
 * Claims work that is due and that nobody holds. The claim is committed before this returns, so the work itself runs
 * outside any transaction; a worker that dies loses its lease after a minute of database time.
 */
export async function claimWork(db: Sequelize, kind: WorkKind, limit: number): Promise<WorkItem[]> {
  return inTransaction(db, async (transaction) => {
    const items = await db.query<WorkItem>(
      `SELECT business_id AS businessId, kind, subject, attempts, marks FROM work
       WHERE kind = ? AND due_at <= ? AND (lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3))
       ORDER BY due_at LIMIT ? FOR UPDATE SKIP LOCKED`,
      { replacements: [kind, now(), limit], type: QueryTypes.SELECT, transaction },
    );
    if (items.length > 0)
      await db.query(
        `UPDATE work SET owner = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ${leaseSeconds} SECOND
         WHERE kind = ? AND (business_id, subject) IN (${items.map(() => '(?, ?)').join(', ')})`,
        { replacements: [owner, kind, ...items.flatMap((i) => [i.businessId, i.subject])], transaction },
      );
    return items;
  });
}

/** Ends claims: gone, or due `again` later. Work that was marked again while it ran stays due. */
export async function finishWork(db: Sequelize, done: { item: WorkItem; again: Date | null }[]): Promise<void> {
  if (done.length === 0) return;
  await inTransaction(db, async (transaction) => {
    const over = done.filter(({ again }) => again === null);
    if (over.length > 0)
      await db.query(
        `DELETE FROM work WHERE (business_id, kind, subject, marks) IN (${over.map(() => '(?, ?, ?, ?)').join(', ')})`,
        {
          replacements: over.flatMap(({ item }) => [item.businessId, item.kind, item.subject, item.marks]),
          transaction,
        },
      );
    for (const { item, again } of done)
      if (again)
        await db.query(
          `UPDATE work SET due_at = ?, attempts = 0, last_error = NULL
           WHERE business_id = ? AND kind = ? AND subject = ? AND marks = ?`,
          { replacements: [again, item.businessId, item.kind, item.subject, item.marks], transaction },
        );
    await db.query(
      `UPDATE work SET owner = NULL, lease_until = NULL
       WHERE owner = ? AND (business_id, kind, subject) IN (${done.map(() => '(?, ?, ?)').join(', ')})`,
      { replacements: [owner, ...done.flatMap(({ item }) => [item.businessId, item.kind, item.subject])], transaction },
    );
  });
}

/** Puts failed work back, to be tried again at `dueAt`, with what went wrong. */
export async function putBackWork(db: Sequelize, item: WorkItem, dueAt: Date, error: string): Promise<void> {
  await db.query(
    `UPDATE work SET attempts = attempts + 1, due_at = ?, owner = NULL, lease_until = NULL, last_error = ?
     WHERE business_id = ? AND kind = ? AND subject = ?`,
    { replacements: [dueAt, error.slice(0, 500), item.businessId, item.kind, item.subject] },
  );
}
