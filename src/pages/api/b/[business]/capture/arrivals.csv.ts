import type { APIRoute } from 'astro';
import { foundArrivalsSchema } from '@/core/capture/found-schema';

/** The arrivals behind a fault as a file, in the list's order. */
export const GET: APIRoute = ({ locals: { services, membership, drained }, url }) => {
  const query = foundArrivalsSchema.parse({ ...Object.fromEntries(url.searchParams), page: 1 });
  return services.files.writeList(
    'arrivals',
    services.foundArrivals.all(membership, query),
    {
      at: 'arrived',
      page: 'page',
      campaign: 'campaign',
      detail: 'what',
      company: 'lead',
    },
    drained,
  );
};
