import { conversionHappening, filedHappening, type Happening } from '../../core/outcomes';
import { aloneStrand, conversionStrandId, nilId, noOutcome, type HopRow, type Strand } from '../../core/strands';
import type { Context } from '../context';
import { inTransaction, plain, type ConversionRow, type OutcomeRow } from '../db';
import { followBought, type Bought } from '../outcomes/follow-bought';
import type { Releases } from '../releases/releases';
import type { Brakes } from '../reportbacks/brakes';
import { lockStrands } from '../strands/store';

/**
 * Follows what people did on the website, all that one browser did together, and what rows of files say: counts the outcomes
 * it reached once, writes what is to be told of them.
 */
export function makeFollowConversions(context: Context, releases: Releases, brakes: Brakes) {
  const { db, tables } = context;

  /** @returns nothing to follow again: time alone changes no conversion */
  return async function followConversions(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
    const named = plain(
      await tables.conversions.findAll({
        attributes: ['visitorId', 'strands', 'kind'],
        where: { businessId, id: ids },
      }),
    );
    // One whose person was erased is nobody's any more, and stays as it is.
    const visitorId = [...new Set(named.map((row) => row.visitorId))].filter((id) => id !== nilId);
    const ofFiles = named.flatMap(({ kind, strands }) => (kind === 'file' ? strands : []));
    if (visitorId.length > 0)
      await inTransaction(db, async (transaction) => {
        // Locked before anything else is read: what counts once for a browser or a click is counted by one alone.
        await lockStrands(db, businessId, [...new Set(ofFiles)].sort(), transaction);
        const rows = plain(
          await tables.conversions.findAll({
            where: { businessId, visitorId },
            order: [['id', 'ASC']],
            transaction,
            lock: transaction.LOCK.UPDATE,
          }),
        );
        // Of several that count once it is the first.
        const bought = rows.sort((a, b) => a.at.getTime() - b.at.getTime()).map(asBought);
        const services = { context, releases, brakes };
        await followBought(services, businessId, 'conversion', bought, ['converted'], transaction);
      });
    return new Map(ids.map((id) => [id, null]));
  };
}

function asBought(row: ConversionRow): Bought {
  const { id, strands, lastPaid, marked, consent, takenBackAt } = row;
  return {
    id,
    strands,
    alone: aloneStrand('conversion', conversionStrandId(id), row.at.getTime(), marked),
    lastPaid,
    marked,
    consent,
    sameAs: '',
    happenings: [happeningOf(row)],
    notices: takenBackAt
      ? [{ number: 'file', payment: '', at: takenBackAt.getTime(), cause: 'refund', says: { back: null } }]
      : [],
    hopsOn: (strand, outcome) => (outcome ? [convertedHop(strand, row, outcome)] : []),
  };
}

/** What outcomes may be reached by it. */
const happeningOf = (row: ConversionRow): Happening =>
  row.ruledAt
    ? filedHappening(row, row.at.getTime(), row.ruledAt.getTime())
    : conversionHappening(row, row.at.getTime(), row.visitorId);

/** Only what reached the *Qualified* of this way in stands on its line. */
const convertedHop = (strand: Strand, { id, kind }: ConversionRow, outcome: OutcomeRow): HopRow => ({
  strand: strand.id,
  wayIn: 'conversion',
  subject: id,
  outcome: noOutcome,
  hop: 'converted',
  state: 'made_it',
  reason: null,
  evidence: kind === 'file' ? 'file' : 'hit',
  at: outcome.happenedAt.getTime(),
  release: outcome.releaseNumber,
});
