import type { APIRoute } from 'astro';
import { rangeSchema } from '@/core/strands/schema';

/** The line of the range in the query. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const range = rangeSchema.parse(Object.fromEntries(url.searchParams));
  return Response.json(await services.strands.line(membership.business, membership.role, range));
};
