import type { APIRoute } from 'astro';
/** Links, results and CRM side by side. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.channels.view(membership));
