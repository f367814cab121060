import type { APIRoute } from 'astro';
/** Takes a file of answers of places outside, with an answer for each row that was not taken. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) =>
  Response.json(await services.elsewhere.readFile(membership, request));
