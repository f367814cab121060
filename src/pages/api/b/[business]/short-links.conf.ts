import type { APIRoute } from 'astro';
/** The open short links as a web server's redirect list. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  new Response(await services.shortLinks.redirectList(membership), {
    headers: {
      'content-type': 'text/plain; charset=utf-8',
      'content-disposition': 'attachment; filename="short-links.conf"',
    },
  });
