import type { Context } from '../context';
import { makeLastKnown } from '../last-known';
import { readCampaignNames } from './queries';

/** How long (ms) campaigns' names are taken as known. */
const namesFor = 10_000;

export type CampaignNames = ReturnType<typeof makeCampaignNames>;

/** Campaigns by their names, in words; '' for one that the register has not. */
export const makeCampaignNames = ({ db }: Pick<Context, 'db'>) =>
  makeLastKnown(async (businessId): Promise<(campaign: string) => string> => {
    const rows = await readCampaignNames(db, businessId);
    const friendly = new Map(rows.map(({ value, label }) => [value.toLowerCase(), label]));
    return (campaign) => friendly.get(campaign.toLowerCase()) ?? '';
  }, namesFor);
