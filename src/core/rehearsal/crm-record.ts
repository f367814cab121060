import type { FillReport } from '../capture/schema';
import type { CrmRecord, CrmRule } from '../leads/schema';
import type { KnownWorld } from './known';

/** What the CRM would make of a field of a form. `crm`: the field of its record, '' where it takes none. */
export interface TakenField {
  field: string;
  crm: string;
  value: string;
}

/**
 * What the CRM takes of what a form carried: as it did with the newest sendings of that form; for fields that were never
 * carried by its own list of fields and their lengths; where it has no list, by the mapping's names.
 */
export function takenByCrm(
  form: string,
  fills: readonly FillReport[],
  crm: CrmRule,
  { inCrm, crmFields }: Pick<KnownWorld, 'inCrm' | 'crmFields'>,
): TakenField[] {
  const mapped = new Set(Object.values(crm.fields));
  return fills
    .filter(({ state, value }) => state === 'filled' && value !== '')
    .filter(({ field }, i, all) => all.findIndex((one) => one.field === field) === i)
    .map(({ field, value }): TakenField => {
      const seen = inCrm.find((one) => one.form === form && one.field === field);
      if (seen?.state === 'ignored') return { field, crm: '', value: '' };
      if (seen?.state === 'empty') return { field, crm: seen.crm, value: '' };
      const name = seen?.crm ?? field;
      const known = crmFields?.find((one) => one.name === name);
      if (!seen && !(crmFields ? known : mapped.has(name))) return { field, crm: '', value: '' };
      const cutAt = Number(/^cut at (\d+)/.exec(seen?.how ?? '')?.[1] ?? Infinity);
      const longest = Math.min(cutAt, known?.length ?? Infinity);
      return { field, crm: name, value: value.slice(0, longest) };
    });
}

/** The record that the CRM would make of an enquiry. @param at ms */
export function pretendRecord(
  taken: readonly TakenField[],
  crm: CrmRule,
  at: number,
  amounts: KnownWorld['dealAmounts'],
): CrmRecord {
  const stage = crm.stages.inOrder[0]!;
  return {
    deal: 'rehearsed',
    person: 'rehearsed',
    personName: '',
    company: '',
    madeAt: at,
    changedAt: at,
    stage,
    stageChanges: [{ stage, at }],
    fields: Object.fromEntries(
      taken.filter(({ crm: name }) => name !== '').map(({ crm: name, value }) => [name, value]),
    ),
    amounts: { ...amounts },
  };
}
