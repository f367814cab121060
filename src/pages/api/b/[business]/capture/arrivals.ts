import type { APIRoute } from 'astro';
import { foundArrivalsSchema } from '@/core/capture/found-schema';

/** One page of the arrivals behind a fault. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const query = foundArrivalsSchema.parse(Object.fromEntries(url.searchParams));
  return Response.json(await services.foundArrivals.page(membership, query));
};
