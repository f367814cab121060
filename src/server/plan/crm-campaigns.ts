import { z } from 'zod';
import type { HttpClient } from '../http';
import type { Account, Accounts } from '../platforms/accounts';
import { callAccount } from '../platforms/call';
import type { Releases } from '../releases/releases';

const day = z.iso.date();

const campaignsSchema = z.object({
  campaigns: z.array(
    z.object({
      id: z.string().max(80),
      title: z.string(),
      tracking_name: z.string(),
      type: z.string(),
      starts_on: day.nullable(),
      ends_on: day.nullable(),
      budget: z.object({ amount: z.string(), currency: z.string().regex(/^[A-Z]{3}$/) }).nullable(),
      owner: z.string(),
    }),
  ),
});
export type CrmCampaign = z.infer<typeof campaignsSchema>['campaigns'][number];

const typesSchema = z.object({ types: z.array(z.string().max(80)).max(200) });

/** The account of a business's CRM; null without one. */
export const crmAccountOf =
  (accounts: Accounts, releases: Releases) =>
  async (businessId: string): Promise<Account | null> =>
    accounts.byKey(businessId, (await releases.live(businessId)).content.crm.account);

/** The campaigns of Oakledger. @throws ServiceAway */
export const readCampaigns = async (http: HttpClient, account: Account): Promise<CrmCampaign[]> =>
  campaignsSchema.parse(await callAccount(http, account, '/api/campaigns')).campaigns;

const linksSchema = z.object({ links: z.array(z.string()).default([]) });

/**
 * Writes links into a campaign's field for them. What somebody else wrote there stays; of ours those that are no longer in
 * use go.
 *
 * @param ours every link ever made for the campaign, and those of them that are in use
 * @returns how many of ours stand there now
 * @throws ServiceAway
 */
export async function writeCampaignLinks(
  http: HttpClient,
  account: Account,
  id: string,
  ours: { all: string[]; used: string[] },
): Promise<number> {
  const path = `/api/campaigns/${encodeURIComponent(id)}`;
  const { links } = linksSchema.parse(await callAccount(http, account, path));
  const own = new Set(ours.all);
  const next = [...links.filter((link) => !own.has(link)), ...ours.used];
  await callAccount(http, account, `${path}/links`, { method: 'POST', body: JSON.stringify({ links: next }) });
  return ours.used.length;
}

/** The types its campaigns can have. @throws ServiceAway */
export const readCampaignTypes = async (http: HttpClient, account: Account): Promise<string[]> =>
  typesSchema.parse(await callAccount(http, account, '/api/campaign-types')).types;
