import type { APIRoute } from 'astro';
import { readBodyAs } from '@/core/read-as';
import { takeBackSchema } from '@/core/releases/draft-schema';

/** Makes a release that undoes another one. */
export const POST: APIRoute = async ({ locals: { services, membership, person }, request }) => {
  const { number } = readBodyAs(takeBackSchema, await request.text());
  const made = await services.releasing.takeBack(membership, person!.id, number);
  return Response.json({ number: made }, { status: 201 });
};
