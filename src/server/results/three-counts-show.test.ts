import { describe, expect, it } from 'vitest';
import type { OutcomeRule } from '../../core/outcomes/schema';
import type { Release } from '../../core/releases';
import type { BridgeStepKey } from '../../core/results/bridge';
import { claimsView, endView, openedRows, stepsOf, type CountsPlace } from './three-counts-show';
import type { BridgedRow, WorkedOutBridge } from './work-out-bridge';

const place = (key: string, countsBy: CountsPlace['countsBy'] = 'click day'): CountsPlace => ({
  ...{ id: key, key, platform: key, name: 'FLT-QUAL', timeZone: 'UTC', countsBy },
  ...{ accountName: `${key}, Larkmoor`, words: key },
});
const row = (id: string, change: Partial<BridgedRow> = {}): BridgedRow => ({
  ...{ id, kind: 'enquiry', subjectId: `of ${id}`, deal: '', at: 1, day: '2027-01-10', told: null },
  ...{ hasClick: true, counted: 'yes', deals: 1, dealless: 'never' },
  ...change,
});
const step = (key: BridgeStepKey, count: number, ...rows: BridgedRow[]) => ({ key, count, rows });
const found = (change: Partial<WorkedOutBridge> = {}): WorkedOutBridge => ({
  ...{ from: 10, to: 8, steps: [], counts: [], counted: { start: [], end: [] }, all: [] },
  claims: {
    ...{ withoutUs: 2, again: 1, claimedAgain: ['b'], different: ['a', 'b'], elsewhere: [] },
    ...{ nobody: 1, unclaimed: ['c'], known: 3 },
  },
  ...change,
});
const release = { content: { capture: { forms: [{ name: 'call-back', words: 'Ask for a call back' }] } } } as Release;
const held = (code: 'no_click_in_crm' | 'no_consent') => ({ state: 'held' as const, reason: { code }, day: '' });

describe('the steps', () => {
  it('begin where the one before ended, and always have the unexplained ones', () => {
    const bridge = found({ steps: [step('without_us', -3), step('our_days', 1, row('a'))] });
    expect(
      stepsOf(bridge, 'Quillsearch', 'Oakledger', new Map(), release).map(({ key, from, count, opens }) => [
        ...[key, from, count, opens],
      ]),
    ).toEqual([
      ['without_us', 10, -3, false],
      ['our_days', 7, 1, true],
      ['unexplained', 8, 0, false],
    ]);
  });

  it('say the reason that most of their rows have, by where the value was lost where that is known', () => {
    const rows = ['a', 'b', 'c'].map((id) => row(id, { told: held('no_click_in_crm') }));
    const lost = new Map(
      ['of a', 'of b'].map((id) => [
        id,
        { code: 'crm_field_differs' as const, form: 'call-back', sent: 'click_ref', read: 'click_id' },
      ]),
    );
    const [shown] = stepsOf(found({ steps: [step('lost_before_crm', 3, ...rows)] }), 'Q', 'O', lost, release);
    expect(shown!.why).toBe('form sends `click_ref`, CRM reads `click_id`');
    const consent = found({ steps: [step('no_consent', 1, row('d', { told: held('no_consent') }))] });
    expect(stepsOf(consent, 'Q', 'O', new Map(), release)[0]!.why).toBe('no consent');
    const unknown = found({ steps: [step('never_in_crm', -1, row('e'))] });
    expect(stepsOf(unknown, 'Q', 'O', new Map(), release)[0]!.why).toBe('no record came');
  });
});

describe('an end', () => {
  const staged = { reachedBy: { kind: 'stage', stage: 'Offer' } } as OutcomeRule;
  const ordered = { reachedBy: { kind: 'order' } } as OutcomeRule;
  it('says who counts, and by what', () => {
    const said = (end: string, of: CountsPlace | null, rule = staged) => {
      const { words, why } = endView(end, 3, true, { place: of, crm: 'Oakledger', rule });
      return `${words}: ${why}`;
    };
    expect(said('at:q', place('Quillsearch'))).toBe('Quillsearch counts: by click day, its own rules');
    expect(said('at:t', place('Tessaloop', 'outcome day'))).toContain('by outcome day');
    expect(said('at:w', place('Wrenwick', null))).toBe('Wrenwick counts: what it took: it has no report');
    expect(said('crm', null)).toBe('Oakledger holds: deals at Offer or later');
    expect(said('crm', null, ordered)).toBe('Oakledger holds: with a record');
    expect(said('website', null)).toBe('The website counts: whatever brought them');
    expect(said('website', place('Quillsearch'))).toContain('came by Quillsearch');
  });
});

describe('what is claimed', () => {
  it('lists the accounts that claim most first, down to the website where no CRM holds it', () => {
    const claims = claimsView(found({ counts: [2, 5] }), [place('a'), place('b')], '')!;
    expect(claims.accounts.map(({ key, count }) => [key, count])).toEqual([
      ['b', 5],
      ['a', 2],
    ]);
    expect(claims).toMatchObject({ sum: 7, different: 2, endWords: 'The website counts' });
  });

  it('opens the rows of each part, and of each step and end', () => {
    const [a, b, c] = [row('a'), row('b'), row('c')];
    const bridge = found({ all: [a, b, c], steps: [step('too_old', 1, c)], counted: { start: [a], end: [a, b] } });
    const ids = (part: Parameters<typeof openedRows>[1]) => openedRows(bridge, part).map(({ id }) => id);
    expect([ids('start'), ids('end'), ids('too_old'), ids('refused')]).toEqual([['a'], ['a', 'b'], ['c'], []]);
    expect([ids('again'), ids('different'), ids('elsewhere'), ids('nobody')]).toEqual([['b'], ['a', 'b'], [], ['c']]);
  });
});
