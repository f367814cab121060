import { z } from 'zod';
import { changeKinds } from '../changes/view';

const at = z.iso.datetime();

/** The business that a token speaks to. */
export const businessAnswerSchema = z.object({
  key: z.string(),
  name: z.string(),
  timeZone: z.string(),
  currency: z.string(),
  websites: z.array(
    z.object({ host: z.string(), seenAt: at.nullable().describe('Null before its first page reported.') }),
  ),
});

/** A connected account with what it last did; its keys are never said. */
export const connectionAnswerSchema = z.object({
  id: z.uuid(),
  key: z.string().describe('What rules call it.'),
  kind: z.string(),
  does: z.enum(['platform', 'crm', 'destination']),
  name: z.string(),
  endpoint: z.string(),
  timeZone: z.string(),
  currency: z.string(),
  state: z.enum(['in use', 'paused', 'retired']),
  hook: z.string().nullable().describe('Where it sends webhooks to; null where it sends none.'),
  last: z.object({ at, status: z.string(), said: z.string() }).nullable().describe('Its last answer.'),
  workedAt: at.nullable(),
  broken: z.object({ was: z.string(), fix: z.string() }).nullable(),
  did: z.object({ count: z.number().int(), lastAt: at.nullable(), waiting: z.number().int(), held: z.number().int() }),
  usedFor: z.array(z.string()),
});

export const personAnswerSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  mail: z.string().describe('Empty for all but owners.'),
  role: z.enum(['owner', 'editor', 'reader']),
  mayRelease: z.boolean(),
  seesPeople: z.boolean(),
  seesMoney: z.boolean(),
  seenAt: at.nullable(),
});

export const changeAnswerSchema = z.object({
  id: z.uuid(),
  at,
  by: z.string(),
  kind: z.enum(changeKinds),
  subject: z.string(),
  was: z.string().describe('Empty where it is new.'),
  became: z.string().describe('Empty where it was taken away.'),
});

export const tryAnswerSchema = z.object({
  isGood: z.boolean(),
  means: z.string(),
  request: z.object({
    method: z.string(),
    address: z.string(),
    headers: z.record(z.string(), z.string()),
    body: z.string(),
  }),
  answer: z.object({ status: z.string(), body: z.string() }),
});
