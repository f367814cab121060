/* eslint-disable no-await-in-loop -- one statement for all rows that change alike, in one transaction */
import type { Sequelize, Transaction } from 'sequelize';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, type ReportBackRow } from '../db';
import { groupBy } from '../../core/group-by';
import { keepSentWorth, keepTaken } from './queries';

/** Has the hops of what report-backs are of written anew. */
export async function markSubjects(
  db: Sequelize,
  businessId: string,
  reportBacks: Pick<ReportBackRow, 'subjectKind' | 'subjectId'>[],
  transaction: Transaction,
): Promise<void> {
  for (const [kind, own] of groupBy(reportBacks, ({ subjectKind }) => subjectKind)) {
    const subjects = [...new Set(own.map(({ subjectId }) => subjectId))].sort();
    await markWork(db, kind, businessId, subjects, now(), transaction);
  }
}

/** What became of a report-back, and of the attempt that showed it. */
export interface Settled {
  reportBack: Pick<ReportBackRow, 'businessId' | 'id' | 'correction' | 'subjectKind' | 'subjectId'>;
  change: Partial<Pick<ReportBackRow, 'state' | 'reason' | 'answeredAt' | 'bookedOn' | 'confirmedAt'>>;
  attempt?: { id: string; status: string; answer: string };
}

/** Whether a platform took it by its attempt. */
const isTaken = (one: Settled): one is Settled & Required<Pick<Settled, 'attempt'>> =>
  one.attempt !== undefined && (one.change.state === 'told' || one.change.state === 'confirmed');

/**
 * Changes report-backs of one business and has their enquiries' hops written anew, in one transaction. Those that
 * change alike are changed by one statement.
 *
 * @param reported an account whose own report is to be read because of these answers
 */
export async function settleReportBacks(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  settled: Settled[],
  reported?: { businessId: string; id: string },
): Promise<void> {
  if (settled.length === 0) return;
  const { businessId } = settled[0]!.reportBack;
  const changes = groupBy(settled, (one) => `${isTaken(one)} ${JSON.stringify(one.change)}`);
  const ended = groupBy(
    settled.flatMap(({ attempt }) => attempt ?? []),
    ({ status, answer }) => `${status} ${answer}`,
  );
  await inTransaction(db, async (transaction) => {
    for (const alike of changes.values()) {
      const [first] = alike;
      const taken = alike.filter(isTaken);
      const corrects = taken.some(({ reportBack }) => reportBack.correction > 0);
      const attempts = taken.map(({ attempt }) => attempt.id);
      if (taken.length > 0) await keepTaken(db, businessId, first!.change, attempts, corrects, transaction);
      else if (Object.keys(first!.change).length > 0)
        await tables.reportBacks.update(first!.change, {
          where: { businessId, id: alike.map(({ reportBack }) => reportBack.id) },
          transaction,
        });
    }
    for (const alike of ended.values())
      await tables.attempts.update(
        { endedAt: now(), status: alike[0]!.status, answer: alike[0]!.answer.slice(0, 200) },
        { where: { businessId, id: alike.map(({ id }) => id) }, transaction },
      );
    const unsure = settled.flatMap(({ change, reportBack }) => (change.state === 'unsure' ? reportBack.id : []));
    if (unsure.length > 0) await keepSentWorth(db, businessId, unsure, transaction);
    await markSubjects(
      db,
      businessId,
      settled.map(({ reportBack }) => reportBack),
      transaction,
    );
    if (reported) await markWork(db, 'platform_report', businessId, [reported.id], now(), transaction);
  });
}
