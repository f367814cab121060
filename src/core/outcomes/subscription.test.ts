import { describe, expect, it } from 'vitest';
import { familyChanges, proposeFamily } from './subscription';
import { outcomeRuleSchema, tellingRuleSchema } from './schema';

const steps = ['started', 'first-payment', 'renewal', 'restart', 'refund', 'chargeback'];
const account = { key: 'quillsearch', kind: 'quillsearch' };
const given = { members: proposeFamily('CAR', steps), sender: 'till', words: 'Care plan', account, bids: null };

describe('the outcomes of a subscription', () => {
  it('are proposed under the plan’s beginning, each by the step that is called so', () => {
    expect(given.members.map(({ code, step }) => [code, step])).toEqual([
      ['CAR-START', 'started'],
      ['CAR-PAY', 'first-payment'],
      ['CAR-RENEW', 'renewal'],
      ['CAR-AGAIN', 'restart'],
      ['CAR-BACK', 'refund'],
      ['CAR-DISPUTE', 'chargeback'],
    ]);
    expect(proposeFamily('CAR', ['Renewed']).filter(({ step }) => step)).toEqual([
      { part: 'renewal', step: 'Renewed', code: 'CAR-RENEW' },
    ]);
  });

  it('are made with their tellings, all as their schemas have them, and none lets a platform bid', () => {
    const changes = familyChanges(given, false);
    const of = (kind: string) => changes.filter((change) => change.kind === kind).map(({ value }) => value);
    expect(of('outcome').map((one) => outcomeRuleSchema.parse(one).words)).toContain('Care plan: first payment');
    expect(of('telling').map((one) => tellingRuleSchema.parse(one).letsItBid)).toEqual(Array(6).fill(false));
    expect(of('qualified')).toEqual([{ way: 'subscription', outcome: 'CAR-PAY' }]);
  });

  it('let bid the one that is chosen; what has no step is not made, and what Qualified means stays', () => {
    const members = given.members.map((one) => (one.part === 'restart' ? { ...one, step: '' } : one));
    const changes = familyChanges({ ...given, members, bids: 'firstPayment' }, true);
    const bidding = changes.filter(({ value }) => (value as { letsItBid?: boolean }).letsItBid);
    expect(bidding.map(({ id }) => id)).toEqual(['CAR-PAY quillsearch']);
    expect(changes.map(({ kind }) => kind)).not.toContain('qualified');
    expect(changes).toHaveLength(10);
  });

  it('are told to nobody where nobody is chosen', () => {
    const changes = familyChanges({ ...given, account: null }, true);
    expect(new Set(changes.map(({ kind }) => kind))).toEqual(new Set(['outcome']));
  });
});
