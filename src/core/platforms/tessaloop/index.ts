import { hashMail } from '../../events/mail-hash';
import { writeAmount } from '../../outcomes/worth';
import type { Answer } from '../../outgoing';
import { mailHashField, readStatus, type BatchAnswer, type PlatformContract, type TellingRow } from '../contract';
import { readJson } from '../read-json';
import { tessaloopForms } from './lead-forms';
import { tessaloopLinks } from './links';
import { tessaloopReport } from './report';

/**
 * Tessaloop's contract: one event a call. By its `ref` it recognises for 36 hours what it is told again, by a page or by a
 * server.
 */
export const tessaloop: PlatformContract = {
  ...tessaloopLinks,
  limits: { clickDays: 21, tellWithinDays: 5, rowsPerCall: 1, callsPerMinute: 120 },
  hashes: { mail: hashMail },
  authorised: 'bearer',
  repeats: 'key',
  repeatsHours: 36,
  writeBatch: (rows) => writeBatch(rows, '/intake'),
  readAnswer,
  tests: { writeBatch: (rows) => writeBatch(rows, '/intake?try=yes'), readAnswer },
  report: tessaloopReport,
  leadForms: tessaloopForms,
};

function writeBatch([row]: TellingRow[], path: string) {
  const { key, outcome, worth, eventId, happenedAt, fields = [] } = row!;
  const mailHash = fields.find(([name]) => name === mailHashField)?.[1];
  return {
    method: 'POST' as const,
    path,
    body: {
      ref: eventId,
      what: outcome,
      moment: new Date(happenedAt).toISOString(),
      amount: Number(writeAmount(worth)),
      money: worth.currency,
      who: key.kind === 'click_id' ? { tsl: key.value, mail_hash: mailHash } : { mail_hash: key.value },
    },
  };
}

/** It answers each call with one word, and what is wrong with the event by status 409. */
function readAnswer(answer: Answer, rows: TellingRow[]): BatchAnswer {
  const { eventId } = rows[0]!;
  const body = readJson(answer.body) as { word?: unknown } | null | undefined;
  const word = typeof body?.word === 'string' ? body.word : '';
  if (answer.status === 409 && word !== '')
    return { kind: 'rows', rows: [{ eventId, taken: false, answer: word.slice(0, 200) }] };
  const failed = readStatus(answer);
  if (failed) return failed;
  return word === 'noted' || word === 'noted before'
    ? { kind: 'rows', rows: [{ eventId, taken: true, day: '' }] }
    : { kind: 'away', status: 'answer not understood', answer: answer.body.slice(0, 200), retryAfter: undefined };
}
