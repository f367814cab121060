import { Op, type Transaction } from 'sequelize';
import type { ReportedCost } from '../../core/platforms/contract';
import { costIdOf } from '../../core/strands/ids';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, plain, type CostTableRow } from '../db';
import type { Account } from '../platforms/accounts';

/** How far back (days) an account's costs are read at first; platforms restate the last days, so those are read again each time. */
const firstDaysBack = 400;
const daysBack = 35;

/** What of a row may be another when it is told again. */
const told = ['clicks', 'amountMinor', 'currency', 'campaign', 'ad'] as const;
/** What is set anew where a row is there. */
export const restated = [...told, 'cameBy', 'readAt'] as const;

/** For how many days back an account's costs are to be read. */
export async function costDaysBack({ tables }: Pick<Context, 'tables'>, { businessId, key }: Account): Promise<number> {
  const any = await tables.costs.findAll({
    attributes: ['id'],
    where: { businessId, account: key, cameBy: 'report' },
    limit: 1,
  });
  return any.length > 0 ? daysBack : firstDaysBack;
}

/** Stores what an account reports of some days, in place of what it reported of them before; what is as it was is not written again. */
export async function storeCosts(
  { tables }: Pick<Context, 'tables'>,
  { businessId, key }: Account,
  firstDay: string,
  rows: readonly ReportedCost[],
  transaction: Transaction,
): Promise<void> {
  const where = { businessId, account: key, cameBy: 'report' as const, day: { [Op.gte]: firstDay } };
  const known = new Map(plain(await tables.costs.findAll({ where, transaction })).map((row) => [row.id, row]));
  const next = addedUp(rows.map((row) => costRow(businessId, key, row, 'report')));
  const gone = [...known.keys()].filter((id) => !next.has(id));
  if (gone.length > 0) await tables.costs.destroy({ where: { businessId, id: gone }, transaction });
  const changed = [...next.values()].filter((row) => {
    const before = known.get(row.id);
    return !before || told.some((column) => before[column] !== row[column]);
  });
  await insertRows(tables.costs, changed, [...restated], transaction);
}

/** Rows by their IDs: what is told in several rows of one day, campaign, ad and currency, as by the hour, is one. */
export function addedUp(rows: readonly CostTableRow[]): Map<string, CostTableRow> {
  const byId = new Map<string, CostTableRow>();
  for (const row of rows) {
    const before = byId.get(row.id);
    const { clicks, amountMinor } = row;
    byId.set(
      row.id,
      before ? { ...before, clicks: before.clicks + clicks, amountMinor: before.amountMinor + amountMinor } : row,
    );
  }
  return byId;
}

/** A row of costs, by what tells it from others. */
export function costRow(
  businessId: string,
  account: string,
  { day, campaign, campaignId, ad, adId, clicks, amount, currency }: ReportedCost,
  cameBy: CostTableRow['cameBy'],
): CostTableRow {
  const id = costIdOf(businessId, account, day, currency, campaignId || `name ${campaign}`, adId || `name ${ad}`);
  const named = { campaign: campaign.slice(0, 200), campaignId, ad: ad.slice(0, 200), adId };
  return { businessId, id, account, day, ...named, clicks, amountMinor: amount, currency, cameBy, readAt: now() };
}
