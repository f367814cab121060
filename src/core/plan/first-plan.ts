import type { Plan, TagRule } from './schema';
import { usualSteps } from './usual-steps';

/** A tag rule with what is usual where nothing is said: typed, in lower case, with hyphens. */
export const tagRule = (tag: string, name: string, rest: Partial<TagRule> = {}): TagRule => ({
  tag,
  name,
  values: [],
  pattern: '',
  named: false,
  letters: 'lower',
  separator: '-',
  longest: 100,
  entry: 'typed',
  required: false,
  example: '',
  note: '',
  ...rest,
});

/** The plan of a business that has agreed on nothing yet: the six tags in lower case with hyphens. */
export function firstPlan(): Plan {
  return {
    tags: [
      tagRule('utm_source', 'Source', { required: true, example: 'letter' }),
      tagRule('utm_medium', 'Medium', { required: true, example: 'email' }),
      tagRule('utm_campaign', 'Campaign', { required: true }),
      tagRule('utm_content', 'Content'),
      tagRule('utm_term', 'Term', { separator: '' }),
      tagRule('utm_id', 'Campaign ID', { letters: 'any', separator: '' }),
    ],
    naming: { pattern: '', parts: [] },
    channels: [],
    sources: [],
    referrers: [],
    aliases: [],
    outcomeCodes: { beginnings: [], longest: 6 },
    making: { steps: usualSteps },
  };
}
