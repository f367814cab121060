import type { APIRoute } from 'astro';
import { replaceSchema } from '@/core/links/list-schema';
import { readBodyAs } from '@/core/read-as';

/** What a find and replace would do; nothing is changed. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const wanted = readBodyAs(replaceSchema, await request.text());
  return Response.json({ links: await services.links.previewReplace(membership, wanted) });
};
