import type { CaptureRules } from '../capture/schema';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import type { RuleProblem } from './define';

/* Query names have one meaning each: what keeps a name from being given a second one. */

export const taken = (name: string, field = 'name'): RuleProblem => ({
  field,
  was: `${quoteValue(name)} is a name of its own already`,
  fix: 'Use a name that nothing else has.',
});
export const isTag = ({ plan }: ReleaseContent, name: string): boolean => plan.tags.some(({ tag }) => tag === name);
export const isClickIdName = ({ keep }: CaptureRules, name: string): boolean =>
  keep.clickIds.some(({ parameter, alsoAs }) => parameter === name || alsoAs.includes(name));
export const isCarryName = ({ carry, tagCarry }: CaptureRules, name: string): boolean =>
  [...carry, ...tagCarry].some((one) => one.name === name);
