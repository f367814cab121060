import type { APIRoute } from 'astro';
import { replaceSchema } from '@/core/links/list-schema';
import { readBodyAs } from '@/core/read-as';

/** Finds and replaces in all links in use. */
export const POST: APIRoute = async ({ locals: { services, membership, person }, request }) => {
  const wanted = readBodyAs(replaceSchema, await request.text());
  return Response.json(await services.links.replace(membership, person!.id, wanted));
};
