import type { APIRoute } from 'astro';
import { safePath } from '@/ui/frame/safe-path';

/** Ends one of this person's own sessions. */
export const POST: APIRoute = async ({ request, params, locals, redirect }) => {
  await locals.services.people.revoke(locals.person!.id, params.id!);
  return redirect(safePath((await request.formData()).get('back')), 303);
};
