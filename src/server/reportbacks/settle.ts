/* eslint-disable no-await-in-loop -- one statement for all rows that change alike, in one transaction */
import type { Sequelize, Transaction } from 'sequelize';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, type ReportBackRow } from '../db';
import { groupBy } from '../../core/group-by';
import { keepSentWorth, keepToldWorth } from './queries';

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
  reportBack: ReportBackRow;
  change: Partial<Pick<ReportBackRow, 'state' | 'reason' | 'answeredAt' | 'bookedOn' | 'confirmedAt'>>;
  attempt?: { id: string; status: string; answer: string };
}

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
  const changes = groupBy(settled, ({ change }) => JSON.stringify(change));
  const ended = groupBy(
    settled.flatMap(({ attempt }) => attempt ?? []),
    ({ status, answer }) => `${status} ${answer}`,
  );
  await inTransaction(db, async (transaction) => {
    for (const alike of changes.values())
      if (Object.keys(alike[0]!.change).length > 0)
        await tables.reportBacks.update(alike[0]!.change, {
          where: { businessId, id: alike.map(({ reportBack }) => reportBack.id) },
          transaction,
        });
    for (const alike of ended.values())
      await tables.attempts.update(
        { endedAt: now(), status: alike[0]!.status, answer: alike[0]!.answer.slice(0, 200) },
        { where: { businessId, id: alike.map(({ id }) => id) }, transaction },
      );
    const taken = settled.filter(
      ({ change, attempt }) => attempt && (change.state === 'told' || change.state === 'confirmed'),
    );
    if (taken.length > 0) {
      const attempts = taken.map(({ attempt }) => attempt!.id);
      const corrects = taken.some(({ reportBack }) => reportBack.correction > 0);
      await keepToldWorth(db, businessId, attempts, corrects, transaction);
    }
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
