import { z } from 'zod';

const share = z.number().int().min(0).max(100);

/**
 * To which touches the worth of an outcome is credited (docs/results.md): the last or the first alone, all alike, the
 * first and the last by a share (percent) of their own and the rest to those between, or each by its age, halved with every half-life (days).
 */
export const creditModelSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('last') }),
  z.object({ kind: z.literal('first') }),
  z.object({ kind: z.literal('even') }),
  z
    .object({ kind: z.literal('position'), first: share, last: share })
    .refine(({ first, last }) => first + last <= 100, {
      path: ['last'],
      error: 'The shares of the first and the last touch are more than 100 per cent together.',
    }),
  z.object({ kind: z.literal('decay'), halfLifeDays: z.number().min(0.5).max(365) }),
]);
export type CreditModel = z.infer<typeof creditModelSchema>;
