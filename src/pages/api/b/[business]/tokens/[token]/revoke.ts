import type { APIRoute } from 'astro';

/** Ends a token at once. */
export const POST: APIRoute = async ({ locals: { services, membership }, params }) => {
  await services.tokens.revoke(membership, params.token!);
  return new Response(null, { status: 204 });
};
