import type { Sequelize } from 'sequelize';
import { readTagBy, type Release } from '../../core/releases';
import { makeBelonging, type NarrowedTo } from '../../core/strands';
import { pick, selectRows, text, whole, type Read } from '../db';
import { strandDays } from '../rollups/table';
import type { TagNarrowing } from './narrowing';
import { dayValues, inDays, readReportedClicks, type Days } from './queries';

/** What the strands of some days came with, by how many there are of each. */
const origin = {
  ...pick(strandDays, ['platform', 'source', 'campaign']),
  campaignId: text().of('utm_id'),
  strands: whole().of('SUM(strands)'),
};

/** What a line of some days can be narrowed to, and what it is. */
export interface Narrowed {
  tags: TagNarrowing | null;
  /** Each campaign of these days, with its clicks and tagged landings, the most first. */
  campaigns: { campaign: string; strands: number }[];
}

/** Reads what the strands of some days came with, and what of it is of a platform and a campaign. */
export async function readNarrowed(
  db: Sequelize,
  businessId: string,
  release: Release,
  days: Days,
  { platform, campaign }: NarrowedTo,
): Promise<Narrowed> {
  const [origins, reported] = await Promise.all([
    readOrigins(db, businessId, days),
    readReportedClicks(db, businessId, days.firstDay, days.lastDay),
  ]);
  const read = readTagBy(release);
  const to = { platform, campaign: read('utm_campaign', campaign) };
  const belonging = makeBelonging(read, reported, release.content.capture.keep.clickIds);
  const named = new Map<string, number>(
    reported.map((one) => [belonging.campaignOf({ ...one, campaignId: one.id }), 0]),
  );
  for (const one of origins) {
    const name = belonging.campaignOf(one);
    if (name !== '') named.set(name, (named.get(name) ?? 0) + one.strands);
  }
  const campaigns = [...named]
    .map(([name, strands]) => ({ campaign: name, strands }))
    .sort((a, b) => b.strands - a.strands || (a.campaign < b.campaign ? -1 : 1));
  if (to.platform === '' && to.campaign === '') return { tags: null, campaigns };
  const sources = origins.filter((one) => one.platform === '' && belonging.platformOf(one) === to.platform);
  const pairs = origins.filter((one) => belonging.campaignOf(one) === to.campaign);
  const tags: TagNarrowing = {
    to,
    belonging,
    sources: [...new Set(sources.map(({ source }) => source))],
    campaigns: [...new Map(pairs.map((one) => [JSON.stringify([one.campaign, one.campaignId]), one])).values()].map(
      (one) => [one.campaign, one.campaignId],
    ),
  };
  return { tags, campaigns };
}

/** The same where no campaigns are offered: null, and nothing read, for every platform and campaign. */
export const readTags = async (...asked: Parameters<typeof readNarrowed>): Promise<TagNarrowing | null> => {
  const { platform, campaign } = asked[4];
  return platform === '' && campaign === '' ? null : (await readNarrowed(...asked)).tags;
};

const readOrigins = (db: Sequelize, businessId: string, days: Days): Promise<Read<typeof origin>[]> =>
  selectRows(
    db,
    origin,
    `FROM strand_days WHERE ${inDays} AND way_in = 'none' AND marked = ''
     GROUP BY platform, source, campaign, utm_id`,
    dayValues(businessId, days),
  );
