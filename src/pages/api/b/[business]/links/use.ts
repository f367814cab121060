import type { APIRoute } from 'astro';
import { linkUseSchema } from '@/core/links/list-schema';
import { readBodyAs } from '@/core/read-as';

/** Says where links are used and whose they are. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  await services.links.use(membership, readBodyAs(linkUseSchema, await request.text()));
  return new Response(null, { status: 204 });
};
