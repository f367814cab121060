import { countsAsWorking } from '../../core/connections/broken';
import { now, nowMs } from '../clock';
import type { Tables } from '../db';
import type { Account } from './accounts';

/** Notes how an account's service answered: the status or what happened in words, and what was said. */
export type NoteAnswer = (account: Account, method: string, status: string, said: string) => Promise<void>;

/** An account that goes on answering alike is noted this often (ms). */
const alikeFor = 30_000;

/** Keeps of each account how its service last answered. What is as it was is not written each time. */
export function makeNoteAnswer({ accounts }: Tables): NoteAnswer {
  const noted = new Map<string, { status: string; at: number }>();
  return async function noteAnswer({ businessId, id, workedAt, brokenAt }, method, status, said) {
    const before = noted.get(id);
    if (before?.status === status && Math.abs(nowMs() - before.at) < alikeFor) return;
    noted.set(id, { status, at: nowMs() });
    const works = countsAsWorking(status, method, workedAt !== null);
    await accounts.update(
      {
        askedAt: now(),
        answerStatus: status.slice(0, 60),
        answerSaid: said.slice(0, 300),
        ...(works ? { workedAt: now(), brokenAt: null } : { brokenAt: brokenAt ?? now() }),
      },
      { where: { businessId, id } },
    );
  };
}
