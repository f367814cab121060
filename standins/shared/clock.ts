import { AsyncLocalStorage } from 'node:async_hooks';

let offset = 0;
const during = new AsyncLocalStorage<number>();

/** The stand-ins' clock, ms. A replay or a test moves it together with everything else. */
export const nowMs = (): number => during.getStore() ?? Date.now() + offset;

export const isoNow = (): string => new Date(nowMs()).toISOString();

/** Lets the clock show `ms` from this moment on; null puts it back to the real time. */
export function setClock(ms: number | null): void {
  offset = ms === null ? 0 : ms - Date.now();
}

const formats = new Map<string, Intl.DateTimeFormat>();

/** The day (`2027-02-15`) of an instant in a time zone. */
export function dayIn(timeZone: string, ms: number): string {
  const format = formats.get(timeZone) ?? new Intl.DateTimeFormat('sv-SE', { timeZone, dateStyle: 'short' });
  formats.set(timeZone, format);
  return format.format(ms);
}

/** Does `work` while the clock stands at `ms` for it alone; a replay so plays many visits at once. */
export const atTime = <T>(ms: number, work: () => T): T => during.run(ms, work);
