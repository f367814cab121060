import { z } from 'zod';
import type { CrmCampaign, CrmContract } from '../contract';

const day = z.iso.date();

const campaignSchema = z
  .object({
    id: z.string().max(80),
    title: z.string(),
    tracking_name: z.string(),
    type: z.string(),
    starts_on: day.nullable(),
    ends_on: day.nullable(),
    budget: z.object({ amount: z.string(), currency: z.string().regex(/^[A-Z]{3}$/) }).nullable(),
    owner: z.string(),
    links: z.array(z.string()).default([]),
  })
  .transform(({ tracking_name, starts_on, ends_on, ...rest }): CrmCampaign => ({
    ...rest,
    trackingName: tracking_name,
    startsOn: starts_on,
    endsOn: ends_on,
  }));
const campaignsSchema = z.object({ campaigns: z.array(campaignSchema) });
const typesSchema = z.object({ types: z.array(z.string().max(80)).max(200) });

const at = (id: string) => `/api/campaigns/${encodeURIComponent(id)}`;

/** The campaigns of Oakledger, with the types that each is one of. */
export const oakledgerCampaigns: NonNullable<CrmContract['campaigns']> = {
  all: {
    request: { method: 'GET', path: '/api/campaigns' },
    read: (body) => campaignsSchema.parse(body).campaigns,
  },
  types: { request: { method: 'GET', path: '/api/campaign-types' }, read: (body) => typesSchema.parse(body).types },
  one: (id) => ({ request: { method: 'GET', path: at(id) }, read: (body) => campaignSchema.parse(body) }),
  writeLinks: (id, links) => ({ method: 'POST', path: `${at(id)}/links`, body: { links } }),
};
