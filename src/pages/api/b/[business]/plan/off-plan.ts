import type { APIRoute } from 'astro';
import { offPlanListSchema } from '@/core/plan/list-schema';

/** Values that arrived although the plan does not know them. */
export const GET: APIRoute = async ({ locals: { services, membership }, url }) =>
  Response.json(await services.plan.offPlan(membership, offPlanListSchema.parse(Object.fromEntries(url.searchParams))));
