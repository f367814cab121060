import { randomBytes } from 'node:crypto';
import { html } from 'hono/html';
import { isoNow } from './clock';
import type { Store } from './store';

/**
 * The keys that a service knows its customers' programs by: those it was started with, and those that people make on its
 * page, each shown once.
 */
export function makeKeys(store: Store, first: string[]) {
  const rows = store.rows<{ id: string; made_at: string }>('keys');
  return {
    isKnown: (key: string): boolean => key !== '' && (first.includes(key) || rows.get(key) !== undefined),
    make(): string {
      const id = randomBytes(20).toString('hex');
      rows.put({ id, made_at: isoNow() });
      return id;
    },
    form(action: string) {
      const made = rows.all();
      return html`<form method="post" action="${action}">
        <button>Make a key</button>
        <span>${made.length === 0 ? 'for a program that speaks to this account' : `${made.length} made so far`}</span>
      </form>`;
    },
    /** What the page shows once one was made. */
    fresh: (key: string, back: string) =>
      html`<h1>The new key</h1>
        <p><code id="key">${key}</code></p>
        <p>Copy it now, it is not shown again. <a href="${back}">Back</a></p>`,
  };
}
export type Keys = ReturnType<typeof makeKeys>;
