import type { APIRoute } from 'astro';
import { ownPasswordSchema } from '@/core/people/schema';
import { readBodyAs } from '@/core/read-as';

/** Changes the password of who is signed in. */
export const POST: APIRoute = async ({ request, locals }) => {
  const { before, password } = readBodyAs(ownPasswordSchema, await request.text());
  await locals.services.members.setPassword(locals.person!, before, password);
  return new Response(null, { status: 204 });
};
