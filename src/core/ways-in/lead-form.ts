import { count, counted } from '../counted';
import type { WayIn } from './contract';

/** A form that people fill in on an ad platform itself, without coming to the website; what they sent is fetched there. */
export const leadForm: WayIn = {
  kind: 'lead_form',
  words: 'Lead forms on platforms',
  subject: 'enquiry',
  alone: 'enquiry',
  one: 'platform lead',
  many: 'platform leads',
  hops: ['sent_there', 'fetched', 'in_crm', 'qualified', 'told', 'confirmed'],
  own: 'sent_there',
  matters: 'in_crm',
  opening(sent, inCrm) {
    if (inCrm < sent)
      return `Of ${counted(sent, 'lead', 'leads')} sent on platforms’ own forms, ${count(inCrm)} ${inCrm === 1 ? 'is' : 'are'} in the CRM with what ${inCrm === 1 ? 'it' : 'they'} came by.`;
    return sent === 1
      ? 'The one lead sent on a platform’s own form is in the CRM with what it came by.'
      : `All ${count(sent)} leads sent on platforms’ own forms are in the CRM with what they came by.`;
  },
  latest: 'Latest platform leads',
  didNot: 'did not send the form',
  mayStill: 'may still send the form',
};
