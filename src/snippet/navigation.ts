import { guarded } from './guarded';
import type { Tools } from './tools';

/**
 * Hears when the page's address changes without a new page being loaded. The fragment alone is no other address.
 *
 * @param onChange gets the address before, and whether a link or a step through the history changed it
 * @returns stops hearing of it
 */
export function watchAddress(
  { listen }: Pick<Tools, 'listen'>,
  onChange: (before: string, by: 'navigate' | 'back_forward') => void,
): () => void {
  const here = () => location.href.split('#')[0]!;
  let before = here();
  let ended = false;
  const look = guarded((by: 'navigate' | 'back_forward') => {
    if (ended || here() === before) return;
    const from = before;
    before = here();
    onChange(from, by);
  });
  const { pushState } = history;
  history.pushState = function (...given) {
    pushState.apply(this, given);
    void look('navigate');
  };
  const stop = listen(globalThis, 'popstate', () => look('back_forward'));
  return () => {
    ended = true;
    stop();
  };
}
