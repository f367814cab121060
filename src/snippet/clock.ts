/** The page's own clock, ms. The edge corrects it by its own; both are kept. */
export const now = (): number => Date.now();
