import { readPointer, writePointer } from '../../capture/pointer';
import type { RecordsCrm } from '../contract';
import type { OwnCrm } from '../schema';

/** The records in what a CRM sent: a list of them, or one that is not in a list. */
export function recordsIn(body: unknown, at: string): unknown[] {
  const found = readPointer(body, at);
  if (Array.isArray(found)) return found as unknown[];
  return typeof found === 'object' && found !== null ? [found] : [];
}

const since = (as: 'time' | 'seconds' | 'ms', at: number): string =>
  as === 'time' ? new Date(at).toISOString() : String(as === 'seconds' ? Math.floor(at / 1000) : at);

/** The contract of a CRM that a business describes itself: whole records come from it, none is asked for by its number. */
export const ownCrmContract = ({ kind, words, token, webhook, list, reads, writes }: OwnCrm): RecordsCrm => ({
  gives: 'records',
  kind,
  words,
  authorised: token,
  callsPerMinute: 60,
  reads,
  webhook,
  list: list && {
    recordsAt: list.recordsAt,
    first: (from) => {
      const mark = list.path.includes('?') ? '&' : '?';
      const query = `${encodeURIComponent(list.since.name)}=${encodeURIComponent(since(list.since.as, from))}`;
      return { method: 'GET', path: `${list.path}${mark}${query}` };
    },
    next(body) {
      const next = list.nextAt === '' ? undefined : readPointer(body, list.nextAt);
      return typeof next === 'string' && next !== '' ? next : null;
    },
  },
  writable: writes?.fields.map(({ name }) => name),
  write: writes
    ? (deal, fields) => ({
        request: {
          method: writes.method,
          path: writes.before + encodeURIComponent(deal) + writes.after,
          body: writes.fields.reduce<unknown>(
            (body, { name, at }) => (name in fields ? writePointer(body, at, fields[name]) : body),
            {},
          ),
        },
        read: () => [],
      })
    : undefined,
});
