import { z } from 'zod';
import { hashMail } from '../../events/mail-hash';
import { writeAmount } from '../../outcomes/worth';
import type { Answer } from '../../outgoing';
import { readStatus, type BatchAnswer, type ChangeRow, type PlatformContract, type TellingRow } from '../contract';
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
  hashes: { mail: hashMail },
  authorised: 'bearer',
  repeats: 'key',
  catalogue: {
    list: {
      request: { method: 'GET', path: '/api/known-outcomes' },
      read: (body) => outcomesSchema.parse(body).outcomes.map(({ code }) => code),
    },
    make: (code) => ({ method: 'POST', path: '/api/known-outcomes', body: { code } }),
  },
  writeBatch: (rows) => writeBatch(rows, '/api/outcomes'),
  readAnswer: (answer) => readAnswer(answer, ['taken', 'told before']),
  tests: {
    writeBatch: (rows) => writeBatch(rows, '/api/outcomes?try=yes'),
    readAnswer: (answer) => readAnswer(answer, ['taken', 'told before']),
  },
  changes: { withinDays: 60, writeBatch: writeChanges, readAnswer: (answer) => readAnswer(answer, ['changed']) },
  recognisesRepeats: {
    request: { method: 'GET', path: '/api/account' },
    read: (body) => accountSchema.parse(body).repeats === 'recognised by order',
  },
  report: quillsearchReport,
};

/** The body of one intake call. `worth` is a decimal number of major units, `happened_at` RFC 3339 in UTC. */
function writeBatch(rows: TellingRow[], path: string) {
  return {
    method: 'POST' as const,
    path,
    body: {
      rows: rows.map((row) => ({
        ...(row.key.kind === 'click_id' ? { visit_key: row.key.value } : { mail_hash: row.key.value }),
        outcome: row.outcome,
        happened_at: new Date(row.happenedAt).toISOString(),
        worth: Number(writeAmount(row.worth)),
        currency: row.worth.currency,
        order: row.eventId,
      })),
    },
  };
}

/** Changes of what it has, by our order, each with its new worth as a whole. */
function writeChanges(rows: ChangeRow[]) {
  return {
    method: 'POST' as const,
    path: '/api/outcomes/changes',
    body: { rows: rows.map(({ eventId, worth }) => ({ order: eventId, worth: Number(writeAmount(worth)) })) },
  };
}

/**
 * An answer that is none of Quillsearch's says nothing of any row.
 * @param good what it says of a row that it took: "told before" too, under our own key
 */
function readAnswer(answer: Answer, good: string[]): BatchAnswer {
  const failed = readStatus(answer);
  if (failed) return failed;
  const read = answerSchema.safeParse(readJson(answer.body));
  if (!read.success)
    return { kind: 'away', status: 'answer not understood', answer: answer.body.slice(0, 200), retryAfter: undefined };
  return {
    kind: 'rows',
    rows: read.data.rows.map(({ order, answer: said, day }) =>
      good.includes(said)
        ? { eventId: order, taken: true, day: day ?? '' }
        : { eventId: order, taken: false, answer: said },
    ),
  };
}
