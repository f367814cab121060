import type { APIRoute } from 'astro';

/** What a file's plan would change; nothing is changed. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) =>
  Response.json(await services.planShare.compare(membership, request));
