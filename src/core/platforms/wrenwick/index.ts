import { writeAmount } from '../../outcomes/worth';
import type { Answer } from '../../outgoing';
import { readStatus, type BatchAnswer, type ChangeRow, type PlatformContract, type TellingRow } from '../contract';
import { readJson } from '../read-json';
import { wrenwickLinks } from './links';

/**
 * Wrenwick's contract: one outcome a call, by an address with the five names of its template. It does not recognise a
 * row that it is told again, and has no report.
 */
export const wrenwick: PlatformContract = {
  ...wrenwickLinks,
  limits: { clickDays: 45, tellWithinDays: 30, rowsPerCall: 1, callsPerMinute: 120 },
  authorised: 'path',
  repeats: 'nothing',
  writeBatch: ([row]) => writeStep(row!, row!.outcome),
  readAnswer,
  changes: { withinDays: 60, writeBatch: ([row]) => writeStep(row!, changeStep(row!)), readAnswer },
};

/** A step of its own says that an earlier one, with the same `no`, is worth `sum` from now on. */
const changeStep = ({ change, cause }: ChangeRow): string =>
  change === 'taken_back' && cause === 'chargeback' ? 'disputed' : 'returned';

function writeStep({ key, worth, eventId }: TellingRow, step: string) {
  const query = new URLSearchParams({
    wwk: key.value,
    step,
    sum: writeAmount(worth),
    cur: worth.currency,
    no: eventId,
  });
  return { method: 'GET' as const, path: `/steps/{token}?${query}` };
}

/** It answers each call with one word, and what is wrong with the row by status 409. */
function readAnswer(answer: Answer, rows: TellingRow[]): BatchAnswer {
  const { eventId } = rows[0]!;
  const said = wordOf(answer);
  if (answer.status === 409) return { kind: 'rows', rows: [{ eventId, taken: false, answer: said }] };
  const failed = readStatus(answer);
  if (failed) return failed;
  return said === 'counted'
    ? { kind: 'rows', rows: [{ eventId, taken: true, day: '' }] }
    : { kind: 'away', status: 'answer not understood', answer: answer.body.slice(0, 200), retryAfter: undefined };
}

function wordOf({ body }: Answer): string {
  const read = readJson(body);
  return typeof read === 'object' && read !== null && 'said' in read && typeof read.said === 'string' ? read.said : '';
}
