import type { APIRoute } from 'astro';
import { linkIdsSchema, retireSchema } from '@/core/links/list-schema';
import { readBodyAs } from '@/core/read-as';

/** Takes links out of use, or back into it. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { links, retired } = readBodyAs(linkIdsSchema.extend(retireSchema.shape), await request.text());
  await services.links.retire(membership, links, retired);
  return new Response(null, { status: 204 });
};
