import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** An enquiry by telephone: its visit is known where the caller says the reference code that the page showed. */
export const call: WayIn = {
  kind: 'call',
  words: 'Calls',
  subject: 'enquiry',
  alone: 'call',
  one: 'caller',
  many: 'callers',
  hops: ['clicked', 'landed', 'kept', 'called', 'in_crm', 'qualified', 'told', 'confirmed'],
  own: 'called',
  matters: 'in_crm',
  opening(called, inCrm) {
    if (inCrm < called)
      return `Of ${counted(called, 'caller', 'callers')} with a known paid click, ${count(inCrm)} ${inCrm === 1 ? 'carries' : 'carry'} it in the CRM.`;
    return called === 1
      ? 'The one caller with a known paid click carries it in the CRM.'
      : `All ${count(called)} callers with a known paid click carry it in the CRM.`;
  },
  latest: 'Latest callers',
  didNot: 'did not call',
  mayStill: 'may still call',
};
