import { saidNotTaken } from '../../core/reportbacks';
import { AvrixError } from '../../core/errors';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, plain, type AttemptRow, type ReportBackRow } from '../db';
import { newId } from '../ids';
import { markSubjects } from './settle';

/** What people decide about report-backs. */
export function makeReportBacks({ db, tables }: Context) {
  return {
    /** A report-back with its attempts, oldest first. @throws AVX_NOT_FOUND */
    async one(businessId: string, id: string): Promise<{ reportBack: ReportBackRow; attempts: AttemptRow[] }> {
      const row = await tables.reportBacks.findOne({ where: { businessId, id } });
      if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'report-back' });
      const where = { businessId, reportBackId: id };
      const attempts = await tables.attempts.findAll({ where, order: [['startedAt', 'ASC']], limit: 200 });
      return { reportBack: row.get({ plain: true }), attempts: plain(attempts) };
    },

    /**
     * Ends the doubt about a report-back that is unsure: `taken` lets it stand as told, `not taken` has it told again.
     * @throws AVX_NOT_FOUND, AVX_NOT_UNSURE
     */
    async decide(businessId: string, id: string, found: 'taken' | 'not taken', by: string): Promise<void> {
      await inTransaction(db, async (transaction) => {
        const row = await tables.reportBacks.findOne({
          where: { businessId, id },
          transaction,
          lock: transaction.LOCK.UPDATE,
        });
        const reportBack = row?.get({ plain: true });
        if (!reportBack) throw new AvrixError('AVX_NOT_FOUND', { what: 'report-back' });
        if (reportBack.state !== 'unsure') throw new AvrixError('AVX_NOT_UNSURE', { state: reportBack.state });
        const taken = found === 'taken';
        await tables.reportBacks.update(
          taken
            ? { state: 'told', reason: null, answeredAt: now() }
            : { state: 'waiting', reason: null, bookedOn: null, dueAt: now() },
          { where: { businessId, id }, transaction },
        );
        await tables.attempts.bulkCreate(
          [
            {
              businessId,
              id: newId(),
              reportBackId: id,
              startedAt: now(),
              endedAt: now(),
              sent: {},
              status: taken ? '200' : saidNotTaken,
              answer: `${found}, as ${by} saw there`,
            },
          ],
          { transaction },
        );
        await markSubjects(db, businessId, [reportBack], transaction);
        if (!taken) await markWork(db, 'report_back', businessId, [id], now(), transaction, reportBack.accountId);
      });
    },
  };
}
