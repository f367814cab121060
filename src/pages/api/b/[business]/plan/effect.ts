import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { changesSchema } from '@/core/releases/draft-schema';

/** What changes of rules would do; nothing is stored. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { changes } = readBodyAs(changesSchema, await request.text());
  return Response.json(await services.plan.effect(membership, changes));
};
