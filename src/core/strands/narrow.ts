import type { AccountClicks, Landings, ReadValue, ShortLinkClicks } from './clicks';

/** A platform and a campaign that a line is narrowed to; '' for every one. */
export interface NarrowedTo {
  platform: string;
  campaign: string;
}

/** A campaign that an account reports: its name, and its ID where it has one. */
export type ReportedName = Pick<AccountClicks['campaigns'][number], 'campaign' | 'id'>;

/** Says which campaign and platform what arrived belongs to, as clicks are compared with landings (`compareClicks`). */
export interface Belonging {
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
