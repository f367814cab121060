import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { dropSchema } from '@/core/releases/draft-schema';

/** Drops changes of the draft: those named, or all. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  await services.draft.drop(membership, readBodyAs(dropSchema, await request.text()).rules);
  return new Response(null, { status: 204 });
};
