import type { APIRoute } from 'astro';
/** Who is no customer, by the draft, and what applying the live list to the past would mark. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.noCustomer.view(membership));
