import { z } from 'zod';
import type { HttpClient } from '../http';
import type { Account } from '../platforms/accounts';
import { callAccount } from '../platforms/call';

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

/** The campaigns of Oakledger. @throws ServiceAway */
export const readCampaigns = async (http: HttpClient, account: Account): Promise<CrmCampaign[]> =>
  campaignsSchema.parse(await callAccount(http, account, '/api/campaigns')).campaigns;

/** The types its campaigns can have. @throws ServiceAway */
export const readCampaignTypes = async (http: HttpClient, account: Account): Promise<string[]> =>
  typesSchema.parse(await callAccount(http, account, '/api/campaign-types')).types;
