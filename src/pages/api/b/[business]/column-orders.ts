import type { APIRoute } from 'astro';
import { columnOrderSchema } from '@/core/links/schema';
import { readBodyAs } from '@/core/read-as';

/** Saves in which order a platform's upload wants its columns. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  await services.making.saveColumnOrder(membership, readBodyAs(columnOrderSchema, await request.text()));
  return new Response(null, { status: 204 });
};
