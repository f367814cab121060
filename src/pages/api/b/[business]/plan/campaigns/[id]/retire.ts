import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { retireSchema } from '@/core/links/list-schema';

/** Takes a campaign out of use, or back into it. */
export const POST: APIRoute = async ({ locals: { services, membership }, request, params }) => {
  const { retired } = readBodyAs(retireSchema, await request.text());
  await services.campaigns.retire(membership, params.id!, retired);
  return new Response(null, { status: 204 });
};
