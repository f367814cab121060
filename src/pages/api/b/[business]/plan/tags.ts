import type { APIRoute } from 'astro';
/** The rules of the tags, held against what arrived. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.plan.tags(membership));
