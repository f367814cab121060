import { guarded } from './guarded';

/**
 * Hears when the page's address changes without a new page being loaded. The fragment alone is no other address.
 *
 * @param onChange gets the address before, and whether a link or a step through the history changed it
 */
export function watchAddress(onChange: (before: string, by: 'navigate' | 'back_forward') => void): void {
  const here = () => location.href.split('#')[0]!;
  let before = here();
  const look = guarded((by: 'navigate' | 'back_forward') => {
    if (here() === before) return;
    const from = before;
    before = here();
    onChange(from, by);
  });
  const { pushState } = history;
  history.pushState = function (...given) {
    pushState.apply(this, given);
    look('navigate');
  };
  addEventListener('popstate', () => look('back_forward'));
}
