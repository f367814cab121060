/* eslint-disable no-await-in-loop -- statements are bounded in length; lanes are claimed by turns */
import { selectOne, selectRows } from './select';
import { pick, yes } from './columns';
import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import { QueryTypes, type Sequelize, type Transaction } from 'sequelize';
import { now, nowMs } from '../clock';
import { groupBy } from '../../core/group-by';
import { inTransaction } from './transaction';
import { work } from './table';

/** The kinds of background work, in the order in which one follows from another. */
export const workKinds = [
  'visitor',
  'lead_pull',
  'call',
  'crm_event',
  'crm_poll',
  'enquiry',
  'hand_over',
  'crm_write',
  'order',
  'subscription',
  'filed_file',
  'conversion',
  'routine_take',
  'routine_look',
  'routine_step',
  'brake',
  'report_back',
  'event_telling',
  'platform_report',
  'link_check',
  'page_check',
  'roll_up',
] as const;
export type WorkKind = (typeof workKinds)[number];

/** Something to be done about one subject of one business. */
export interface WorkItem {
  businessId: string;
  kind: WorkKind;
  subject: string;
  /** Work of one lane is done one after another; '' where a business has one lane of the kind. */
  lane: string;
  attempts: number;
  /** Counts how often it was marked; work marked again while it ran is done again. */
  marks: number;
  /** Names the claim: only its holder may finish or put back what it holds. */
  claim: string;
}

/** A lane of a kind of work: of one business, and where it has several, such as one for each account, its name. */
export interface Lane {
  businessId: string;
  lane: string;
}

let leaseSeconds = 60;
/** How long this process holds what it claims, in seconds, if it does not renew it. */
export const setLease = (seconds: number) => void (leaseSeconds = seconds);
/** How often (ms) leases are renewed while their work runs. */
export const renewEvery = (): number => (leaseSeconds * 1000) / 4;

/** Says to this process's runner that work was marked; others see it at their next look. */
export const workMarked = new EventEmitter();

/** The kinds whose subject is an account, which is their lane too. */
const ownLanes: readonly WorkKind[] = ['crm_poll', 'platform_report', 'lead_pull'];

/**
 * Marks subjects for work at `dueAt`; one already marked keeps the earlier time.
 * @param lane of the subjects, such as the account whose service is called for them
 */
export async function markWork(
  db: Sequelize,
  kind: WorkKind,
  businessId: string,
  subjects: string[],
  dueAt: Date,
  transaction: Transaction | null = null,
  lane = '',
): Promise<void> {
  if (subjects.length === 0) return;
  const laneOf = (subject: string) => (ownLanes.includes(kind) ? subject : lane);
  await db.query(
    `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts) VALUES
     ${subjects.map(() => '(?, ?, ?, ?, ?, 1, 0)').join(', ')}
     ON DUPLICATE KEY UPDATE marks = marks + 1, due_at = LEAST(due_at, VALUES(due_at))`,
    {
      replacements: subjects.flatMap((subject) => [businessId, kind, subject, laneOf(subject), dueAt]),
      transaction,
    },
  );
  workMarked.emit('marked');
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
  const due = Object.fromEntries(
    workKinds.map((kind) => [kind, yes().of(`EXISTS (SELECT 1 FROM work WHERE kind = '${kind}' AND ${isDue})`)]),
  );
  const kinds = await selectOne(db, due, '', workKinds.flatMap(dueTimes));
  return workKinds.filter((kind) => kinds[kind]);
}

/** Rows of a kind that are looked through for lanes that are due. */
const mostLooked = 5000;

