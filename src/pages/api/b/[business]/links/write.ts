import type { APIRoute } from 'astro';
import { writeLinksSchema } from '@/core/links/schema';
import { readBodyAs } from '@/core/read-as';

/** The grid's links as a file; nothing is stored. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { format, rows, columns } = readBodyAs(writeLinksSchema, await request.text());
  const { content } = await services.releases.live(membership.business.id);
  return services.files.writeLinks(format, content.plan, rows, columns);
};
