import type { APIRoute } from 'astro';
import { retireSchema } from '@/core/links/list-schema';
import { readBodyAs } from '@/core/read-as';

/** Takes a short link out of use, or back into it. */
export const POST: APIRoute = async ({ locals: { services, membership }, request, params }) => {
  const { retired } = readBodyAs(retireSchema, await request.text());
  await services.shortLinks.retire(membership, params.id!, retired);
  return new Response(null, { status: 204 });
};
