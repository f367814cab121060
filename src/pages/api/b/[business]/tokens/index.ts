import type { APIRoute } from 'astro';
import { newTokenSchema } from '@/core/people/schema';
import { readAs } from '@/core/read-as';

/** The tokens of a business. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.tokens.view(membership));

/** Makes a token and says it this once. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const wanted = readAs(newTokenSchema, await request.json(), 'Mend it and send it again.');
  return Response.json({ token: await services.tokens.make(membership, wanted) }, { status: 201 });
};
