import type { APIRoute } from 'astro';
import { checkPagesSchema } from '@/core/links/list-schema';
import { readBodyAs } from '@/core/read-as';

/** The newest page checks. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.pageChecks.view(membership));

/** Asks for checks of pages. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { urls } = readBodyAs(checkPagesSchema, await request.text());
  return Response.json({ checks: await services.pageChecks.ask(membership, urls) }, { status: 202 });
};
