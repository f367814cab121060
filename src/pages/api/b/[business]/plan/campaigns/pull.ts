import type { APIRoute } from 'astro';
/** What the CRM's campaigns would change; nothing is taken. */
export const POST: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.campaigns.pull(membership));
