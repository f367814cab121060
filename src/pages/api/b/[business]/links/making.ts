import type { APIRoute } from 'astro';
/** What making links needs: the live plan, tag sets, campaigns. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.making.view(membership));