/** Lanes of a kind of which some work is due and free, those due longest first. @param busy lanes that are worked on */
export async function dueLanes(db: Sequelize, kind: WorkKind, busy: Lane[], limit: number): Promise<Lane[]> {
  const others = busy.map(() => 'NOT (business_id = ? AND lane = ?)').join(' AND ');
  return selectRows(
    db,
    pick(work, ['businessId', 'lane']),
    `FROM (
       SELECT business_id, lane, due_at FROM work WHERE kind = ? AND ${isDue} ${others && `AND ${others}`}
       ORDER BY due_at LIMIT ${mostLooked}) AS due
     GROUP BY business_id, lane ORDER BY MIN(due_at) LIMIT ?`,
    [kind, ...dueTimes(kind), ...busy.flatMap(({ businessId, lane }) => [businessId, lane]), limit],
  );
}

/**
 * Claims work that is due and that nobody holds. The claim is committed before this returns, so the work itself runs
 * outside any transaction; who neither finishes nor renews it loses it after a minute of database time.
 */
export async function claimWork(db: Sequelize, kind: WorkKind, limit: number, lane?: Lane): Promise<WorkItem[]> {
  const claim = randomUUID();
  return inTransaction(db, async (transaction) => {
    const items = await selectRows(
      db,
      pick(work, ['businessId', 'kind', 'subject', 'lane', 'attempts', 'marks']),
      // Rows are locked as they are looked through: by another index than its own a lane would keep the others from theirs.
      `FROM work ${lane ? 'FORCE INDEX (lanes)' : ''}
       WHERE kind = ? AND ${isDue} ${lane ? 'AND business_id = ? AND lane = ?' : ''}
       ORDER BY due_at LIMIT ? FOR UPDATE SKIP LOCKED`,
      [kind, ...dueTimes(kind), ...(lane ? [lane.businessId, lane.lane] : []), limit],
      transaction,
    );
    for (const [businessId, own] of groupBy(items, (item) => item.businessId))
      await db.query(
        `UPDATE work SET owner = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ${leaseSeconds} SECOND
         WHERE business_id = ? AND kind = ? AND subject IN (?)`,
        { replacements: [claim, businessId, kind, own.map((item) => item.subject)], transaction },
      );
    return items.map((item) => ({ ...item, claim }));
  });
}

/** Items of one business, kind and claim, which one statement can name. */
const alike = (items: WorkItem[]) =>
  [...groupBy(items, ({ businessId, kind, claim }) => `${businessId} ${kind} ${claim}`).values()].map((group) => ({
    businessId: group[0]!.businessId,
    kind: group[0]!.kind,
    claim: group[0]!.claim,
    group,
    subjects: group.map(({ subject }) => subject),
  }));
const isHeld = 'business_id = ? AND kind = ? AND owner = ? AND subject IN (?)';

/**
 * Renews the leases of work that is still held.
 * @returns what is held; the rest was lost, to somebody else or to time
 */
export async function renewWork(
  db: Sequelize,
  items: WorkItem[],
  transaction: Transaction | null = null,
): Promise<WorkItem[]> {
  const held: WorkItem[] = [];
  for (const { businessId, kind, claim, group, subjects } of alike(items)) {
    const replacements = [businessId, kind, claim, subjects];
    const renewed = await db.query(
      `UPDATE work SET lease_until = UTC_TIMESTAMP(3) + INTERVAL ${leaseSeconds} SECOND WHERE ${isHeld}`,
      { replacements, type: QueryTypes.BULKUPDATE, transaction },
    );
    if (renewed === group.length) {
      held.push(...group);
      continue;
    }
    const rows = await selectRows(db, pick(work, ['subject']), `FROM work WHERE ${isHeld}`, replacements, transaction);
    const still = new Set(rows.map(({ subject }) => subject));
    held.push(...group.filter(({ subject }) => still.has(subject)));
  }
  return held;
}

/**
 * Ends claims: gone, or due `again` later. Work that was marked again while it ran stays due; what somebody else holds
 * by now is left to them.
 */
