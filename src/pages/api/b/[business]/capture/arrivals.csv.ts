import type { APIRoute } from 'astro';
import { foundArrivalsSchema } from '@/core/capture/found-schema';
import { readAs } from '@/core/read-as';

/** The arrivals behind a fault as a file, in the list's order. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const given = { ...Object.fromEntries(url.searchParams), page: 1 };
  const query = readAs(foundArrivalsSchema, given, 'Open it from the fault’s number.');
  const { rows } = await services.foundArrivals(membership, query, services.files.mostRows);
  return services.files.writeList('arrivals', rows, {
    at: 'arrived',
    page: 'page',
    campaign: 'campaign',
    detail: 'what',
    company: 'lead',
  });
};
