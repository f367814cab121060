import type { APIRoute } from 'astro';
import { sessionCookie } from '@/middleware';

/** Ends this session, on the server too. */
export const POST: APIRoute = async ({ locals, cookies, redirect }) => {
  const { id, sessionId } = locals.person!;
  await locals.services.people.revoke(id, sessionId);
  cookies.delete(sessionCookie, { path: '/' });
  return redirect('/sign-in', 303);
};
