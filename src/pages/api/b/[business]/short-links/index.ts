import type { APIRoute } from 'astro';
import { shortLinkSchema } from '@/core/links/short-link';
import { readBodyAs } from '@/core/read-as';

/** The short links with their clicks and history. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.shortLinks.view(membership));

/** Makes a short link, or leads one elsewhere. */
export const POST: APIRoute = async ({ locals: { services, membership, person }, request }) => {
  await services.shortLinks.save(membership, person!.id, readBodyAs(shortLinkSchema, await request.text()));
  return new Response(null, { status: 204 });
};
