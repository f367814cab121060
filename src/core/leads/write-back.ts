import type { TouchValues } from './touch-words';
import { isOfTouch } from './part-words';
import type { CrmWriteRule } from './schema';

/** What is known of an enquiry's touches, the oldest first. */
export interface WrittenFacts {
  /** The touch that brought the enquiry; null where none is known. */
  enquiry: TouchValues | null;
  all: readonly TouchValues[];
}

/** What a field of a record holds and is known to have held. */
export interface FieldState {
  /** As it was last read back; '' where it is empty. */
  is: string;
  /** The characters that it holds; null where no limit is known. */
  length: number | null;
  /** What was last written there, and what it held when it was read back after that; null where nothing was. */
  written: { value: string; found: string | null } | null;
  /** What the form sent in it; '' where it sent nothing. */
  sent: string;
}

/** A value that is to be written. `cut`: what the field will hold of it, where that is less. */
export interface PlannedWrite {
  rule: string;
  field: string;
  was: string;
  becomes: string;
  cut: string | null;
}

/** Why a field is left as it is. */
export type LeftBecause = 'same' | 'no value' | 'not empty' | 'typed there' | 'no slot' | 'no field';
export interface LeftField {
  rule: string;
  field: string;
  because: LeftBecause;
}

const cutTo = (text: string, length: number | null): string => (length === null ? text : text.slice(0, length));

/** Whether a field holds a value already, as far as it can. */
function holds({ is, length, written }: FieldState, value: string): boolean {
  if (is === cutTo(value, length)) return true;
  // A CRM that keeps values in its own way has what it made of it.
  return written !== null && written.value === value && written.found === is;
}

/** Whether what a field holds came from here or from the form, so that nobody typed it. */
function isOwn({ is, length, written, sent }: FieldState): boolean {
  const own = written ? (written.found ?? cutTo(written.value, length)) : null;
  return is === own || (sent !== '' && is === cutTo(sent, length));
}

/**
 * What is to be written into one record by rules, field by field, and what is left as it is and why. What somebody typed
 * into a field is never overwritten unless the rule says so; slots are filled in the order in which touches came, each
 * value once, and none is overwritten. Of several rules for one field the first decides.
 *
 * @param valueOf a touch's value under a rule, in words or through its swap table, or the enquiry's own where no touch is
 * known or asked for; '' for none
 * @param stateOf what a field holds; null where the CRM has no such field
 */
export function planWrites(
  rules: readonly CrmWriteRule[],
  facts: WrittenFacts,
  valueOf: (rule: CrmWriteRule, touch: TouchValues | null) => string,
  stateOf: (field: string) => FieldState | null,
): { writes: PlannedWrite[]; left: LeftField[] } {
  const writes: PlannedWrite[] = [];
  const left: LeftField[] = [];
  const write = (rule: CrmWriteRule, { field, is, length }: Slot, value: string) => {
    const held = cutTo(value, length);
    writes.push({ rule: rule.id, field, was: is, becomes: value, cut: held === value ? null : held });
  };
  const isTaken = (field: string) => writes.some((one) => one.field === field);
  for (const rule of rules) {
    const slots: Slot[] = [];
    for (const field of rule.fields) {
      const state = stateOf(field);
      if (state) slots.push({ field, ...state });
      else left.push({ rule: rule.id, field, because: 'no field' });
    }
    if (rule.touch === 'each' && isOfTouch(rule.part)) {
      fillSlots(rule, slots, facts, valueOf, write, left);
      continue;
    }
    const value = valueOf(rule, (rule.touch === 'first' ? facts.all[0] : facts.enquiry) ?? null);
    for (const slot of slots) {
      if (isTaken(slot.field)) continue;
      const because = value === '' ? 'no value' : leftBecause(rule, slot, value);
      if (because === null) write(rule, slot, value);
      else left.push({ rule: rule.id, field: slot.field, because });
    }
  }
  return { writes, left };
}

function leftBecause({ when }: CrmWriteRule, state: FieldState, value: string): LeftBecause | null {
  if (holds(state, value)) return 'same';
  if (state.is === '' || when === 'always') return null;
  if (when === 'empty') return 'not empty';
  return isOwn(state) ? null : 'typed there';
}

/** A field that the CRM has, with what it holds. */
type Slot = FieldState & { field: string };

function fillSlots(
  rule: CrmWriteRule,
  slots: readonly Slot[],
  { all }: WrittenFacts,
  valueOf: (rule: CrmWriteRule, touch: TouchValues | null) => string,
  write: (rule: CrmWriteRule, slot: Slot, value: string) => void,
  left: LeftField[],
): void {
  const empty = slots.filter(({ is }) => is === '');
  const filled = slots.filter(({ is }) => is !== '');
  const values = [...new Set(all.map((touch) => valueOf(rule, touch)).filter(Boolean))];
  const missing = values.filter((value) => !filled.some((state) => holds(state, value)));
  missing.slice(0, empty.length).forEach((value, i) => write(rule, empty[i]!, value));
  const rest = (because: LeftBecause, those: readonly Slot[]) =>
    left.push(...those.map(({ field }) => ({ rule: rule.id, field, because })));
  rest(missing.length > empty.length ? 'no slot' : 'same', filled);
  rest('no value', empty.slice(missing.length));
}
