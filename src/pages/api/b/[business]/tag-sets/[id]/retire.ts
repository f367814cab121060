import type { APIRoute } from 'astro';
/** Takes a tag set out of use. */
export const POST: APIRoute = async ({ locals: { services, membership }, params }) => {
  await services.making.retireTagSet(membership, params.id!);
  return new Response(null, { status: 204 });
};
