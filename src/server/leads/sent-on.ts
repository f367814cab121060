import type { Transaction } from 'sequelize';
import type { SentOn } from '../../core/leads';
import { contractOf } from '../../core/platforms';
import type { Release } from '../../core/releases';
import type { Context } from '../context';
import { plain, type EnquiryRow } from '../db';
import type { KnownDeal } from './deals-of';

const ofPlatform = ({ wayIn }: Pick<EnquiryRow, 'wayIn'>) => wayIn === 'lead_form';

/** Of enquiries that a platform's own form took: which platform's it was, and when they were fetched there. */
export async function readSentOn(
  { tables }: Context,
  businessId: string,
  enquiries: readonly EnquiryRow[],
  { content }: Release,
  transaction?: Transaction,
): Promise<Map<string, SentOn>> {
  const enquiryId = enquiries.filter(ofPlatform).map(({ id }) => id);
  if (enquiryId.length === 0) return new Map();
  const rows = plain(
    await tables.platformLeads.findAll({ where: { businessId, enquiryId }, ...(transaction ? { transaction } : {}) }),
  );
  const accounts = plain(
    await tables.accounts.findAll({
      attributes: ['id', 'kind', 'name'],
      where: { businessId, id: [...new Set(rows.map(({ accountId }) => accountId))] },
      ...(transaction ? { transaction } : {}),
    }),
  );
  return new Map(
    rows.map((row) => {
      const account = accounts.find(({ id }) => id === row.accountId);
      const contract = account && contractOf(account.kind, content.platforms);
      return [
        row.enquiryId,
        {
          platform: contract?.words ?? account?.name ?? '',
          keptDays: contract?.leadForms?.keptDays ?? 0,
          fetchedAt: row.fetchedAt?.getTime() ?? null,
        },
      ];
    }),
  );
}

/** What was sent on a platform, and who called, is kept here only until the CRM has a record of it. */
export async function keepHandedOver(
  { tables }: Context,
  businessId: string,
  enquiries: readonly EnquiryRow[],
  deals: ReadonlyMap<string, KnownDeal[]>,
  transaction: Transaction,
): Promise<void> {
  const called = enquiries.filter(({ id, wayIn }) => wayIn === 'call' && deals.get(id)?.[0]).map(({ id }) => id);
  if (called.length > 0)
    await tables.calls.update({ caller: null }, { where: { businessId, enquiryId: called }, transaction });
  for (const { id } of enquiries.filter(({ wayIn }) => wayIn === 'lead_form' || wayIn === 'import')) {
    const number = deals.get(id)?.[0]?.number;
    if (number)
      // eslint-disable-next-line no-await-in-loop -- each names a record of its own, once
      await tables.platformLeads.update(
        { deal: number, answers: null },
        { where: { businessId, enquiryId: id, deal: '' }, transaction },
      );
  }
}
