import { campaignKey } from '../../core/results/cost';
import type { CostCampaignRow } from '../../core/results/cost-view';
import { cellOf, type Dimension } from '../../core/results/dimensions';
import { readingOf } from '../../core/results/reading';
import { groupBy } from '../../core/group-by';
import type { DaySpan } from '../strands/range';
import type { AskedBusiness } from './asked-business';
import { connected } from './connected';
import { readStages } from './read-stages';
import { workOutCosts, type AskedCosts, type PlacedCost } from './work-out-costs';

/** What ads cost on some days, of a row of figures where `row` is one. */
export interface AskedCostTable extends AskedBusiness, AskedCosts {
  days: DaySpan;
  by: Dimension[];
  row: string[] | null;
}

/** Campaigns of accounts with what they cost, the dearest first; and the names that arrived, to match them with. */
export async function workOutCostTable({
  databaseUrl,
  content,
  days,
  by,
  row,
  ...asked
}: AskedCostTable): Promise<{ campaigns: Omit<CostCampaignRow, 'accountName'>[]; names: string[] }> {
  const db = connected(databaseUrl);
  const reading = readingOf(content, await readStages(db, asked.businessId, by));
  const { parts, names } = await workOutCosts(db, asked, days, reading);
  const wanted =
    row === null
      ? parts
      : parts.filter(({ origin, day }) => by.every((one, i) => cellOf(one, origin, day, reading) === row[i]));
  const groups = groupBy(wanted, ({ row: one }) => `${one.account}\n${campaignKey(one)}`);
  const campaigns = [...groups].map(([id, own]) => campaignRow(id, own));
  return { campaigns: campaigns.sort((a, b) => (b.amount ?? 0) - (a.amount ?? 0) || b.clicks - a.clicks), names };
}

function campaignRow(id: string, own: PlacedCost[]): Omit<CostCampaignRow, 'accountName'> {
  const newest = own.reduce((last, part) => (part.row.day > last.row.day ? part : last));
  const rows = new Set(own.map(({ row }) => row));
  return {
    id,
    account: newest.row.account,
    key: campaignKey(newest.row),
    campaign: newest.row.campaign,
    number: newest.row.campaignId,
    match: newest.match,
    clicks: own.reduce((sum, { clicks }) => sum + clicks, 0),
    amount: amountOf(own),
    own: {
      amount: [...rows].reduce((sum, { amount }) => sum + amount, 0),
      currency: newest.row.currency,
    },
    ads: [...groupBy(own, ({ row }) => row.ad)]
      .map(([ad, parts]) => ({
        ad,
        clicks: parts.reduce((sum, { clicks }) => sum + clicks, 0),
        amount: amountOf(parts),
      }))
      .sort((a, b) => (b.amount ?? 0) - (a.amount ?? 0)),
  };
}

/** null where no rate is known for any of it. */
const amountOf = (parts: readonly PlacedCost[]): number | null =>
  parts.every(({ amount }) => amount === null) ? null : parts.reduce((sum, { amount }) => sum + (amount ?? 0), 0);
