import type { APIRoute } from 'astro';
/** Values that arrived although the plan does not know them. */
export const GET: APIRoute = async ({ locals: { services, membership } }) =>
  Response.json(await services.plan.offPlan(membership));
