import {
  clickIdSentence,
  consentSentence,
  fillSentence,
  followedFormSentence,
  keepSentence,
  piiSentence,
  visitSentence,
  type KeepTouchRule,
} from '../capture/sentences';
import type { CaptureRules, CarryRule, ClickIdRule, FillRule } from '../capture/schema';
import { platformName } from '../links/placeholders';
import { marked } from '../marked';
import type { RuleKind } from './rules';
import type { ReleaseContent } from './schema';

/** Rules that stand in a list of the pages' rules, each with a name of its own; a new one comes last. */
function listed<T>(
  read: (capture: CaptureRules) => T[],
  write: (capture: CaptureRules, rules: T[]) => CaptureRules,
  idOf: (value: T) => string,
  rest: Pick<RuleKind<T>, 'sentence' | 'check'>,
): RuleKind<T> {
  return {
    station: 'Capture',
    idOf,
    read: ({ capture }) => read(capture).map((value) => [idOf(value), value]),
    write(content, id, value) {
      const all = read(content.capture);
      const at = all.findIndex((one) => idOf(one) === id);
      const rules = all.filter((_, index) => index !== at);
      if (value !== null) rules.splice(at < 0 ? rules.length : at, 0, value);
      return { ...content, capture: write(content.capture, rules) };
    },
    ...rest,
  };
}

/** A rule of which the pages have just one. */
function single<T>(
  read: (capture: CaptureRules) => T,
  write: (capture: CaptureRules, value: T) => CaptureRules,
  rest: Pick<RuleKind<T>, 'sentence' | 'check'>,
): RuleKind<T> {
  return {
    station: 'Capture',
    idOf: () => '',
    read: ({ capture }) => [['', read(capture)]],
    write: (content, _id, value) => (value === null ? content : { ...content, capture: write(content.capture, value) }),
    ...rest,
  };
}

const taken = (name: string) => ({
  field: 'name',
  was: `${marked(name)} is a name of its own already`,
  wants: 'Use a name that nothing else has.',
});
const isTag = ({ plan }: ReleaseContent, name: string) => plan.tags.some(({ tag }) => tag === name);

/** The kinds of rules that the website's pages work by. */
export const captureRuleKinds = {
  keep: single<KeepTouchRule>(
    ({ keep: { touchDays, touchAge, utmLowerCase } }) => ({ touchDays, touchAge, utmLowerCase }),
    (capture, rule) => ({ ...capture, keep: { ...capture.keep, ...rule } }),
    { sentence: keepSentence, check: () => [] },
  ),
  click_id: listed<ClickIdRule>(
    ({ keep }) => keep.clickIds,
    (capture, clickIds) => ({ ...capture, keep: { ...capture.keep, clickIds } }),
    ({ platform }) => platform,
    {
      sentence: clickIdSentence,
      check: ({ parameter, platform }, content) =>
        isTag(content, parameter) ||
        content.capture.carry.some(({ name }) => name === parameter) ||
        content.capture.keep.clickIds.some((one) => one.parameter === parameter && one.platform !== platform)
          ? [{ ...taken(parameter), field: 'parameter' }]
          : [],
    },
  ),
  /** Names under which click IDs travel a second time. */
  carry: listed<CarryRule>(
    ({ carry }) => carry,
    (capture, carry) => ({ ...capture, carry }),
    ({ name }) => name,
    {
      sentence: ({ name, platform }) => `The click ID of ${platformName(platform)} also travels as ${marked(name)}.`,
      check: ({ name }, content) =>
        isTag(content, name) || content.capture.keep.clickIds.some(({ parameter }) => parameter === name)
          ? [taken(name)]
          : [],
    },
  ),
  visit: single<CaptureRules['touch']>(
    ({ touch }) => touch,
    (capture, touch) => ({ ...capture, touch }),
    { sentence: visitSentence, check: () => [] },
  ),
  consent: single<CaptureRules['consent']>(
    ({ consent }) => consent,
    (capture, consent) => ({ ...capture, consent }),
    { sentence: consentSentence, check: () => [] },
  ),
  pii: single<CaptureRules['pii']>(
    ({ pii }) => pii,
    (capture, pii) => ({ ...capture, pii }),
    {
      sentence: piiSentence,
      check: ({ names }, content) =>
        names
          .filter((name) => isTag(content, name) || content.capture.keep.clickIds.some((one) => one.parameter === name))
          .map((name) => ({
            field: 'names',
            was: `${marked(name)} is a tag or a click ID, which would be lost`,
            wants: 'Take it out of the list.',
          })),
    },
  ),
  fill: listed<FillRule>(
    ({ fill }) => fill,
    (capture, fill) => ({ ...capture, fill }),
    ({ id }) => id,
    { sentence: fillSentence, check: () => [] },
  ),
  followed_form: listed<CaptureRules['forms'][number]>(
    ({ forms }) => forms,
    (capture, forms) => ({ ...capture, forms }),
    ({ name }) => name,
    { sentence: followedFormSentence, check: () => [] },
  ),
};
