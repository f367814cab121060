import type { Host } from './part';
import type { Tools } from './tools';

/** The block of JSON in which a page says what Avrix may know of it. */
const block = 'avrix-page';

/** Hears of what a page says of itself: in its block when it opens, and by `avrix:tell` later. */
export function onSaid({ listen, later }: Tools, { onEnd }: Host, hear: (said: unknown) => void): void {
  const read = () => {
    const text = document.getElementById(block)?.textContent;
    if (text) hear(JSON.parse(text));
  };
  if (document.readyState === 'loading') onEnd(listen(document, 'DOMContentLoaded', read));
  else later(read);
  onEnd(listen(document, 'avrix:tell', (event) => hear((event as CustomEvent<unknown>).detail)));
}
