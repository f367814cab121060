import type { APIRoute } from 'astro';

/** The trace of one enquiry. */
export const GET: APIRoute = async ({ locals: { services, membership }, params }) =>
  Response.json(await services.traces.ofEnquiry(membership.business, membership.role, params.enquiry!));
