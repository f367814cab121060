import type { APIRoute } from 'astro';
import { tagSetSchema } from '@/core/links/schema';
import { readBodyAs } from '@/core/read-as';

/** Saves a tag set under its name. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  await services.making.saveTagSet(membership, readBodyAs(tagSetSchema, await request.text()));
  return new Response(null, { status: 204 });
};
