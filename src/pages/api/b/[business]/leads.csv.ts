import type { APIRoute } from 'astro';
import { leadListSchema } from '@/core/leads/schema';

/** The enquiries of the list as a file, in the list's order. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const query = leadListSchema.parse({ ...Object.fromEntries(url.searchParams), page: 1 });
  const { rows } = await services.leads(membership.business, membership.role, query, services.files.mostRows);
  return services.files.writeList('leads', rows, {
    company: 'company',
    name: 'name',
    cameFrom: 'came from',
    form: 'asked by',
    sentAt: 'asked',
    stage: 'stage',
    lastHop: 'last hop',
    why: 'why',
  });
};
