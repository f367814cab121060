import type { CarryRule } from '../capture/schema';
import { quoteValue } from '../quote-value';
import { linksOf, platformName } from '../platforms/links';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf } from './says';
import { isClickIdName, isTag, taken } from './taken';

const { value, told } = partsOf<CarryRule>();

/** Browsers that take click IDs out of addresses go by their names: under one of these nothing would be saved. */
const strippedLike = (name: string, platform: string): RuleProblem => ({
  field: 'name',
  weighs: 'warns',
  was: `${quoteValue(name)} is ${platform}’s own name, which browsers take out of addresses too`,
  fix: 'Use a name of your own, such as `visit`.',
});

/** A name under which a platform's click ID travels a second time. */
export const carry = defineRule<CarryRule>({
  station: 'Capture',
  at: inList(['capture', 'carry'], ({ name }) => name),
  says: [
    told(({ platform }, { platforms = [] }) => `The click ID of ${platformName(platform, platforms)}`),
    ' also travels as ',
    value('name', 'Carry name', 'a name', { isName: true, tidy: (text) => text.trim() }),
    '.',
  ],
  refs: ({ platform }) => [{ kind: 'click_id', id: platform }],
  check({ name }, content) {
    if (isTag(content, name) || isClickIdName(content.capture, name)) return [taken(name)];
    const known = linksOf(content.platforms).find(
      ({ clickParameter }) => clickParameter.toLowerCase() === name.toLowerCase(),
    );
    return known ? [strippedLike(name, known.words)] : [];
  },
});
