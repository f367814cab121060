import type { APIRoute } from 'astro';
import { joinSchema } from '@/core/people/schema';
import { readBodyAs } from '@/core/read-as';

/** Takes an invitation up: somebody new sends a name and a password, who is signed in presses the page's button. */
export const POST: APIRoute = async ({ request, params, locals, redirect }) => {
  const { members } = locals.services;
  const isJson = request.headers.get('content-type')?.startsWith('application/json') ?? false;
  const fresh = isJson ? readBodyAs(joinSchema, await request.text()) : null;
  const business = await members.join(params.token!, locals.person, fresh);
  return isJson ? Response.json({ business }, { status: 201 }) : redirect(`/b/${business}`, 303);
};
