import type { APIRoute } from 'astro';
import { newBusinessSchema } from '@/core/businesses/schema';
import { readBodyAs } from '@/core/read-as';

/** Makes a business; answers with its key in addresses. */
export const POST: APIRoute = async ({ request, locals }) => {
  const { services, person, memberships } = locals;
  const wanted = readBodyAs(newBusinessSchema, await request.text());
  return Response.json({ key: await services.businessMaking.make(person!, memberships, wanted) }, { status: 201 });
};
