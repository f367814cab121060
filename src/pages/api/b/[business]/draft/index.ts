import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { changesSchema } from '@/core/releases/draft-schema';

/** What is not live. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.draft.view(membership));

/** Changes rules in the draft; answers what is doubtful about them. */
export const POST: APIRoute = async ({ locals: { services, membership, person }, request }) => {
  const { changes } = readBodyAs(changesSchema, await request.text());
  const found = await services.draft.change(membership, person!.id, changes);
  return Response.json({ warnings: found.map(({ was, wants }) => ({ was, wants })) });
};
