import { describe, expect, it } from 'vitest';
import { fleetQualified } from '../outcomes/rule.fixture';
import { outcomeRuleSchema, type OutcomeRule } from '../outcomes/schema';
import { planSchema } from '../plan/schema';
import { upgradeContent } from './upgrade';

const words = {
  sources: [{ source: 'quillsearch', words: 'Quillsearch' }],
  mediums: [
    { medium: 'paid-search', words: 'Paid search', joins: 'on', paid: true },
    { medium: 'email', words: '', joins: 'in', paid: false },
  ],
};

describe('a release from before there was a plan', () => {
  const upgraded = upgradeContent({ outcomes: [], words }) as { plan: unknown; outcomes: unknown };
  const plan = planSchema.parse(upgraded.plan);

  it('says its words as labels of planned values', () => {
    const values = (tag: string) => plan.tags.find((rule) => rule.tag === tag)!.values;
    expect(values('utm_source')).toEqual([{ value: 'quillsearch', label: 'Quillsearch' }]);
    expect(values('utm_medium')).toEqual([
      { value: 'paid-search', label: 'Paid search' },
      { value: 'email', label: '' },
    ]);
  });

  it('says its media as channels, paid or owned', () => {
    expect(plan.channels.map(({ medium, channel, media, joins }) => [medium, channel, media, joins])).toEqual([
      ...[
        ['paid-search', 'Paid search', 'paid', 'on'],
        ['email', 'email', 'owned', 'in'],
      ],
    ]);
  });

  it('keeps the rest, and no longer has the old form', () => {
    expect(Object.keys(upgraded).sort()).toEqual(['outcomes', 'plan']);
  });
});

it('an outcome that names its stage says how it is reached, and a win rate over 1 is read as 1', () => {
  const { code, version, words, countedOnceFor, clickDays } = fleetQualified;
  const before = (won: number) => ({
    code,
    version,
    words,
    countedOnceFor,
    clickDays,
    stage: 'Fleet assessed',
    worth: { kind: 'expected', field: 'lease_profit', winRate: { won, of: 4 } },
  });
  const { outcomes } = upgradeContent({ plan: {}, outcomes: [before(9), before(1)] }) as { outcomes: OutcomeRule[] };
  expect(outcomes.map(({ reachedBy }) => reachedBy)).toEqual([fleetQualified.reachedBy, fleetQualified.reachedBy]);
  expect(outcomes.map(({ worth }) => 'winRate' in worth && worth.winRate.won)).toEqual([4, 1]);
  expect(outcomeRuleSchema.array().safeParse(outcomes).success).toBe(true);
});

it('a telling rule that names a platform alone names the account of the same key', () => {
  const before = { outcome: 'FLT-QUAL', platform: 'quillsearch', letsItBid: true, delayMinutes: 0 };
  expect(upgradeContent({ telling: [before] })).toEqual({ telling: [{ ...before, account: 'quillsearch' }] });
});

it('what is in today’s form already, or is nothing of the kind, stays as it is', () => {
  for (const stored of [{ plan: {} }, null, 'text', 3]) expect(upgradeContent(stored)).toBe(stored);
});
