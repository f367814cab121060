import type { APIRoute } from 'astro';
/** Takes a find and replace back. */
export const POST: APIRoute = async ({ locals: { services, membership }, params }) =>
  Response.json({ moved: await services.links.undoReplace(membership, params.id!) });
