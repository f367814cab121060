import type { APIRoute } from 'astro';
import { foundArrivalsSchema } from '@/core/capture/found-schema';
import { readAs } from '@/core/read-as';

/** One page of the arrivals behind a fault. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const query = readAs(foundArrivalsSchema, Object.fromEntries(url.searchParams), 'Open it from the fault’s number.');
  return Response.json(await services.foundArrivals(membership, query));
};
