import { describe, expect, it } from 'vitest';
import { eventRulesSchema } from '../events/schema';
import { biddingTwice, countedTwice, counterWords, ownTagWords } from './counters';
import { outcomeRuleSchema, tellingRuleSchema, type OutcomeRule, type TellingRule } from './schema';

const outcome = (code: string, reachedBy: OutcomeRule['reachedBy']): OutcomeRule =>
  outcomeRuleSchema.parse({
    code,
    version: 1,
    words: code,
    reachedBy,
    worth: { kind: 'none' },
    countedOnceFor: 'order',
    clickDays: 30,
  });
const tells = (code: string, account: string, part: Partial<TellingRule> = {}): TellingRule =>
  tellingRuleSchema.parse({ outcome: code, platform: account, account, letsItBid: true, ...part });
const cue = (kind: string, text = '') => ({ kind, part: 'path', test: 'begins', text, amount: 1 });
const event = (name: string, onceFor: string, ...cues: object[]) => ({
  ...{ name, words: name, cues, conditions: [], reads: [], onceFor, onceReading: '' },
});
const events = eventRulesSchema.parse({
  readings: [],
  events: [
    event('order_paid', 'order', cue('orders')),
    event('enquiry_sent', 'lead_token', cue('sends', 'test-ride'), cue('sends', 'call-back')),
    event('guide_taken', 'visitor', cue('arrives', '/guide/thanks')),
  ],
  wires: ['order_paid', 'enquiry_sent', 'guide_taken'].map((name) => ({
    ...{ event: name, account: 'tessaloop', kind: 'tessaloop', named: [{ text: name, reading: '' }], fields: [] },
    ...{ by: 'both', purpose: 'advertising' },
  })),
  presses: false,
});
const crm = { stages: { inOrder: ['Asked', 'Fleet assessed'], ended: [] } } as never;
const paid = outcome('SHP-PAID', { kind: 'order' });
const found = (outcomes: OutcomeRule[], telling: TellingRule[]) =>
  countedTwice({ outcomes, telling, events, crm }).map(({ account, thing, counters }) => [
    account,
    thing,
    counters.map(({ kind, name }) => `${kind} ${name}`),
  ]);

describe('several that count one thing at one account', () => {
  it('are found by what reaches them, from the CRM, the server and the page', () => {
    const outcomes = [
      paid,
      outcome('FLT-ASK', { kind: 'stage', stage: 'Asked' }),
      outcome('GDE-TAKEN', { kind: 'event', event: 'guide_taken', conditions: [] }),
      outcome('GDE-PAGE', { kind: 'page', test: 'begins', text: '/guide/thanks' }),
    ];
    const telling = outcomes.map(({ code }) => tells(code, 'tessaloop'));
    expect(found(outcomes, telling)).toEqual([
      ['tessaloop', 'orders', ['outcome SHP-PAID', 'event order_paid']],
      ['tessaloop', 'enquiries', ['outcome FLT-ASK', 'event enquiry_sent']],
      ['tessaloop', 'event guide_taken', ['outcome GDE-TAKEN', 'event guide_taken']],
      ['tessaloop', 'page begins /guide/thanks', ['outcome GDE-TAKEN', 'outcome GDE-PAGE', 'event guide_taken']],
    ]);
  });

  it('are none at different accounts, of later stages, or where one is told to nobody', () => {
    expect(found([paid], [tells('SHP-PAID', 'quillsearch')])).toEqual([]);
    const qualified = outcome('FLT-QUAL', { kind: 'stage', stage: 'Fleet assessed' });
    expect(found([qualified], [tells('FLT-QUAL', 'tessaloop')])).toEqual([]);
    expect(found([paid], [tells('SHP-PAID', 'tessaloop', { how: 'worked out' })])).toEqual([]);
    const wires = events.wires.map((wire) => ({ ...wire, how: 'worked out' as const }));
    const rules = { outcomes: [paid], telling: [tells('SHP-PAID', 'tessaloop')], events: { ...events, wires }, crm };
    expect(countedTwice(rules)).toEqual([]);
  });

  it('bid twice where two outcomes of one thing may be bid on', () => {
    const again = outcome('SHP-MORE', { kind: 'order' });
    const content = (bids: boolean) => ({
      outcomes: [paid, again],
      telling: [tells('SHP-PAID', 'quillsearch'), tells('SHP-MORE', 'quillsearch', { letsItBid: bids })],
      events,
      crm,
    });
    expect(biddingTwice(content(true), tells('SHP-PAID', 'quillsearch'))).toEqual(['SHP-MORE']);
    expect(biddingTwice(content(false), tells('SHP-PAID', 'quillsearch'))).toEqual([]);
    expect(biddingTwice(content(true), tells('SHP-PAID', 'quillsearch', { letsItBid: false }))).toEqual([]);
  });

  it('are said with which of them the account may bid on', () => {
    const counter = (kind: 'outcome' | 'event', name: string, bids: boolean) => ({
      kind,
      name,
      by: 'both' as const,
      bids,
    });
    const event = counter('event', 'order_paid', false);
    expect(counterWords('Tessaloop', [counter('outcome', 'SHP-PAID', true), event])).toEqual({
      words: 'Tessaloop hears of the same thing by the outcome `SHP-PAID` and the event `order_paid` from the page.',
      fix: 'It may bid on `SHP-PAID`. See that it does not bid on the others there.',
    });
    expect(counterWords('Tessaloop', [counter('outcome', 'SHP-PAID', false), event]).fix).toBe(
      'It may bid on none of them by your rules. Choose one there, or tell it one alone.',
    );
    const both = [counter('outcome', 'SHP-PAID', true), counter('outcome', 'SHP-MORE', true)];
    expect(counterWords('Tessaloop', both).fix).toBe(
      'It may bid on `SHP-PAID` and `SHP-MORE`: let it bid on one of them.',
    );
    expect(ownTagWords('Tessaloop', 'purchase', 1).words).toBe(
      'Tessaloop counted `purchase` once without being told of it by a rule.',
    );
  });
});
