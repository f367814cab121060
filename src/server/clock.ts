import { AsyncLocalStorage } from 'node:async_hooks';

/**
 * The only clock of the server. Tests and the demo's replay move it; nothing else does. Leases use the database's own
 * time and never move.
 */
let offset = 0;
const during = new AsyncLocalStorage<number>();

/** Milliseconds since 1970 UTC. */
export const nowMs = (): number => during.getStore() ?? Date.now() + offset;

export const now = (): Date => new Date(nowMs());

/** Lets the clock show `ms` from this moment on, going at its usual pace; null puts it back to the real time. */
export function setClock(ms: number | null): void {
  offset = ms === null ? 0 : ms - Date.now();
}

/** Does `work` while the clock stands at `ms` for it alone; a replay so plays many visits at once. */
export const atTime = <T>(ms: number, work: () => T): T => during.run(ms, work);
