import type { APIRoute } from 'astro';
import { readAs, readBodyAs } from '@/core/read-as';
import { historyQuerySchema, newReleaseSchema } from '@/core/releases/draft-schema';

/** The releases, newest first, each with what it changed. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const { before } = readAs(historyQuerySchema, Object.fromEntries(url.searchParams), 'Name a release.');
  return Response.json(await services.releasing.history(membership, before));
};

/** Makes the next release of the draft as it was seen. */
export const POST: APIRoute = async ({ locals: { services, membership, person }, request }) => {
  const wanted = readBodyAs(newReleaseSchema, await request.text());
  const number = await services.releasing.release(membership, person!.id, wanted);
  return Response.json({ number }, { status: 201 });
};
