import { describe, expect, it } from 'vitest';
import type { Release } from '../releases';
import { content as fleetContent } from '../rehearsal/rehearsal.fixture';
import { touchValue, type TouchValues } from './touch-words';

const touch: TouchValues = {
  source: 'quillsearch',
  medium: 'paid-search',
  campaign: 'uk-27q1-fleet-winterproof',
  content: 'p_qs_wp',
  term: '',
  utmId: 'c-7',
  referrer: 'news.example/a',
  landing: 'larkmoor.localhost/fleet',
  clickId: 'Q1',
};
const ads = {
  name: 'ads',
  rows: [{ value: 'p_qs_wp', gives: 'hill video', take: '' as const }],
  otherwise: { gives: '', take: 'itself' as const },
};
const release = {
  content: { ...fleetContent, capture: { ...fleetContent.capture, swaps: [ads] } },
} as unknown as Release;
const campaignName = (campaign: string) => (campaign === touch.campaign ? 'Winterproof' : '');
const value = (part: Parameters<typeof touchValue>[0]['part'], swap = '', of: Partial<TouchValues> = {}) =>
  touchValue({ part, swap }, { ...touch, ...of }, release, campaignName);

describe('what is written of a touch', () => {
  it.each([
    ['words', 'ads', 'paid-search on quillsearch, Winterproof, hill video'],
    ['words', '', 'paid-search on quillsearch, Winterproof, p qs wp'],
    ['origin', '', 'paid-search on quillsearch'],
    ['campaign_words', '', 'Winterproof'],
    ['campaign', '', 'uk-27q1-fleet-winterproof'],
    ['content', 'ads', 'hill video'],
    ['campaign_id', '', 'c-7'],
    ['referrer', '', 'news.example/a'],
    ['click_id', '', 'Q1'],
    ['term', '', ''],
  ] as const)('%s through “%s”: %s', (part, swap, expected) => {
    expect(value(part, swap).toLowerCase()).toBe(expected.toLowerCase());
  });

  it('is the campaign’s own name where the register has none, and empty where nothing is known', () => {
    expect(value('campaign_words', '', { campaign: 'other' })).toBe('other');
    const nothing = { source: '', medium: '', campaign: '', content: '', referrer: '' };
    expect([value('words', '', nothing), value('origin', '', nothing), value('campaign_words', '', nothing)]).toEqual([
      '',
      '',
      '',
    ]);
  });
});
