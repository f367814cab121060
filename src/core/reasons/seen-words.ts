import type { EventJudged } from '../events/judge';
import type { EventReason, Judged } from '../events/reasons';
import type { EventRule } from '../events/schema';
import { quoteValue } from '../quote-value';
import { testWords } from '../events/words';
import { cueWords } from '../rules/cue';
import { eventReasonWords } from './event-words';

/**
 * What became of an event at a moment of a page, as a sentence; '' where none of its cues waits for such a moment.
 *
 * @param isTold false where it went off and had been counted for its key before
 * @param nameOf what people call a reading
 */
export function seenWords(
  rule: EventRule,
  { went, key, cues, conditions }: EventJudged,
  isTold: boolean,
  nameOf: (reading: string) => string,
): string {
  const name = quoteValue(rule.name);
  const isOfMoment = ({ because }: Judged) => because.code !== 'other_moment';
  if (!cues.some(isOfMoment)) return '';
  if (went && key) {
    const cue = rule.cues[cues.findIndex(({ holds }) => holds)]!;
    return isTold
      ? `${name} went off, because someone ${cueWords(cue)}.`
      : `${name} stayed quiet, because it was counted for this ${rule.onceFor.replace('_', ' ')} already.`;
  }
  if (went === false && key === '')
    return `${name} stayed quiet, because it is counted once for each ${rule.onceFor.replace('_', ' ')}, and there is none.`;
  const at = conditions.findIndex(({ holds }) => holds !== true);
  if (at >= 0)
    return `${name} stayed quiet, because ${nameOf(rule.conditions[at]!.reading)} ${failedWords(conditions[at]!.because, nameOf)}.`;
  const failed = cues.find((one) => isOfMoment(one) && one.holds !== true)!;
  return `${name} stayed quiet, because ${failedWords(failed.because, nameOf)}.`;
}

/** Why something does not hold, as it is said where people see it happen. */
function failedWords(reason: EventReason, nameOf: (reading: string) => string): string {
  switch (reason.code) {
    case 'held': {
      const { test, not, value, wanted } = reason;
      const failed = testWords[test][not ? 0 : 1];
      return `${value === '' ? 'nothing' : quoteValue(value)} ${failed}${test === 'there' ? '' : ` ${quoteValue(wanted)}`}`;
    }
    case 'element':
      return `this is not ${quoteValue(reason.selector)}`;
    case 'form':
      return `the form is ${quoteValue(reason.form || 'without a name')}, not ${quoteValue(reason.wanted)}`;
    default:
      return eventReasonWords(reason, nameOf);
  }
}
