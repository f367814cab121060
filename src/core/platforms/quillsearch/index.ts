import { z } from 'zod';
import { writeAmount } from '../../outcomes/worth';
import type { Answer } from '../../outgoing';
import { readStatus, type BatchAnswer, type PlatformContract, type TellingRow } from '../contract';
import { readJson } from '../read-json';
import { quillsearchLinks } from './links';
import { quillsearchReport } from './report';

const answerSchema = z.object({
  rows: z.array(z.object({ order: z.string(), answer: z.string(), day: z.string().optional() })),
});
const outcomesSchema = z.object({ outcomes: z.array(z.object({ code: z.string() })) });
const accountSchema = z.object({ repeats: z.enum(['recognised by order', 'not recognised']) });

/** Quillsearch's contract, from its own published limits. */
export const quillsearch: PlatformContract = {
  ...quillsearchLinks,
  limits: { clickDays: 80, tellWithinDays: 12, rowsPerCall: 1500, callsPerMinute: 40 },
  keys: ['click_id'],
  authorised: 'bearer',
  repeats: 'key',
  catalogue: {
    list: {
      request: { method: 'GET', path: '/api/known-outcomes' },
      read: (body) => outcomesSchema.parse(body).outcomes.map(({ code }) => code),
    },
    make: (code) => ({ method: 'POST', path: '/api/known-outcomes', body: { code } }),
  },
  writeBatch,
  readAnswer,
  recognisesRepeats: {
    request: { method: 'GET', path: '/api/account' },
    read: (body) => accountSchema.parse(body).repeats === 'recognised by order',
  },
  report: quillsearchReport,
};

/** The body of one intake call. `worth` is a decimal number of major units, `happened_at` RFC 3339 in UTC. */
function writeBatch(rows: TellingRow[]) {
  return {
    method: 'POST' as const,
    path: '/api/outcomes',
    body: {
      rows: rows.map((row) => ({
        visit_key: row.key.value,
        outcome: row.outcome,
        happened_at: new Date(row.happenedAt).toISOString(),
        worth: Number(writeAmount(row.worth)),
        currency: row.worth.currency,
        order: row.eventId,
      })),
    },
  };
}

/** "told before" is taken for our own key. An answer that is none of Quillsearch's says nothing of any row. */
function readAnswer(answer: Answer): BatchAnswer {
  const failed = readStatus(answer);
  if (failed) return failed;
  const read = answerSchema.safeParse(readJson(answer.body));
  if (!read.success)
    return { kind: 'away', status: 'answer not understood', answer: answer.body.slice(0, 200), retryAfter: undefined };
  return {
    kind: 'rows',
    rows: read.data.rows.map(({ order, answer: said, day }) =>
      said === 'taken' || said === 'told before'
        ? { eventId: order, taken: true, day: day ?? '' }
        : { eventId: order, taken: false, answer: said },
    ),
  };
}
