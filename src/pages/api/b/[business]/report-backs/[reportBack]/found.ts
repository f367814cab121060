import type { APIRoute } from 'astro';
import { AvrixError } from '@/core/errors';
import { mayChange } from '@/core/people/rights';
import { readAs } from '@/core/read-as';
import { foundSchema } from '@/core/reportbacks/answers';

/** A person says what stands in the platform about a report-back that is unsure. */
export const POST: APIRoute = async ({ locals: { services, membership, person }, params, request }) => {
  if (!mayChange(membership.role)) throw new AvrixError('AVX_ROLE_TOO_SMALL', { right: 'change something' });
  const { found } = readAs(foundSchema, await request.json(), 'Send {"found": "taken"} or {"found": "not taken"}.');
  await services.reportBacks.decide(membership.business.id, params.reportBack!, found, person!.name);
  return new Response(null, { status: 204 });
};
