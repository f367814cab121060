import type { Transaction } from 'sequelize';
import type { QualityGiven } from '../../core/leads/answers-view';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, plain, type EnquiryRow } from '../db';
import type { makeFollowEnquiries } from './enquiry';

export type SayQuality = ReturnType<typeof makeSayQuality>;

/** Keeps what is said of how far enquiries were answered, and follows them anew. */
export function makeSayQuality({ db, tables }: Context, follow: ReturnType<typeof makeFollowEnquiries>) {
  /**
   * @param byName who says it
   * @param given with `quality` '' what was said is taken back; what has qualified stays so
   * @param also what else is stored with it, given the enquiries as they were
   * @returns how many of the enquiries are there
   */
  return async function say(
    businessId: string,
    byName: string,
    { ids, quality, reason }: QualityGiven,
    also: (rows: EnquiryRow[], transaction: Transaction) => Promise<void> = async () => undefined,
  ): Promise<number> {
    const where = { businessId, id: ids };
    const rows = plain(await tables.enquiries.findAll({ where }));
    if (rows.length === 0) return 0;
    const isAnswer = quality === 'answering' || quality === 'disqualified';
    const said = quality === '' ? { saidBy: '', saidAt: null } : { saidBy: byName, saidAt: now() };
    await inTransaction(db, async (transaction) => {
      await tables.enquiries.update(
        {
          ...said,
          saidQuality: quality,
          saidReason: quality === '' || quality === 'answering' ? '' : reason || 'no reason given',
        },
        { where, transaction },
      );
      if (quality === '')
        await tables.enquiries.update({ saidAnsweredAt: null, saidAnsweredBy: '' }, { where, transaction });
      // The first answer stays the first one.
      if (isAnswer)
        await tables.enquiries.update(
          { saidAnsweredAt: now(), saidAnsweredBy: byName },
          { where: { ...where, saidAnsweredAt: null }, transaction },
        );
      await also(rows, transaction);
    });
    await follow(
      businessId,
      rows.map(({ id }) => id),
    );
    return rows.length;
  };
}