export async function finishWork(db: Sequelize, done: { item: WorkItem; again: Date | null }[]): Promise<void> {
  if (done.length === 0) return;
  await inTransaction(db, async (transaction) => {
    const ended = done.filter(({ again }) => again === null).map(({ item }) => item);
    let gone = 0;
    for (const own of groupBy(ended, ({ marks }) => marks).values())
      for (const { businessId, kind, claim, subjects } of alike(own))
        gone += await db.query(`DELETE FROM work WHERE ${isHeld} AND marks = ?`, {
          replacements: [businessId, kind, claim, subjects, own[0]!.marks],
          type: QueryTypes.BULKDELETE,
          transaction,
        });
    if (gone === done.length) return;
    const later = done.filter(({ again }) => again !== null);
    if (later.length > 0)
      await db.query(
        `INSERT INTO work (business_id, kind, subject, lane, due_at, marks, attempts, owner)
         VALUES ${later.map(() => '(?,?,?,?,?,?,0,?)').join(',')}
         ON DUPLICATE KEY UPDATE
           due_at = IF(owner = VALUES(owner) AND marks = VALUES(marks), VALUES(due_at), due_at),
           attempts = IF(owner = VALUES(owner), 0, attempts), last_error = IF(owner = VALUES(owner), NULL, last_error)`,
        {
          replacements: later.flatMap(({ item, again }) => [
            ...[item.businessId, item.kind, item.subject, item.lane, again],
            ...[item.marks, item.claim],
          ]),
          transaction,
        },
      );
    for (const { businessId, kind, claim, subjects } of alike(done.map(({ item }) => item)))
      await db.query(`UPDATE work SET owner = NULL, lease_until = NULL WHERE ${isHeld}`, {
        replacements: [businessId, kind, claim, subjects],
        transaction,
      });
  });
}

/** Tries after which work is given up that depends on nothing outside: it fails for what it is made of. */
const mostTries: Partial<Record<WorkKind, number>> = { visitor: 6 };

/**
 * Puts failed work back, to be tried again at `dueAt`, with what went wrong. What can never be done is given up after
 * some tries.
 */
export async function putBackWork(db: Sequelize, item: WorkItem, dueAt: Date, error: string): Promise<void> {
  if (item.attempts + 1 >= (mostTries[item.kind] ?? Infinity)) return giveUpWork(db, item, error);
  await db.query(
    `UPDATE work SET attempts = attempts + 1, due_at = ?, owner = NULL, lease_until = NULL, last_error = ?
     WHERE ${isHeld}`,
    { replacements: [dueAt, error.slice(0, 500), item.businessId, item.kind, item.claim, [item.subject]] },
  );
}

/**
 * Ends work that failed for good: it stands in quarantine with its reason, where it is shown. It is tried anew when
 * something comes that concerns it, or when somebody says so.
 */
export async function giveUpWork(db: Sequelize, item: WorkItem, error: string): Promise<void> {
  const { businessId, kind, subject, lane, marks, claim } = item;
  await inTransaction(db, async (transaction) => {
    if ((await renewWork(db, [item], transaction)).length === 0) return;
    await db.query(
      `INSERT INTO quarantine (business_id, id, kind, received_at, reason, body) VALUES (?,?,?,?,?,?)
       ON DUPLICATE KEY UPDATE received_at = VALUES(received_at), reason = VALUES(reason)`,
      {
        transaction,
        replacements: [businessId, subject, kind, now(), error.slice(0, 500), JSON.stringify({ kind, subject, lane })],
      },
    );
    await db.query(`DELETE FROM work WHERE ${isHeld} AND marks = ?`, {
      transaction,
      replacements: [businessId, kind, claim, [subject], marks],
    });
    // Marked again meanwhile: it stays, with its tries counted anew.
    await db.query(`UPDATE work SET attempts = 0, owner = NULL, lease_until = NULL, last_error = ? WHERE ${isHeld}`, {
      transaction,
      replacements: [error.slice(0, 500), businessId, kind, claim, [subject]],
    });
  });
}
