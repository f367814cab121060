import { guarded } from './guarded';

/**
 * Hears when the page's address changes without a new page being loaded. The fragment alone is no other address.
 *
 * @param onChange gets the address before
 */
export function watchAddress(onChange: (before: string) => void): void {
  const here = () => location.href.split('#')[0]!;
  let before = here();
  const look = guarded(() => {
    if (here() === before) return;
    const from = before;
    before = here();
    onChange(from);
  });
  const { pushState } = history;
  history.pushState = function (...given) {
    pushState.apply(this, given);
    look();
  };
  addEventListener('popstate', look);
}
