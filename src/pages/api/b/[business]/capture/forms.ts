import type { APIRoute } from 'astro';
/** Every form that pages told of. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.capture.forms(membership));
