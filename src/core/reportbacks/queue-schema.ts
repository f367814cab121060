import { z } from 'zod';
import { listSchema } from '../strands/schema';
import { reportBackActs } from './acts';
import { reportBackStates } from './answers';

const name = (max: number) => z.string().max(max).catch('');

/** The queue, as its address asks for it; '' for all of a kind. */
export const queueListSchema = listSchema.extend({
  sort: z.enum(['madeAt', 'happenedAt', 'dueAt', 'worth']).catch('madeAt'),
  state: z.enum([...reportBackStates, '']).catch(''),
  outcome: name(20),
  /** The key of an account. */
  account: name(40),
  /** A reason code. */
  reason: z
    .string()
    .regex(/^[a-z_]{0,40}$/)
    .catch(''),
});
export type QueueListQuery = z.infer<typeof queueListSchema>;

/** The most report-backs that one act is done with. */
export const mostAtOnce = 5000;

/**
 * What a person does with report-backs of the queue: those named, or all of a list. `isTried`: nothing is done; it is said
 * what would be.
 */
export const reportBackActSchema = z.strictObject({
  act: z.enum(reportBackActs),
  ids: z.array(z.uuid()).max(mostAtOnce, 'must be at most 5,000 at once').default([]),
  /** All of a list instead, as its address asks for it. */
  list: z.record(z.string(), z.string()).nullable().default(null),
  isTried: z.boolean().default(false),
});
/** What a person does with all that a brake holds, once they looked at it. */
export const brakeActSchema = z.strictObject({ id: z.uuid(), act: z.enum(['let_go', 'withdraw']) });
export type BrakeActGiven = z.infer<typeof brakeActSchema>;
export type ReportBackActGiven = z.infer<typeof reportBackActSchema>;
