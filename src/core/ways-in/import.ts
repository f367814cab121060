import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** Leads that somebody brings in from a file, or types in: of a fair, a partner, an older list. */
export const imported: WayIn = {
  kind: 'import',
  words: 'Imported leads',
  subject: 'enquiry',
  alone: 'enquiry',
  one: 'imported lead',
  many: 'imported leads',
  hops: ['imported', 'in_crm', 'qualified', 'told', 'confirmed'],
  own: 'imported',
  matters: 'in_crm',
  opening(own, inCrm) {
    if (inCrm < own)
      return `Of ${counted(own, 'imported lead', 'imported leads')}, ${count(inCrm)} ${inCrm === 1 ? 'is' : 'are'} in the CRM with what ${inCrm === 1 ? 'it' : 'they'} came by.`;
    return own === 1
      ? 'The one imported lead is in the CRM with what it came by.'
      : `All ${count(own)} imported leads are in the CRM with what they came by.`;
  },
  latest: 'Latest imported leads',
  didNot: 'was not imported',
  mayStill: 'may still be imported',
};
