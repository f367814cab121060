import type { APIRoute } from 'astro';
import { linkListSchema } from '@/core/links/list-schema';

/** The links of the list as a file, in the list's order. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) => {
  const query = linkListSchema.parse({ ...Object.fromEntries(url.searchParams), page: 1 });
  const { rows } = await services.links.list(membership, query, 50_000);
  return services.files.writeList(
    'links',
    [
      rows.map(({ tags, problems, check, ...row }) => ({
        ...{ ...row, ...tags },
        ...{ problems: problems.join(' '), page: check ? check.words.join(' ') || check.state : '' },
      })),
    ],
    {
      ...{ url: 'link', landing: 'landing' },
      ...Object.fromEntries([...new Set(rows.flatMap(({ tags }) => Object.keys(tags)))].map((tag) => [tag, tag])),
      ...{ usedIn: 'used in', place: 'place', owner: 'owner', madeAt: 'made', arrivals: 'arrivals' },
      ...{ firstAt: 'first', lastAt: 'last', problems: 'problems', page: 'page' },
    },
  );
};
