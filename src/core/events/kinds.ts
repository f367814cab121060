/* What events are made of, without the schemas: pages need the names alone. */

/** Where a reading of the business's own takes its value from; what `name` and `attribute` say, by that. */
export const readFrom = ['query', 'cookie', 'element', 'pressed', 'field', 'page', 'kept', 'fixed'] as const;
export type ReadFrom = (typeof readFrom)[number];

export const textTests = ['equals', 'begins', 'ends', 'contains', 'pattern'] as const;
export const tests = [...textTests, 'one_of', 'at_least', 'at_most', 'there'] as const;
/** How a value is held against what is wanted. */
export type Test = (typeof tests)[number];

export const cueKinds = [
  'arrives',
  'presses',
  'presses_words',
  'leaves_for',
  'sends',
  'orders',
  'reads_to',
  'reads_down',
  'stays',
  'says',
] as const;
export type CueKind = (typeof cueKinds)[number];

/** What an event counts once for; its ID is made of that, never of a page view (counting rule 11). */
export const onceForKinds = ['each_time', 'lead_token', 'order', 'reading', 'visit', 'visitor'] as const;
export type OnceFor = (typeof onceForKinds)[number];
