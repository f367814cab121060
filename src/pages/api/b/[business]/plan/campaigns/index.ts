import type { APIRoute } from 'astro';
import { campaignSchema } from '@/core/plan/campaign';
import { readBodyAs } from '@/core/read-as';

/** The campaign register. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.campaigns.view(membership));

/** Writes a new campaign. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  await services.campaigns.save(membership, null, readBodyAs(campaignSchema, await request.text()));
  return new Response(null, { status: 204 });
};
