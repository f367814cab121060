import { describe, expect, it } from 'vitest';
import { channelOfReferrer, compareChannels } from './channels';
import { firstPlan } from './first-plan';
import { linkContracts } from '../platforms/links';
import { comparePlans, countByMeaning, findOffPlan, type ArrivedValue } from './off-plan';
import { checkOutcomeCode } from './outcome-code';
import type { ChannelRule, Plan } from './schema';

const rule = (medium: string, channel: string, crmTypes: string[], rest: Partial<ChannelRule> = {}): ChannelRule => ({
  medium,
  channel,
  crmTypes,
  media: 'paid',
  tracked: true,
  joins: 'on',
  ...rest,
});
const withMediums = (values: string[], channels: ChannelRule[], rest: Partial<Plan> = {}): Plan => {
  const plan = { ...firstPlan(), channels, ...rest };
  const tags = plan.tags.map((tag) =>
    tag.tag === 'utm_medium'
      ? { ...tag, entry: 'picked' as const, values: values.map((value) => ({ value, label: '' })) }
      : tag,
  );
  return { ...plan, tags };
};
const found = (plan: Plan, types: string[] | null, arrivals: [string, number][] = []) =>
  compareChannels(plan, types, new Map(arrivals)).rows.flatMap((row) => row.disagreements);

describe('links, results and CRM', () => {
  const types = ['Search ads', 'Letters'];
  it('agree where each medium has a channel and a campaign type, and each type a medium', () => {
    const plan = withMediums(
      ['cpc', 'email'],
      [rule('cpc', 'Search', ['Search ads']), rule('email', 'Mail', ['Letters'])],
    );
    expect(found(plan, types)).toEqual([]);
  });
  it('disagree in every gap, each named', () => {
    const plan = withMediums(['cpc', 'fair'], [rule('cpc', 'Search', ['Search ads', 'Gone']), rule('fax', 'Fax', [])]);
    expect(found(plan, [...types, 'Workshop days'])).toEqual([
      { code: 'crm_type_unknown', medium: 'cpc', crmType: 'Gone' },
      { code: 'no_channel', medium: 'fair' },
      { code: 'not_planned', medium: 'fax' },
      { code: 'no_crm_type', medium: 'fax' },
      { code: 'crm_type_no_medium', crmType: 'Letters' },
      { code: 'crm_type_no_medium', crmType: 'Workshop days' },
    ]);
  });
  it('contradict each other where one type means two channels or one channel two kinds of media', () => {
    const plan = withMediums(
      ['cpc', 'social', 'post'],
      [
        ...[rule('cpc', 'Search', ['Ads']), rule('social', 'Social', ['Ads'])],
        rule('post', 'Social', ['Posts'], { media: 'owned', tracked: false }),
      ],
    );
    expect(found(plan, ['Ads', 'Posts'], [['post', 4]]).map(({ code }) => code)).toEqual([
      ...['crm_type_in_two', 'crm_type_in_two', 'two_media', 'two_media', 'untracked_arrives'],
    ]);
  });
  it('say nothing of the CRM where its campaign types are not known', () => {
    expect(found(withMediums(['cpc'], [rule('cpc', 'Search', [])]), null)).toEqual([]);
  });
});

it('a referrer belongs to the channel of the longest host that fits', () => {
  const referrers = [
    { host: 'weekly.example', channel: 'Referral' },
    { host: 'ads.weekly.example', channel: 'Partner' },
  ];
  expect(channelOfReferrer({ referrers }, 'a.ads.weekly.example')).toBe('Partner');
  expect(channelOfReferrer({ referrers }, 'www.weekly.example')).toBe('Referral');
  expect(channelOfReferrer({ referrers }, 'biweekly.example')).toBeNull();
});

describe('traffic', () => {
  const arrived = (value: string, arrivals: number): ArrivedValue => ({
    tag: 'utm_medium',
    value,
    arrivals,
    host: 'bakerweekly.example',
    campaign: 'c',
    firstAt: 1,
    lastAt: 2,
  });
  const traffic = [arrived('email', 9), arrived('paid social', 2), arrived('PaidSocial', 5), arrived('stand', 1)];
  const plan = withMediums(['email', 'paid-social'], []);

  it('off plan is named with what it should have been, the commonest first', () => {
    expect(findOffPlan(plan, traffic, linkContracts).map(({ value, nearest }) => [value, nearest])).toEqual([
      ...[
        ['PaidSocial', 'paid-social'],
        ['paid social', 'paid-social'],
        ['stand', null],
      ],
    ]);
  });
  it('that came with a placeholder nobody filled in says so, whatever the rule', () => {
    const content = { ...arrived('(advert)', 3), tag: 'utm_content' };
    expect(findOffPlan(plan, [content], linkContracts)).toMatchObject([{ problems: ['placeholder'], nearest: null }]);
  });
  it('that has an alias or was left is no longer named; aliased values count as one', () => {
    const aliases = [
      { tag: 'utm_medium', value: 'PaidSocial', means: 'paid-social' },
      { tag: 'utm_medium', value: 'paid social', means: 'paid-social' },
      { tag: 'utm_medium', value: 'stand', means: '' },
    ];
    const aliased = { ...plan, aliases };
    expect(findOffPlan(aliased, traffic, linkContracts)).toEqual([]);
    expect([...countByMeaning(aliased, 'utm_medium', traffic)]).toEqual([
      ...[
        ['email', 9],
        ['paid-social', 7],
        ['stand', 1],
      ],
    ]);
  });
  it('that a change would put off plan or take in is told before it is made', () => {
    const after = withMediums(['paid-social', 'stand'], []);
    const { noLongerFits, takenIn } = comparePlans(plan, after, traffic, linkContracts);
    expect([noLongerFits.map(({ value }) => value), takenIn.map(({ value }) => value)]).toEqual([['email'], ['stand']]);
  });
});

it.each([
  ['FLT-QUAL', ''],
  ['FLT-qual', 'After FLT- it must have 2 to 6 capital letters that say what happened.'],
  ['FLT-QUAL-2', 'After FLT- it must have 2 to 6 capital letters that say what happened.'],
  ['XYZ-QUAL', 'It must begin with FLT, SHP and a hyphen.'],
])('the outcome code %s: %s', (code, wrong) => {
  const beginnings = ['FLT', 'SHP'].map((one) => ({ code: one, label: '' }));
  expect(checkOutcomeCode({ beginnings, longest: 6 }, code)).toBe(wrong);
});
