import type { APIRoute } from 'astro';
import { rangeSchema, strandListSchema } from '@/core/strands/schema';

/** One page of the strands behind a number of the line. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const given = Object.fromEntries(url.searchParams);
  const { business, role } = membership;
  return Response.json(
    await services.strands.strands(business, role, rangeSchema.parse(given), strandListSchema.parse(given)),
  );
};
