import type { APIRoute } from 'astro';
import { z } from 'zod';
import { valueRuleSchema } from '@/core/capture/rules-schema';
import { readBodyAs } from '@/core/read-as';

/** What a keep rule would have kept of what arrived; nothing is stored, and a rule may still be unfinished. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const rule = readBodyAs(
    valueRuleSchema.extend({ cookie: valueRuleSchema.shape.cookie.or(z.literal('')) }),
    await request.text(),
  );
  return Response.json(await services.keptTraffic(membership, rule));
};
