import { z } from 'zod';
import { writeAmount } from '../../outcomes/worth';
import type { PlatformContract, RowAnswer, TellingRow } from '../contract';
import { quillsearchLinks } from './links';

/** Quillsearch's contract, from its own published limits. */
export const quillsearch: PlatformContract = {
  ...quillsearchLinks,
  clickDays: 80,
  tellWithinDays: 12,
  repeatsRecognisedBy: 'key',
  rowsPerBatch: 1500,
  callsPerMinute: 40,
};

/** The body of one intake call. `worth` is a decimal number of major units, `happened_at` RFC 3339 in UTC. */
export function writeBatch(rows: TellingRow[]) {
  return {
    rows: rows.map((row) => ({
      visit_key: row.clickId,
      outcome: row.outcome,
      happened_at: new Date(row.happenedAt).toISOString(),
      worth: Number(writeAmount(row.worth)),
      currency: row.worth.currency,
      order: row.eventId,
    })),
  };
}

const answerSchema = z.object({
  rows: z.array(z.object({ order: z.string(), answer: z.string(), day: z.string().optional() })),
});

/**
 * Reads the answer to a batch. Rows the answer does not name are left out, so that the caller keeps them waiting.
 * Throws a ZodError when it is no such answer.
 */
export function readAnswer(body: unknown): RowAnswer[] {
  return answerSchema
    .parse(body)
    .rows.map(({ order, answer, day }) =>
      answer === 'taken' || answer === 'told before'
        ? { eventId: order, taken: true, day: day ?? '' }
        : { eventId: order, taken: false, answer },
    );
}

const accountSchema = z.object({ repeats: z.enum(['recognised by order', 'not recognised']) });
/** Whether the account recognises a row that it is told again, as it says itself. */
export const readRepeats = (body: unknown): boolean => accountSchema.parse(body).repeats === 'recognised by order';

const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/);
const clicksSchema = z.object({
  time_zone: z.string(),
  rows: z.array(
    z.object({
      day,
      campaign: z.string(),
      /** The campaign’s own number, as `(number)` writes it into links. */
      number: z.string().max(80).default(''),
      clicks: z.number().int().min(0),
    }),
  ),
});
const outcomesSchema = z.object({
  rows: z.array(z.object({ day, outcome: z.string(), counted: z.number().int().min(0) })),
});

/** Clicks by click day (the account's zone) and campaign. */
export const readClickReport = (body: unknown) => clicksSchema.parse(body);
/** Outcomes counted, by click day (the account's zone). */
export const readOutcomeReport = (body: unknown) => outcomesSchema.parse(body);
