import type { APIRoute } from 'astro';
/** Lets the live list hold for everything ever recorded. */
export const POST: APIRoute = async ({ locals: { services, membership, person } }) =>
  Response.json(await services.noCustomer.apply(membership, person!.id));
