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

/** How a model is written in an address: `last`, `position.40.40`, `decay.7`. */
export function creditText(model: CreditModel): string {
  if (model.kind === 'position') return `position.${model.first}.${model.last}`;
  return model.kind === 'decay' ? `decay.${model.halfLifeDays}` : model.kind;
}

/** The model that a text of an address names; the last touch where it names none. */
export function creditFrom(text: string): CreditModel {
  const [kind, ...numbers] = text.split('.');
  const given =
    kind === 'position'
      ? { kind, first: Number(numbers[0] ?? 40), last: Number(numbers[1] ?? 40) }
      : kind === 'decay'
        ? { kind, halfLifeDays: Number(numbers.join('.') || 7) }
        : { kind };
  const parsed = creditModelSchema.safeParse(given);
  return parsed.success ? parsed.data : { kind: 'last' };
}
