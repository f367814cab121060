import { describe, expect, it, test } from 'vitest';
import {
  askedCounts,
  bridgeText,
  changeText,
  openedTitle,
  settledCounts,
  threeCountsAddress,
  threeCountsPieces,
  threeCountsSentence,
  type AskedCounts,
  type MissingLandings,
} from './three-counts-words';
import { threeCountsQuerySchema, type EndView, type StepView, type ThreeCountsView } from './three-counts-view';
import { sayPieces } from '../rules/says';

const end = (key: string, words: string, count: number): EndView => ({
  key,
  words,
  count,
  why: 'its own',
  opens: true,
});
const step = (key: StepView['key'], count: number): StepView => ({
  ...{ key, words: key.replaceAll('_', ' '), from: 0, count, why: 'form sends `click_ref`', opens: true },
});
const view = (steps: StepView[], from = 61, to = 54): ThreeCountsView => ({
  sentence: { title: 'Title.', under: 'Under.' },
  asked: { outcome: 'FLT-QUAL', start: 'at:quillsearch', end: 'crm', axis: 'click' },
  outcomes: [{ code: 'FLT-QUAL', words: 'Fleet assessed' }],
  accounts: [
    { key: 'quillsearch', name: 'Quillsearch' },
    { key: 'tessaloop', name: 'Tessaloop' },
  ],
  crm: 'Oakledger',
  range: { choice: 'own', firstDay: '2027-01-01', lastDay: '2027-01-31', cycleDays: null, release: 3 },
  unit: ['lead', 'leads'],
  start: end('at:quillsearch', 'Quillsearch counts', from),
  end: end('crm', 'Oakledger holds', to),
  steps,
  claims: null,
  ripe: null,
  timeZone: 'Europe/London',
});
const said = (steps: StepView[], from?: number, to?: number, missing: MissingLandings | null = null) =>
  threeCountsSentence(view(steps, from, to), { outcome: 'FLT-QUAL', axis: 'click' }, missing);

describe('the opening sentence', () => {
  it('says both counts, and whether every step is known', () => {
    expect(said([step('without_us', -7), step('unexplained', 0)])).toEqual({
      title: 'Quillsearch counts 61, Oakledger holds 54; every step between is known.',
      under: 'FLT-QUAL by click day.',
    });
    expect(said([step('unexplained', -7)]).title).toBe('Quillsearch counts 61, Oakledger holds 54; 7 are unexplained.');
  });

  it('says where they agree, where there is nothing, what is on its way, and the measured share', () => {
    expect(said([step('unexplained', 0)], 1, 1).title).toBe(
      'Quillsearch counts 1, Oakledger holds 1: the same 1 lead.',
    );
    expect(said([step('unexplained', 0)], 0, 0).title).toBe('No leads are counted by either in these days.');
    const moving = [step('not_reported_yet', 2), step('stopped', 1), step('too_old', 4)];
    expect(said(moving, 47, 54, { clicks: 1000, missing: 62 }).under).toBe(
      'FLT-QUAL by click day. 938 of 1,000 clicks landed (94 %). 3 are still on their way.',
    );
  });
});

test('what is asked for reads as one sentence, and stands in an address', () => {
  const asked = askedCounts(view([]));
  expect(sayPieces(threeCountsPieces(view([])), asked)).toBe(
    'From Quillsearch to Oakledger, for Fleet assessed (FLT-QUAL), by click day, in chosen days.',
  );
  const parsed = threeCountsQuerySchema.parse(Object.fromEntries(new URLSearchParams(threeCountsAddress(asked))));
  expect(parsed).toEqual({ ...asked, from: '2027-01-01', to: '2027-01-31' });
});

describe('after one end was changed', () => {
  const before: AskedCounts = askedCounts(view([]));
  const ends = (change: Partial<AskedCounts>) => {
    const { start, end: last } = settledCounts({ ...before, ...change }, before);
    return [start, last];
  };
  it('the other one gives way where both are the same, or both are platforms', () => {
    expect(ends({ end: 'website' })).toEqual(['at:quillsearch', 'website']);
    expect(ends({ start: 'crm' })).toEqual(['crm', 'at:quillsearch']);
    expect(ends({ end: 'at:quillsearch' })).toEqual(['crm', 'at:quillsearch']);
    expect(ends({ end: 'at:tessaloop' })).toEqual(['website', 'at:tessaloop']);
    expect(ends({ start: 'at:tessaloop' })).toEqual(['at:tessaloop', 'crm']);
  });

  it('and another outcome has its own usual ends', () => {
    expect(ends({ outcome: 'SHP-PAID' })).toEqual(['', '']);
  });
});

test('the bridge is copied as lines, without the steps of nothing', () => {
  expect(bridgeText(view([step('lost_before_crm', -7), step('unexplained', 0)])).split('\n')).toEqual([
    'Title.',
    'Under.',
    '',
    '61\tQuillsearch counts (its own)',
    '−7\tlost before crm (form sends click_ref)',
    '54\tOakledger holds (its own)',
  ]);
  expect([changeText(0), changeText(1204), changeText(-3)]).toEqual(['0', '+1,204', '−3']);
});

test('what is opened is named as the screen names it', () => {
  const shown = view([step('too_old', 3)]);
  expect(openedTitle('too_old', 3, shown)).toBe('3 leads: too old.');
  expect(openedTitle('start', 61, shown)).toBe('Quillsearch counts 61 leads.');
  expect(openedTitle('end', 1, shown)).toBe('Oakledger holds 1 lead.');
  expect(openedTitle('nobody', 1, shown)).toBe('1 lead: claimed by no platform.');
  expect(openedTitle('refused', 0, shown)).toBe('0 leads: none.');
});
