import { expect, it } from 'vitest';
import { countOutcome } from './count';
import { askedOfPretend, pretendHappening } from './pretend';
import { outcomeRuleSchema, type OutcomeRule, type PretendGiven } from './schema';

const stages = { inOrder: ['Asked', 'Fleet assessed', 'Signed'], ended: ['Not this time'] };
const rule = (reachedBy: OutcomeRule['reachedBy'], part: Partial<OutcomeRule> = {}): OutcomeRule =>
  outcomeRuleSchema.parse({
    code: 'NEW-ONE',
    version: 1,
    words: 'new',
    reachedBy,
    worth: { kind: 'none' },
    countedOnceFor: 'enquiry',
    clickDays: 80,
    ...part,
  });
const given = (outcome: OutcomeRule, part: Partial<PretendGiven> = {}): PretendGiven => {
  const asked = askedOfPretend(outcome);
  return {
    outcome,
    what: asked.what?.value ?? '',
    reads: Object.fromEntries(asked.reads.map(({ reading, value }) => [reading, value])),
    amount: '540',
    currency: 'GBP',
    platform: 'quillsearch',
    clickDays: 3,
    ...part,
  };
};
const hit = (outcome: OutcomeRule, part: Partial<PretendGiven> = {}) =>
  countOutcome(pretendHappening(given(outcome, part), 1000), outcome, stages);

it.each<OutcomeRule['reachedBy']>([
  { kind: 'stage', stage: 'Fleet assessed' },
  { kind: 'order' },
  { kind: 'postback', sender: 'till', step: 'paid' },
  { kind: 'file', says: 'lease signed' },
  { kind: 'page', test: 'begins', text: '/thanks' },
  { kind: 'field', name: 'lease', test: 'equals', text: 'signed' },
  { kind: 'event', event: 'enquiry_sent', conditions: [{ reading: 'bikes', test: 'at_least', not: false, text: '3' }] },
])('what begins as a pretend hit reaches what is reached by $kind', (reachedBy) => {
  expect(hit(rule(reachedBy))).toMatchObject({ at: 1000, evidence: { kind: reachedBy.kind } });
});

it('does not reach it where what is pretended does not', () => {
  expect(hit(rule({ kind: 'page', test: 'begins', text: '/thanks' }), { what: '/fleet' })).toBeNull();
  const event = rule({
    kind: 'event',
    event: 'enquiry_sent',
    conditions: [{ reading: 'bikes', test: 'at_least', not: false, text: '3' }],
  });
  expect(hit(event, { reads: { bikes: '2' } })).toBeNull();
  expect(hit(rule({ kind: 'stage', stage: 'No such stage' }))).toBeNull();
});

it('is worth what the rule makes of the amount, and nothing that is known of one that is none', () => {
  const expected = rule(
    { kind: 'order' },
    { worth: { kind: 'expected', field: 'lease_profit', winRate: { won: 1, of: 4 } } },
  );
  expect(askedOfPretend(expected).amount).toBe('lease_profit');
  expect(hit(expected)?.worth).toEqual({ minor: 13_500, currency: 'GBP' });
  expect(hit(expected, { amount: 'lots' })?.worth).toBeNull();
});
