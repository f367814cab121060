import type { CueKind, Test } from './schema';

/** What happened in a page that may set events off. */
export type MomentKind = 'arrived' | 'pressed' | 'sent' | 'ordered' | 'read_to' | 'stayed' | 'said';

/** Why a cue or a condition holds or does not, as a code with its operands; the words are in core/reasons. */
export type EventReason =
  | { code: 'other_moment'; cue: CueKind; moment: MomentKind }
  | { code: 'told_again' }
  | { code: 'held'; test: Test; not: boolean; value: string; wanted: string }
  | { code: 'element'; selector: string }
  | { code: 'form'; form: string; wanted: string }
  | { code: 'enough'; amount: number; wanted: number }
  | { code: 'order'; number: string }
  | { code: 'said'; names: readonly string[]; wanted: string }
  /** Recorded traffic does not say. */
  | { code: 'not_recorded'; what: string };

/** `holds` is null where recorded traffic does not say. */
export interface Judged {
  holds: boolean | null;
  because: EventReason;
}
