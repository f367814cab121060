const name = 'avrix-draft-changed';

/** Says to the rest of the page that the draft is not what it was. */
export const sayDraftChanged = () => window.dispatchEvent(new Event(name));

/** Calls back whenever the draft was changed on this page. @returns what ends it */
export function onDraftChanged(then: () => void): () => void {
  window.addEventListener(name, then);
  return () => window.removeEventListener(name, then);
}
