import { Op, type Transaction } from 'sequelize';
import { expectedWorth, firstReached, type Reached } from '../../core/outcomes';
import { qualifiedOutcome, type Release } from '../../core/releases';
import { outcomeEventId } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import type { EnquiryRow, OutcomeRow } from '../db';

/** When an outcome that was counted was reached. */
export const reachedOf = (outcome: OutcomeRow): Reached => ({
  at: outcome.happenedAt.getTime(),
  stage: outcome.stage,
  skipped: outcome.skipped,
});

/** Counts the outcome of an enquiry once, by its dedupe key; its worth follows the CRM until it was told. */
export async function countOutcome(
  { tables }: Context,
  enquiry: EnquiryRow,
  release: Release,
  transaction: Transaction,
): Promise<OutcomeRow | null> {
  const rule = qualifiedOutcome(release);
  const { businessId, crmRecord } = enquiry;
  const id = outcomeEventId(businessId, rule.code, dedupeKey(rule.countedOnceFor, enquiry));
  const counted = (await tables.outcomes.findOne({ where: { businessId, id }, transaction }))?.get({ plain: true });
  if (!crmRecord || enquiry.marked) return counted ?? null;
  const reached = counted ? reachedOf(counted) : firstReached(rule, crmRecord.stageChanges, release.content.crm.stages);
  if (!reached) return null;
  const told = await tables.reportBacks.count({
    where: { businessId, outcomeId: id, answeredAt: { [Op.ne]: null } },
    transaction,
  });
  if (counted && told > 0) return counted;
  const amount = crmRecord.amounts[rule.worth.field] ?? null;
  const worth = amount && expectedWorth(amount, rule.worth);
  const row: OutcomeRow = {
    businessId,
    id,
    code: rule.code,
    version: rule.version,
    dedupeKey: dedupeKey(rule.countedOnceFor, enquiry),
    enquiryId: counted?.enquiryId ?? enquiry.id,
    happenedAt: new Date(reached.at),
    stage: reached.stage,
    skipped: reached.skipped,
    amountMinor: amount?.minor ?? 0,
    worthMinor: worth?.minor ?? 0,
    currency: worth?.currency ?? (await currencyOf(tables, businessId)),
    winRate: `${rule.worth.winRate.won} of ${rule.worth.winRate.of}`,
    countedAt: counted?.countedAt ?? now(),
    releaseNumber: counted?.releaseNumber ?? release.number,
  };
  await tables.outcomes.bulkCreate([row], {
    updateOnDuplicate: ['amountMinor', 'worthMinor', 'currency', 'winRate'],
    transaction,
  });
  return row;
}

function dedupeKey(countedOnceFor: 'enquiry' | 'deal' | 'lead', enquiry: EnquiryRow): string {
  if (countedOnceFor === 'deal') return `deal ${enquiry.crmDeal}`;
  return countedOnceFor === 'lead' ? `lead ${enquiry.leadId}` : `enquiry ${enquiry.id}`;
}

/** What an outcome without an amount is written in: the business's own currency. */
async function currencyOf(tables: Context['tables'], businessId: string): Promise<string> {
  return (await tables.businesses.findByPk(businessId))!.get('currency') as string;
}
