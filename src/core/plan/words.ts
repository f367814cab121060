import type { Disagreement } from './channels';
import type { ValueProblem } from './check';
import { listed } from '../listed';
import type { TagRule } from './schema';

/** What is wrong with a value, in words. */
export function problemWords(problem: ValueProblem, rule: TagRule): string {
  switch (problem) {
    case 'missing':
      return `${rule.name} has no value`;
    case 'alias':
      return 'it is read as another value';
    case 'letters':
      return `it must be in ${rule.letters === 'lower' ? 'lower case' : 'capital letters'}`;
    case 'separator':
      return `its words must be joined by ${rule.separator}`;
    case 'too_long':
      return `it is longer than ${rule.longest} characters`;
    case 'unknown':
      return rule.named ? 'it is not in the campaign register' : `it is no planned ${rule.name.toLowerCase()}`;
    case 'pattern':
      return `it does not fit ${rule.pattern}`;
    case 'name':
      return 'it cannot be read into the parts of a campaign name';
    case 'control':
      return 'it has a character that cannot be seen';
    case 'personal':
      return 'it contains personal data';
    case 'placeholder':
      return 'its placeholder was not filled in';
  }
}

export function disagreementWords(found: Disagreement): string {
  switch (found.code) {
    case 'no_channel':
      return 'Results have no channel for it.';
    case 'not_planned':
      return 'Links may not use it: it is no planned medium.';
    case 'no_crm_type':
      return 'The CRM has no campaign type for it.';
    case 'crm_type_unknown':
      return `The CRM has no campaign type “${found.crmType}”.`;
    case 'crm_type_no_medium':
      return 'No medium belongs to this campaign type.';
    case 'crm_type_in_two':
      return `“${found.crmType}” stands for ${listed(found.channels)}.`;
    case 'two_media':
      return `${found.channel} is both ${listed(found.media)}.`;
    case 'untracked_arrives':
      return `It is not to be tracked, yet arrived ${found.arrivals} times.`;
  }
}
