import type { APIRoute } from 'astro';
import { foundArrivalsSchema } from '@/core/capture/found-schema';

/** The arrivals behind a fault as a file, in the list's order. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const query = foundArrivalsSchema.parse({ ...Object.fromEntries(url.searchParams), page: 1 });
  const { rows } = await services.foundArrivals(membership, query, services.files.mostRows);
  return services.files.writeList('arrivals', rows, {
    at: 'arrived',
    page: 'page',
    campaign: 'campaign',
    detail: 'what',
    company: 'lead',
  });
};
