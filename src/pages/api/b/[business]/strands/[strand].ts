import type { APIRoute } from 'astro';

/** The trace of one strand, of which nobody asked. */
export const GET: APIRoute = async ({ locals: { services, membership }, params }) =>
  Response.json(await services.traces.ofStrand(membership.business, membership.role, params.strand!));
