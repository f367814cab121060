import { nowMs } from '../clock';

const minute = 60_000;

export type CallLimit = ReturnType<typeof makeCallLimit>;

/**
 * Holds calls to an account within what its platform takes a minute. In this process: an account's lane is worked on by one
 * process at a time.
 */
export function makeCallLimit() {
  const calls = new Map<string, number[]>();

  return {
    /**
     * Takes one call of an account.
     * @returns how long (ms) to wait before it may be made; 0: it is taken
     */
    take(accountId: string, perMinute: number): number {
      const now = nowMs();
      // A call that lies ahead was made while a clock was wrong.
      const recent = (calls.get(accountId) ?? []).filter((at) => at <= now && now - at < minute);
      calls.set(accountId, recent);
      if (recent.length >= perMinute) return Math.ceil(minute - (now - recent[recent.length - perMinute]!));
      recent.push(now);
      return 0;
    },
  };
}
