import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** An enquiry by a form on the website, followed through the CRM. */
export const form: WayIn = {
  kind: 'form',
  words: 'Enquiries by form',
  subject: 'enquiry',
  alone: 'enquiry',
  one: 'enquiry',
  many: 'enquiries',
  hops: ['clicked', 'landed', 'kept', 'form_sent', 'in_crm', 'qualified', 'told', 'confirmed'],
  own: 'form_sent',
  matters: 'in_crm',
  opening(sent, inCrm) {
    if (inCrm < sent)
      return `Of ${counted(sent, 'enquiry', 'enquiries')} with a known paid click, ${count(inCrm)} still ${inCrm === 1 ? 'carries' : 'carry'} it in the CRM.`;
    return sent === 1
      ? 'The one enquiry with a known paid click carries it in the CRM.'
      : `All ${count(sent)} enquiries with a known paid click carry it in the CRM.`;
  },
  latest: 'Latest leads',
  didNot: 'did not enquire',
  mayStill: 'may still enquire',
};
