import { randomUUID } from 'node:crypto';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { now } from '../clock';
import { inTransaction } from './transaction';

/** The kinds of background work, in the order in which one follows from another. */
export const workKinds = ['visitor', 'crm_event', 'enquiry', 'report_back', 'platform_report'] as const;
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

/** Ends a claim: gone, or due `again` later; one that was marked meanwhile stays due. */
export async function finishWork(db: Sequelize, item: WorkItem, again: Date | null): Promise<void> {
  const key = [item.businessId, item.kind, item.subject];
  await inTransaction(db, async (transaction) => {
    await db.query(
      again
        ? `UPDATE work SET due_at = ?, attempts = 0, owner = NULL, lease_until = NULL, last_error = NULL
           WHERE business_id = ? AND kind = ? AND subject = ? AND marks = ?`
        : 'DELETE FROM work WHERE business_id = ? AND kind = ? AND subject = ? AND marks = ?',
      { replacements: [...(again ? [again] : []), ...key, item.marks], transaction },
    );
    await db.query(
      `UPDATE work SET owner = NULL, lease_until = NULL
       WHERE business_id = ? AND kind = ? AND subject = ? AND marks <> ? AND owner = ?`,
      { replacements: [...key, item.marks, owner], transaction },
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
