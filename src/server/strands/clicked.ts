import { readTagBy, type Release } from '../../core/releases';
import { compareClicks, narrowClicks, type AccountClicks, type ClickComparison } from '../../core/strands';
import type { Context } from '../context';
import { plain, type BusinessRow } from '../db';
import { groupBy } from '../../core/group-by';
import type { TagNarrowing } from './narrowing';
import { readLandings, readReportedClicks, readShortLinkClicks } from './queries';
import type { Range } from './range';

/** Clicks of some days, or of one platform or campaign, compared with what landed: of each account in its own days, of short links in the business's. */
export async function compareClicked(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  { id: businessId, timeZone }: BusinessRow,
  release: Release,
  { firstDay, lastDay }: Range,
  tags: TagNarrowing | null = null,
): Promise<ClickComparison> {
  const [cohort, reported, shortLinks] = await Promise.all([
    readLandings(db, businessId, { zone: timeZone, firstDay, lastDay }),
    readReportedClicks(db, businessId, firstDay, lastDay),
    readShortLinkClicks(db, businessId, firstDay, lastDay),
  ]);
  const byAccount = groupBy(reported, ({ accountId }) => accountId);
  const rows = plain(await tables.accounts.findAll({ where: { businessId, id: [...byAccount.keys()] } }));
  const zones = new Set(rows.map(({ settings }) => settings.timeZone ?? 'UTC'));
  const landings = new Map(
    await Promise.all(
      [...zones].map(async (zone) => [zone, await readLandings(db, businessId, { zone, firstDay, lastDay })] as const),
    ),
  );
  const accounts = rows.map(({ id, kind, settings }): AccountClicks => {
    const campaigns = byAccount.get(id)!;
    return {
      platform: kind,
      source: campaigns[0]!.source,
      campaigns,
      landings: landings.get(settings.timeZone ?? 'UTC')!,
    };
  });
  const compared = tags
    ? narrowClicks(accounts, shortLinks, cohort, tags.belonging, tags.to)
    : ([accounts, shortLinks, cohort] as const);
  return compareClicks(...compared, readTagBy(release));
}
