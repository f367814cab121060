/*
 * What somebody writes and has not saved yet, kept in this browser tab: opening another row, Back and reload do not
 * lose it.
 */

const keyOf = (name: string) => `avrix written ${name}`;

/** What was written under a name and not saved, or null. */
export function readWritten<T>(name: string): T | null {
  try {
    return JSON.parse(sessionStorage.getItem(keyOf(name)) ?? 'null') as T | null;
  } catch {
    // A browser that keeps nothing loses what is unsaved with the page, as without this.
    return null;
  }
}

/** Keeps what is written under a name; null forgets it. */
export function keepWritten(name: string, written: unknown): void {
  try {
    if (written === null) sessionStorage.removeItem(keyOf(name));
    else sessionStorage.setItem(keyOf(name), JSON.stringify(written));
  } catch {
    // As above.
  }
}
