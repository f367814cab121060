import type { APIRoute } from 'astro';
import { linkListSchema } from '@/core/links/list-schema';
import { newLinksSchema } from '@/core/links/schema';
import { readBodyAs } from '@/core/read-as';

/** The register of links. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) =>
  Response.json(await services.links.list(membership, linkListSchema.parse(Object.fromEntries(url.searchParams))));

/** Puts links into the register. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { links } = readBodyAs(newLinksSchema, await request.text());
  return Response.json(await services.links.add(membership, links), { status: 201 });
};
