import type { APIRoute } from 'astro';
import { leadListSchema } from '@/core/leads/schema';

/** One page of enquiries. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const query = leadListSchema.parse(Object.fromEntries(url.searchParams));
  return Response.json(await services.leads.page(membership.business, membership.role, query));
};
