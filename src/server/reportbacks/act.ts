/* eslint-disable no-await-in-loop -- one statement for each account, of which there are few */
import type { Transaction } from 'sequelize';
import type { ReportBackAct } from '../../core/reportbacks/acts';
import { groupBy } from '../../core/group-by';
import { now } from '../clock';
import type { Context } from '../context';
import { markWork, type ReportBackRow } from '../db';
import { markSubjects } from './settle';

/** What each act makes of a report-back at once. What is let go or told again is decided anew when its subject is followed. */
const changeBy: Record<ReportBackAct, (by: string) => Partial<ReportBackRow>> = {
  hold: (by) => ({ state: 'held', stoppedBy: by, reason: { code: 'held_by', by }, dueAt: null }),
  let_go: (by) => ({ state: 'held', stoppedBy: '', letGoBy: by, reason: null, dueAt: null }),
  tell_now: () => ({ dueAt: now() }),
  withdraw: (by) => ({ state: 'withdrawn', stoppedBy: '', reason: { code: 'withdrawn_by', by }, dueAt: null }),
  tell_again: (by) => ({
    state: 'held',
    stoppedBy: '',
    letGoBy: by,
    reason: null,
    dueAt: null,
    answeredAt: null,
    bookedOn: null,
  }),
};

/** Does something with report-backs of one business, which are locked, and has what they are of followed anew. */
export async function carryOutAct(
  { db, tables }: Context,
  act: ReportBackAct,
  byName: string,
  rows: ReportBackRow[],
  transaction: Transaction,
): Promise<void> {
  const { businessId } = rows[0]!;
  const where = { businessId, id: rows.map(({ id }) => id) };
  await tables.reportBacks.update(changeBy[act](byName.slice(0, 80)), { where, transaction });
  if (act === 'tell_now')
    for (const [accountId, own] of groupBy(rows, (row) => row.accountId)) {
      const ids = own.map(({ id }) => id);
      await markWork(db, 'report_back', businessId, ids, now(), transaction, accountId);
    }
  await markSubjects(db, businessId, rows, transaction);
}
