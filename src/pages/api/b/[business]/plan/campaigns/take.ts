import type { APIRoute } from 'astro';
import { takeCampaignsSchema } from '@/core/plan/campaign';
import { readBodyAs } from '@/core/read-as';

/** Takes campaigns from outside as they were shown. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { campaigns, vanished } = readBodyAs(takeCampaignsSchema, await request.text());
  await services.campaigns.take(membership, campaigns, vanished);
  return new Response(null, { status: 204 });
};
