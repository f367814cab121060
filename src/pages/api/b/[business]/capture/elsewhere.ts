import type { APIRoute } from 'astro';
/** Places outside, by the draft, with what came back from them. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.elsewhere.view(membership));
