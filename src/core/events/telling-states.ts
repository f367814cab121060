/** How a telling of an event stands; `unsure` where it may have been counted and nobody knows, `worked out` where
 * nobody is told, as another way tells it. */
export const tellingStates = ['waiting', 'held', 'told', 'refused', 'unsure', 'worked out'] as const;
export type TellingState = (typeof tellingStates)[number];

/** As people read it. */
export const tellingWords: Record<TellingState, string> = {
  waiting: 'waiting',
  held: 'held',
  told: 'taken',
  refused: 'refused',
  unsure: 'unsure',
  'worked out': 'only worked out',
};
