import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { changesSchema, readChanges } from '@/core/releases/draft-schema';

/** What changes of rules would have done to recorded enquiries; nothing is stored. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { changes } = readBodyAs(changesSchema, await request.text());
  return Response.json(await services.captureEffect(membership, readChanges(changes)));
};
