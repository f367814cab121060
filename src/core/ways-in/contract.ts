import type { AloneKind, Hop, SubjectKind, WayInKind } from '../strands/types';

/** One way for people to come in: which hops a value takes on it, and what it is counted for. */
export interface WayIn {
  kind: WayInKind;
  /** As people read it: "Enquiries by form". */
  words: string;
  /** What comes in by it, one row each from `own` on. */
  subject: SubjectKind;
  /** What kind of strand one is of whom nothing else is known. */
  alone: AloneKind;
  /** In words, one and many of its subjects. */
  one: string;
  many: string;
  /** Every hop, in order. Up to Kept they are the same for all ways in. */
  hops: readonly Hop[];
  /** The first hop of this way alone. */
  own: Hop;
  /** What its line opens with: of those that made `own` with a known paid click, how many made this hop too. */
  matters: Hop;
  opening(own: number, matters: number): string;
  /** What the list of those that came in last is called. */
  latest: string;
  /** Of a strand that was kept, in words: the person did not go on; the person still may. */
  didNot: string;
  mayStill: string;
}
