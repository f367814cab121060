import type { Sequelize } from 'sequelize';
import { readTagBy, type Release } from '../../core/releases';
import {
  compareClicks,
  narrowClicks,
  type AccountClicks,
  type ClickComparison,
  type Origin,
  type TagNarrowing,
} from '../../core/strands';
import type { Context } from '../context';
import { plain, type BusinessRow } from '../db';
import { groupBy } from '../../core/group-by';
import { readOrigins, readReportedClicks, readShortLinkClicks, type ReportedCampaign } from './queries';
import type { DaySpan } from './range';

/** What strands of some days of the business came with, and the clicks that accounts reported of the same days of theirs. */
export interface Arrived {
  origins: Origin[];
  reported: ReportedCampaign[];
}

export async function readArrived(
  db: Sequelize,
  { id, timeZone }: BusinessRow,
  { firstDay, lastDay }: DaySpan,
): Promise<Arrived> {
  const [origins, reported] = await Promise.all([
    readOrigins(db, id, { zone: timeZone, firstDay, lastDay }),
    readReportedClicks(db, id, firstDay, lastDay),
  ]);
  return { origins, reported };
}

/**
 * Clicks of some days compared with what landed: of each account in its own days, of short links in the business's.
 * @param tags the platform and campaign alone of which they are compared
 */
export async function compareClicked(
  { db, tables }: Pick<Context, 'db' | 'tables'>,
  businessId: string,
  release: Release,
  { firstDay, lastDay }: DaySpan,
  { origins, reported }: Arrived,
  tags: TagNarrowing | null = null,
): Promise<ClickComparison> {
  const shortLinks = await readShortLinkClicks(db, businessId, firstDay, lastDay);
  const byAccount = groupBy(reported, ({ accountId }) => accountId);
  const rows = plain(await tables.accounts.findAll({ where: { businessId, id: [...byAccount.keys()] } }));
  const zones = new Set(rows.map(({ settings }) => settings.timeZone ?? 'UTC'));
  const landingsIn = new Map(
    await Promise.all(
      [...zones].map(async (zone) => [zone, await readOrigins(db, businessId, { zone, firstDay, lastDay })] as const),
    ),
  );
  const accounts = rows.map(({ id, kind, settings }): AccountClicks => {
    const campaigns = byAccount.get(id)!;
    return {
      platform: kind,
      source: campaigns[0]!.source,
      campaigns,
      landings: landingsIn.get(settings.timeZone ?? 'UTC')!,
    };
  });
  const [own, links, landings] = tags
    ? narrowClicks(accounts, shortLinks, origins, tags.belonging, tags.to)
    : [accounts, shortLinks, origins];
  return compareClicks(own, links, landings, readTagBy(release));
}
