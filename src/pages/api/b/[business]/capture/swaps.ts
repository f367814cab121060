import type { APIRoute } from 'astro';
/** The swap tables, by the draft, with the values recorded lately. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.swaps(membership));
