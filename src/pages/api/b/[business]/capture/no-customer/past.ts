import type { APIRoute } from 'astro';
/** What applying the live list to the past would mark; nothing is changed. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.noCustomer.preview(membership));

/** Lets the live list hold for everything ever recorded. */
export const POST: APIRoute = async ({ locals: { services, membership, person } }) =>
  Response.json(await services.noCustomer.apply(membership, person!.id));
