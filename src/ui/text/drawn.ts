/*
 * When the page was drawn, by the server's clock: on the server it is said before a page's islands are drawn, in the
 * browser it stands in the document, so that both write the same dates.
 */
let drawnAt = NaN;

/** @param ms since 1970 UTC */
export const setDrawnAt = (ms: number): void => void (drawnAt = ms);

/** In ms; NaN where no page is drawn. */
export const readDrawnAt = (): number =>
  typeof document === 'undefined' ? drawnAt : Number(document.documentElement.dataset.drawn ?? NaN);
