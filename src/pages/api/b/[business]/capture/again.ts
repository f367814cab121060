import type { APIRoute } from 'astro';
import { z } from 'zod';
import { stoppedWork } from '@/core/capture/faults';
import { readBodyAs } from '@/core/read-as';

const wantedSchema = z.strictObject({ kind: z.enum(stoppedWork) });

/** Has work that failed for good tried again. */
export const POST: APIRoute = async ({ locals: { services, membership }, request }) => {
  const { kind } = readBodyAs(wantedSchema, await request.text());
  return Response.json({ tried: await services.stoppedWork.again(membership, kind) });
};
