/**
 * True for a key pressed by itself while nothing is being typed, where the person has not switched single keys off (the
 * page says so in `data-single-keys`).
 */
export function isPlainKey(event: KeyboardEvent): boolean {
  const off = document.documentElement.dataset.singleKeys === 'off';
  return !off && !isTyping(event) && !event.ctrlKey && !event.metaKey && !event.altKey;
}

/** True where a key goes into a field. */
export function isTyping({ target }: KeyboardEvent): boolean {
  const { isContentEditable, tagName } = target as HTMLElement;
  return isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(tagName);
}
