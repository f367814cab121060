import type { APIRoute } from 'astro';
/** The fill rules, by the draft. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.capture.fields(membership));
