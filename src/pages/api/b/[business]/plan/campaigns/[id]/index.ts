import type { APIRoute } from 'astro';
import { campaignSchema } from '@/core/plan/campaign';
import { readBodyAs } from '@/core/read-as';

/** Changes a campaign. */
export const POST: APIRoute = async ({ locals: { services, membership }, request, params }) => {
  await services.campaigns.save(membership, params.id!, readBodyAs(campaignSchema, await request.text()));
  return new Response(null, { status: 204 });
};
