import type { APIRoute } from 'astro';
/** Rows of the grid from a file, with an answer for each that cannot be read; nothing is stored. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { content } = await services.releases.live(membership.business.id);
  return Response.json(await services.files.readLinks(request, content.plan));
};
