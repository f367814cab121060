import type { APIRoute } from 'astro';
import { ownPasswordSchema } from '@/core/people/schema';
import { readAs } from '@/core/read-as';

/** Changes the password of who is signed in. */
export const POST: APIRoute = async ({ request, locals }) => {
  const { before, password } = readAs(ownPasswordSchema, await request.json(), 'Fix it and send it again.');
  await locals.services.members.setPassword(locals.person!, before, password);
  return new Response(null, { status: 204 });
};
