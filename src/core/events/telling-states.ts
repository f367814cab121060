/** How a telling of an event stands; `unsure` where it may have been counted and nobody knows. */
export const tellingStates = ['waiting', 'held', 'told', 'refused', 'unsure'] as const;
export type TellingState = (typeof tellingStates)[number];

/** As people read it. */
export const tellingWords: Record<TellingState, string> = {
  waiting: 'waiting',
  held: 'held',
  told: 'taken',
  refused: 'refused',
  unsure: 'unsure',
};
