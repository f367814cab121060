import type { APIRoute } from 'astro';

/** The QR picture of a short link. */
export const GET: APIRoute = async ({ locals: { services, membership }, params }) =>
  new Response((await services.shortLinks.qrSvg(membership, params.id!)) as BodyInit, {
    headers: { 'content-type': 'image/svg+xml' },
  });
