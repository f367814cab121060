/**
 * True for a key pressed by itself while nothing is being typed, where the person has not switched single keys off (the
 * page says so in `data-single-keys`).
 */
export function isPlainKey(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  const typing = target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
  const off = document.documentElement.dataset.singleKeys === 'off';
  return !off && !typing && !event.ctrlKey && !event.metaKey && !event.altKey;
}
