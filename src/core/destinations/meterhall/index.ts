import { z } from 'zod';
import type { Answer } from '../../outgoing';
import { readStatus, type BatchAnswer, type RowAnswer } from '../../platforms/contract';
import { readJson } from '../../platforms/read-json';
import type { DestinationContract, EventRow } from '../contract';
import { meterhallFace } from './face';

/**
 * Meterhall's contract: many events a call, each named by one path with fields beside it. It knows a repeat by the event's
 * ID, and says of each what became of it.
 */
export const meterhall: DestinationContract = {
  ...meterhallFace,
  authorised: 'bearer',
  limits: { rowsPerCall: 100, callsPerMinute: 60, tellWithinHours: 72 },
  repeatsHours: null,
  problem: () => '',
  writeBatch: (rows) => ({
    method: 'POST',
    path: '/intake',
    body: {
      events: rows.map(({ eventId, name, happenedAt, fields }) => ({
        id: eventId,
        path: name,
        moment: new Date(happenedAt).toISOString(),
        with: Object.fromEntries(fields),
      })),
    },
  }),
  readAnswer,
  report: (from, to, zone) => ({
    request: { method: 'GET', path: `/intake/counts?${new URLSearchParams({ from, to, zone })}` },
    read: (body) =>
      countsSchema.parse(body).counts.map(({ day, path, times }) => ({ day, outcome: path, counted: times })),
  }),
};

const countsSchema = z.object({
  counts: z.array(z.object({ day: z.iso.date(), path: z.string().max(210), times: z.number().int().min(0) })),
});

function readAnswer(answer: Answer, rows: EventRow[]): BatchAnswer {
  const failed = readStatus(answer);
  if (failed) return failed;
  const body = readJson(answer.body) as { said?: ({ id?: unknown; word?: unknown } | null)[] } | undefined;
  if (!Array.isArray(body?.said))
    return { kind: 'away', status: 'answer not understood', answer: answer.body.slice(0, 200), retryAfter: undefined };
  const known = new Set(rows.map(({ eventId }) => eventId));
  return {
    kind: 'rows',
    rows: body.said.flatMap((one): RowAnswer[] => {
      const { id, word } = one ?? {};
      if (typeof id !== 'string' || !known.has(id)) return [];
      const isTaken = word === 'counted' || word === 'counted before';
      return [
        isTaken
          ? { eventId: id, taken: true, day: '' }
          : { eventId: id, taken: false, answer: String(word).slice(0, 200) },
      ];
    }),
  };
}
