import type { APIRoute } from 'astro';
/** The line to paste, and where it was seen. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.capture.install(membership));
