import type { APIRoute } from 'astro';
import { rangeSchema, strandListSchema } from '@/core/strands/schema';

/** The strands behind a number of the line as a file, in the list's order. */
export const GET: APIRoute = ({ locals: { services, membership, drained }, url }) => {
  const given = Object.fromEntries(url.searchParams);
  const query = strandListSchema.parse({ ...given, page: 1 });
  const { business, role } = membership;
  const rows = services.strands.allStrands(business, role, rangeSchema.parse(given), query);
  return services.files.writeList(
    'strands',
    rows,
    {
      clickId: 'click ID',
      firstAt: 'first seen',
      cameFrom: 'came from',
      campaign: 'campaign',
      company: 'company',
      lastHop: 'last hop',
      why: 'why',
    },
    drained,
  );
};
