import { groupBy } from '../group-by';
import type { AccountClicks, Landings, ReadValue, ShortLinkClicks } from './clicks';

/** A platform and a campaign that a line is narrowed to; '' for every one. */
interface NarrowedTo {
  platform: string;
  campaign: string;
}

/** A campaign that an account reports: its name, and its ID where it has one. */
type ReportedName = Pick<AccountClicks['campaigns'][number], 'campaign' | 'id'>;

/** Says which campaign and platform what arrived belongs to, as clicks are compared with landings (`compareClicks`). */
interface Belonging {
  /** By its name, or by its ID where an account reports one under that. */
  campaignOf(tags: Pick<Landings, 'campaign' | 'campaignId'>): string;
  /** By its click ID, whatever its tags say; without any by its source. '' for none. */
  platformOf(tags: Pick<Landings, 'platform' | 'source'>): string;
}

/** @param sources the UTM source of each platform's links */
export function makeBelonging(
  read: ReadValue,
  reported: readonly ReportedName[],
  sources: readonly { platform: string; source: string }[],
): Belonging {
  const nameOf = ({ campaign }: Pick<ReportedName, 'campaign'>) => read('utm_campaign', campaign);
  const names = new Set(reported.map(nameOf));
  const byId = new Map(reported.flatMap((one) => (one.id === '' ? [] : [[one.id, nameOf(one)] as const])));
  const bySource = new Map(sources.map(({ platform, source }) => [read('utm_source', source), platform]));
  return {
    campaignOf: (tags) => {
      const name = nameOf(tags);
      return names.has(name) ? name : (byId.get(tags.campaignId) ?? byId.get(tags.campaign) ?? name);
    },
    platformOf: ({ platform, source }) => platform || (bySource.get(read('utm_source', source)) ?? ''),
  };
}

/** Whether what arrived with some tags is of what a line is narrowed to. */
export const belongsTo =
  ({ campaignOf, platformOf }: Belonging, { platform, campaign }: NarrowedTo) =>
  (tags: Pick<Landings, 'platform' | 'source' | 'campaign' | 'campaignId'>): boolean =>
    (platform === '' || platformOf(tags) === platform) && (campaign === '' || campaignOf(tags) === campaign);

/** What strands of some days came with: how many there are of each, and how many of them landed. */
export interface Origin extends Landings {
  strands: number;
}

/** A platform and a campaign that a line is narrowed to, as the strands of its days belong to them. */
export interface TagNarrowing {
  to: NarrowedTo;
  belonging: Belonging;
  /** Sources of what has no click ID and is the platform's, and the names with IDs of the campaign. */
  sources: string[];
  campaigns: [name: string, id: string][];
}

/**
 * What a line of some days is narrowed to, null for every platform and campaign; and the campaigns that it can be narrowed to,
 * the one with the most strands first, also one of which clicks are reported alone.
 *
 * @param origins what the strands of these days came with
 * @param sources the UTM source of each platform's links
 */
export function narrowTo(
  origins: readonly Origin[],
  reported: readonly ReportedName[],
  read: ReadValue,
  sources: readonly { platform: string; source: string }[],
  { platform, campaign }: NarrowedTo,
): { tags: TagNarrowing | null; campaigns: { campaign: string; strands: number }[] } {
  const to = { platform, campaign: read('utm_campaign', campaign) };
  const belonging = makeBelonging(read, reported, sources);
  const named = new Map<string, number>();
  const add = (name: string, strands: number) => name !== '' && named.set(name, (named.get(name) ?? 0) + strands);
  for (const one of reported) add(belonging.campaignOf({ campaign: one.campaign, campaignId: one.id }), 0);
  for (const one of origins) add(belonging.campaignOf(one), one.strands);
  const campaigns = [...named]
    .map(([name, strands]) => ({ campaign: name, strands }))
    .sort((a, b) => b.strands - a.strands || (a.campaign < b.campaign ? -1 : 1));
  if (to.platform === '' && to.campaign === '') return { tags: null, campaigns };
  const ofPlatform = origins.filter((one) => one.platform === '' && belonging.platformOf(one) === to.platform);
  const ofCampaign = origins.filter((one) => belonging.campaignOf(one) === to.campaign);
  const pairs = groupBy(ofCampaign, (one) => JSON.stringify([one.campaign, one.campaignId]));
  return {
    campaigns,
    tags: {
      to,
      belonging,
      sources: [...new Set(ofPlatform.map(({ source }) => source))],
      campaigns: [...pairs.values()].map(([one]) => [one!.campaign, one!.campaignId]),
    },
  };
}

/** The clicks, and what landed, of what a line is narrowed to: what `compareClicks` takes. */
export function narrowClicks(
  accounts: AccountClicks[],
  shortLinks: ShortLinkClicks[],
  cohort: Landings[],
  belonging: Belonging,
  to: NarrowedTo,
): [AccountClicks[], ShortLinkClicks[], Landings[]] {
  const belongs = belongsTo(belonging, to);
  const isCampaign = (campaign: string, campaignId: string) =>
    to.campaign === '' || belonging.campaignOf({ campaign, campaignId }) === to.campaign;
  return [
    accounts
      .filter(({ platform }) => to.platform === '' || platform === to.platform)
      .map((account) => ({
        ...account,
        campaigns: account.campaigns.filter(({ campaign, id }) => isCampaign(campaign, id)),
        landings: account.landings.filter(belongs),
      }))
      // Of a campaign that an account never reported it says nothing, not that there were no clicks.
      .filter(({ campaigns }) => to.campaign === '' || campaigns.length > 0),
    shortLinks.filter(({ source, campaign }) => belongs({ platform: '', source, campaign, campaignId: '' })),
    cohort.filter(belongs),
  ];
}
