import type { APIRoute } from 'astro';
/** What pages keep, by the draft. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.capture.kept(membership));
