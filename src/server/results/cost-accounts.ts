import type { Context } from '../context';
import { plain } from '../db';
import type { CostAccount } from './work-out-costs';

/** Accounts by which costs are read, also those that are out of use by now: what they cost stays. */
export async function readCostAccounts(
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
  timeZone: string,
): Promise<CostAccount[]> {
  const rows = await tables.accounts.findAll({ attributes: ['key', 'kind', 'settings'], where: { businessId } });
  return plain(rows).map(({ key, kind, settings }) => ({
    key,
    platform: kind,
    source: settings.source ?? kind,
    timeZone: settings.timeZone ?? timeZone,
  }));
}
