import {
  clickIdSentence,
  consentSentence,
  elsewhereSentence,
  fillSentence,
  followedFormSentence,
  keepSentence,
  noCustomerSentence,
  piiSentence,
  swapSentence,
  valueSentence,
  visitSentence,
  type KeepTouchRule,
} from '../capture/sentences';
import { isUnder } from '../capture/address';
import { cookieNames } from '../capture/cookies';
import type { NoCustomerRule } from '../capture/no-customer';
import type {
  CaptureRules,
  CarryRule,
  ClickIdRule,
  Elsewhere,
  FillRule,
  SwapTable,
  ValueRule,
} from '../capture/schema';
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
const isClickName = ({ keep, carry }: CaptureRules, name: string) =>
  keep.clickIds.some(({ parameter }) => parameter === name) || carry.some((one) => one.name === name);
const isTag = ({ plan }: ReleaseContent, name: string) => plan.tags.some(({ tag }) => tag === name);

/** The kinds of rules that the website's pages work by. */
export const captureRuleKinds = {
  keep: single<KeepTouchRule>(
    ({ keep: { touchDays, touchAge, utmLowerCase, setBy } }) => ({ touchDays, touchAge, utmLowerCase, setBy }),
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
  /** Query values of the business's own. */
  kept_value: listed<ValueRule>(
    ({ keep }) => keep.values,
    (capture, values) => ({ ...capture, keep: { ...capture.keep, values } }),
    ({ name }) => name,
    {
      sentence: valueSentence,
      check: ({ name, cookie }, { capture }) => [
        ...(isClickName(capture, name) ? [taken(name)] : []),
        ...(Object.values<string>(cookieNames).includes(cookie) ||
        capture.keep.values.some((other) => other.cookie === cookie && other.name !== name)
          ? [{ ...taken(cookie), field: 'cookie' }]
          : []),
      ],
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
    {
      sentence: fillSentence,
      check: ({ swap, reading, platform }, { capture }) => [
        ...(swap !== '' && !capture.swaps.some(({ name }) => name === swap)
          ? [{ field: 'swap', was: `there is no swap table ${marked(swap)}`, wants: 'Name one that there is.' }]
          : []),
        ...(reading === 'kept_value' && !capture.keep.values.some(({ name }) => name === platform)
          ? [{ field: 'platform', was: `no rule keeps ${marked(platform)}`, wants: 'Name a value that is kept.' }]
          : []),
      ],
    },
  ),
  /** Tables that replace values by others. */
  swap: listed<SwapTable>(
    ({ swaps }) => swaps,
    (capture, swaps) => ({ ...capture, swaps }),
    ({ name }) => name,
    {
      sentence: swapSentence,
      check: ({ rows }) => {
        const twice = rows.find((row, at) =>
          rows.slice(0, at).some(({ value }) => value.toLowerCase() === row.value.toLowerCase()),
        );
        return twice
          ? [{ field: 'rows', was: `${marked(twice.value)} stands in two rows`, wants: 'Leave one of them.' }]
          : [];
      },
    },
  ),
  /** Places outside that values follow visitors to. */
  elsewhere: listed<Elsewhere>(
    ({ elsewhere }) => elsewhere,
    (capture, elsewhere) => ({ ...capture, elsewhere }),
    ({ name }) => name,
    {
      sentence: elsewhereSentence,
      check: ({ kind, host, returns }, { capture }) => {
        const own = capture.touch.ownHosts.some((one) => isUnder(host, one));
        if (kind === 'own_website' && !own)
          return [
            { field: 'host', was: `${marked(host)} is no host of yours`, wants: 'Name it among the own hosts first.' },
          ];
        return returns === 'restored' && kind !== 'own_website'
          ? [
              {
                field: 'returns',
                was: 'the line stands on your own websites only',
                wants: 'Say how its answer comes back.',
              },
            ]
          : [];
      },
    },
  ),
  no_customer: {
    station: 'Capture',
    idOf: () => '',
    read: ({ noCustomer }) => [['', noCustomer]],
    write: (content, _id, value) => (value === null ? content : { ...content, noCustomer: value }),
    sentence: noCustomerSentence,
    check: () => [],
  } satisfies RuleKind<NoCustomerRule>,
  followed_form: listed<CaptureRules['forms'][number]>(
    ({ forms }) => forms,
    (capture, forms) => ({ ...capture, forms }),
    ({ name }) => name,
    { sentence: followedFormSentence, check: () => [] },
  ),
};
