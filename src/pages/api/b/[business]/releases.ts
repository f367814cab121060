import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { newReleaseSchema } from '@/core/releases/draft-schema';

/** Makes the next release of the draft as it was seen. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const number = await services.draft.release(membership, readBodyAs(newReleaseSchema, await request.text()));
  return Response.json({ number }, { status: 201 });
};
