import { groupBy } from '../group-by';
import type { CrmFields } from './forms-seen';
import { howChanged } from './how-changed';
import type { FillReport, Reading } from './schema';

/** A form that was sent, what was filled into it, and the fields of the record that the CRM made of it. */
export interface FollowedSending {
  form: string;
  fills: FillReport[];
  record: Record<string, string>;
}

/** What became of a field's value in the CRM, by the newest sendings that carried one. */
export interface FieldInCrm {
  form: string;
  field: string;
  reading: Reading;
  /** `ignored`: no field of the record holds it. */
  state: 'same' | 'changed' | 'empty' | 'ignored';
  /** The CRM's field that holds it, '' where none does. */
  crm: string;
  /** In words, where it changed. */
  how: string;
  /** How many of those sendings came out so. */
  times: number;
  of: number;
}

/** Sendings that are looked at for each field: enough to tell a rule from a salesperson's own change. */
const newest = 20;

/**
 * Holds what forms carried against what the CRM's records hold. The CRM is asked for a field under the form's own name
 * for it, else under the name that the mapping reads the value by; what a swap table words is another thing than that.
 *
 * @param sendings newest first; what the newest one of a field shows, stands
 * @param isSwapped whether a fill rule reads through a swap table
 */
export function fieldsInCrm(
  sendings: FollowedSending[],
  crm: CrmFields,
  isSwapped: (rule: string) => boolean = () => false,
): FieldInCrm[] {
  const carried = sendings.flatMap(({ form, fills, record }) =>
    fills
      .filter((line) => line.state === 'filled' && line.value !== '')
      // Of two rules for one field the first one's value is in it.
      .filter((line, i, all) => all.findIndex(({ field }) => field === line.field) === i)
      .map((line) => {
        const reading = line.reading as Reading;
        const mapped = isSwapped(line.rule) ? undefined : crm[reading];
        return { form, field: line.field, reading, ...inRecord(line, record, mapped) };
      }),
  );
  return [...groupBy(carried, ({ form, field }) => `${form} ${field}`).values()].map((all) => {
    const looked = all.slice(0, newest);
    const [first] = looked;
    const times = looked.filter(({ state, how }) => state === first!.state && how === first!.how).length;
    return { ...first!, times, of: looked.length };
  });
}

function inRecord(
  { field, value }: FillReport,
  record: Record<string, string>,
  mapped: string | undefined,
): Pick<FieldInCrm, 'state' | 'crm' | 'how'> {
  // A mapped field that is empty was not given this one's value.
  const holder = field in record ? field : mapped !== undefined && record[mapped] ? mapped : '';
  if (holder === '') return { state: 'ignored', crm: '', how: '' };
  const held = record[holder]!;
  if (held === value) return { state: 'same', crm: holder, how: '' };
  if (held === '') return { state: 'empty', crm: holder, how: '' };
  return { state: 'changed', crm: holder, how: howChanged(value, held) };
}
