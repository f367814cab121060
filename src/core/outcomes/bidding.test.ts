import { expect, it } from 'vitest';
import type { TellingRule } from './schema';
import { beginsToBid } from './bidding';
import { fleetQualified } from './rule.fixture';
import { startTelling } from './subscription';

const tells = (code: string, change: Partial<TellingRule> = {}): TellingRule => ({
  ...startTelling({ ...fleetQualified, code }, { key: 'quillsearch', kind: 'quillsearch' }),
  ...change,
});
const content = (...telling: TellingRule[]) => ({
  telling,
  platforms: [],
  outcomes: [{ ...fleetQualified, code: 'CAR-BACK', kind: 'undone' as const }],
});
const times = new Map([['FLT-QUAL', 34]]);
const found = (next: TellingRule[], live: TellingRule[] = []) =>
  beginsToBid(content(...next), content(...live), times, 4, () => 'Quillsearch');

it('says of an account that begins to bid how often it will hear of it, and what it bids on already', () => {
  const paid = tells('SHP-PAID', { letsItBid: true });
  expect(found([paid, tells('FLT-QUAL', { letsItBid: true })], [paid, tells('FLT-QUAL')])).toEqual([
    {
      weighs: 'warns',
      rule: { kind: 'telling', id: 'FLT-QUAL quillsearch' },
      was: 'Quillsearch begins to bid on `FLT-QUAL`, counted 34 times in 4 weeks; so far it bids on `SHP-PAID`',
      fix: 'It spends to bring more of it from then on. Tell it for the record to only see it counted.',
    },
  ]);
  expect(found([paid])[0]?.was).toContain('counted 0 times in 4 weeks; so far it bids on nothing you tell it');
});

it('says nothing where it bids already, is told for the record, or nobody is told', () => {
  const paid = tells('SHP-PAID', { letsItBid: true });
  expect(found([paid], [paid])).toEqual([]);
  expect(found([tells('FLT-QUAL'), tells('SHP-PAID', { letsItBid: true, how: 'worked out' })])).toEqual([]);
});

it('says where it would bid for what is undone', () => {
  expect(found([tells('CAR-BACK', { letsItBid: true })])[0]?.fix).toContain('`CAR-BACK` is something undone');
});
