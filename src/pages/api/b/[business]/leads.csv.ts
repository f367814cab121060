import type { APIRoute } from 'astro';
import { leadListSchema } from '@/core/leads/schema';

/** The enquiries of the list as a file, in the list's order. */
export const GET: APIRoute = ({ locals: { services, membership, drained }, url }) => {
  const query = leadListSchema.parse({ ...Object.fromEntries(url.searchParams), page: 1 });
  return services.files.writeList(
    'leads',
    services.leads.all(membership.business, membership.role, query),
    {
      company: 'company',
      name: 'name',
      cameFrom: 'came from',
      form: 'asked by',
      sentAt: 'asked',
      stage: 'stage',
      lastHop: 'last hop',
      why: 'why',
    },
    drained,
  );
};
