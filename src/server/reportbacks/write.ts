/* eslint-disable no-await-in-loop -- the platforms of an outcome are few, in one transaction */
import type { Transaction } from 'sequelize';
import { contractOf } from '../../core/platforms';
import { leftWithin } from '../../core/outcomes';
import { qualifiedOutcome, tellingRules, type Release } from '../../core/releases';
import { decideTelling, tellingHops } from '../../core/reportbacks';
import { nilId, reportBackIdOf, type HopRow, type Strand } from '../../core/strands';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { markWork, type EnquiryRow, type OutcomeRow } from '../db';

/** Writes a report-back for each platform to be told, with its work, in the same transaction as the outcome. */
export async function writeReportBacks(
  { db, tables }: Context,
  enquiry: EnquiryRow,
  strand: Strand,
  outcome: OutcomeRow,
  release: Release,
  accountOf: Map<string, string>,
  transaction: Transaction,
): Promise<void> {
  const { businessId } = enquiry;
  if (outcome.enquiryId !== enquiry.id) return;
  const rule = qualifiedOutcome(release);
  const happenedAt = outcome.happenedAt.getTime();
  for (const telling of tellingRules(release, outcome.code)) {
    const contract = contractOf(telling.platform);
    if (!contract) continue;
    const accountId = accountOf.get(telling.platform);
    const decision = decideTelling(
      {
        outcome: rule,
        telling,
        happenedAt,
        strand,
        marked: enquiry.marked,
        leftFor: leftWithin(
          rule,
          enquiry.crmRecord?.stageChanges ?? [],
          release.content.crm.stages,
          happenedAt,
          telling.delayMinutes * 60_000,
        ),
        crmClickId: enquiry.crmRecord?.fields[release.content.crm.fields.click_id ?? ''] ?? '',
        hasWorth: outcome.worthMinor > 0,
        contract,
        hasAccount: accountId !== undefined,
        consent: enquiry.consent,
        consentRequired: release.content.capture.consent.required,
      },
      nowMs(),
    );
    if (decision.state === 'none') continue;
    const id = reportBackIdOf(outcome.id, accountId ?? nilId);
    const before = (await tables.reportBacks.findOne({ where: { businessId, id }, transaction }))?.get({ plain: true });
    if (before && before.state !== 'waiting' && before.state !== 'held') continue;
    const dueAt = decision.state === 'waiting' ? new Date(decision.dueAt) : null;
    await tables.reportBacks.bulkCreate(
      [
        {
          businessId,
          id,
          outcomeId: outcome.id,
          enquiryId: enquiry.id,
          accountId: accountId ?? nilId,
          platform: telling.platform,
          state: decision.state,
          reason: decision.state === 'held' ? decision.reason : (before?.reason ?? null),
          clickId: decision.clickId,
          dueAt,
          madeAt: before?.madeAt ?? now(),
        },
      ],
      { updateOnDuplicate: ['state', 'reason', 'clickId', 'dueAt'], transaction },
    );
    if (dueAt && before?.state !== 'waiting')
      await markWork(db, 'report_back', businessId, [id], dueAt, transaction, accountId ?? nilId);
  }
}

/** The hops Told and Confirmed of a counted outcome, from its report-backs as they stand. */
export async function readTellingHops(
  { tables }: Context,
  enquiry: EnquiryRow,
  strand: Strand,
  outcome: OutcomeRow,
  release: Release,
  transaction: Transaction,
): Promise<HopRow[]> {
  const rows = await tables.reportBacks.findAll({
    where: { businessId: enquiry.businessId, outcomeId: outcome.id },
    order: [['madeAt', 'ASC']],
    transaction,
  });
  return tellingHops(
    { strand: strand.id, subject: enquiry.id, outcome: outcome.code, release: release.number },
    rows.map((row) => {
      const { state, reason, platform, answeredAt, confirmedAt } = row.get({ plain: true });
      return {
        state,
        reason,
        platform: contractOf(platform)?.words ?? platform,
        answeredAt: answeredAt?.getTime() ?? null,
        confirmedAt: confirmedAt?.getTime() ?? null,
      };
    }),
  );
}
