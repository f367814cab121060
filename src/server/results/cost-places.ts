import { contractOf } from '../../core/platforms';
import type { ReleaseContent } from '../../core/releases';
import type { Context } from '../context';
import { plain } from '../db';
import type { CostAccount } from './work-out-costs';

/** A place that costs are of: a connected account, or a source of the plan that has none, such as a fair. */
export interface CostPlace extends CostAccount {
  name: string;
  /** Whether its costs can be brought by file: not of a CRM, nor of an account that is out of use. */
  isOffered: boolean;
}

/** A source that no account stands for is named by this and its value, as no account's key has a blank. */
const ofSource = 'source ';

/**
 * Where costs are read from: accounts, also those that are out of use by now, as what they cost stays; and sources of the plan that
 * no account stands for, whose costs are brought by file.
 */
export async function readCostPlaces(
  { tables }: Pick<Context, 'tables'>,
  business: { id: string; timeZone: string },
  { plan, platforms }: Pick<ReleaseContent, 'plan' | 'platforms'>,
): Promise<CostPlace[]> {
  const rows = await tables.accounts.findAll({
    attributes: ['key', 'kind', 'name', 'settings', 'retiredAt'],
    where: { businessId: business.id },
    order: [['name', 'ASC']],
  });
  const accounts = plain(rows).map(({ key, kind, name, settings, retiredAt }) => ({
    key,
    name,
    platform: kind,
    source: settings.source ?? kind,
    timeZone: settings.timeZone ?? business.timeZone,
    isOffered: contractOf(kind, platforms) !== null && retiredAt === null,
  }));
  const known = new Set(accounts.map(({ source }) => source));
  const sources = plan.tags.find(({ tag }) => tag === 'utm_source')?.values ?? [];
  return [
    ...accounts,
    ...sources
      .filter(({ value }) => !known.has(value))
      .map(({ value, label }) => ({
        key: ofSource + value,
        name: label || value,
        platform: '',
        source: value,
        timeZone: business.timeZone,
        isOffered: true,
      })),
  ];
}
