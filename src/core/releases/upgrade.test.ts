import { describe, expect, it } from 'vitest';
import { fleetQualified } from '../outcomes/rule.fixture';
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

it('a win rate over 1, as once could be stored, is read as 1', () => {
  const rule = (won: number, of: number) => ({
    ...fleetQualified,
    worth: { ...fleetQualified.worth, winRate: { won, of } },
  });
  const { outcomes } = upgradeContent({ plan: {}, outcomes: [rule(9, 4), rule(1, 4)] }) as { outcomes: unknown[] };
  expect(outcomes).toEqual([rule(4, 4), rule(1, 4)]);
});

it('what is in today’s form already, or is nothing of the kind, stays as it is', () => {
  for (const stored of [{ plan: {} }, null, 'text', 3]) expect(upgradeContent(stored)).toBe(stored);
});
