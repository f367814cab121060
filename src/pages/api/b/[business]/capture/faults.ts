import type { APIRoute } from 'astro';
/** What keeps values from arriving, and what arrives that should not. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.capture.faults(membership));
