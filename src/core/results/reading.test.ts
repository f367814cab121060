import { describe, expect, it } from 'vitest';
import { planSchema, type Plan } from '../plan/schema';
import type { ReleaseContent } from '../releases';
import { cellOf, notPlanned, noValue, quarterOf, type TouchValues } from './dimensions';
import { readingOf } from './reading';

const plan: Pick<Plan, 'channels' | 'referrers' | 'aliases'> = {
  channels: planSchema.shape.channels.parse([
    { medium: 'paid-search', channel: 'Paid search', crmTypes: [], media: 'paid', tracked: true, joins: 'on' },
  ]),
  referrers: [{ host: 'weekly.example', channel: 'Partners' }],
  aliases: [
    { tag: 'utm_medium', value: 'ppc', means: 'paid-search' },
    { tag: 'utm_source', value: 'QS', means: 'quillsearch' },
  ],
};
const content = {
  plan,
  capture: {
    keep: { utmLowerCase: true, clickIds: [{ platform: 'quillsearch', source: 'quillsearch' }] },
  },
} as unknown as Pick<ReleaseContent, 'plan' | 'capture'>;
const reading = readingOf(content);
const touch = (values: Partial<TouchValues>): TouchValues => ({
  ...{ source: '', medium: '', campaign: '', content: '', term: '', platform: '', referrerHost: '', landing: '' },
  ...values,
});

describe('how touches are read', () => {
  it('a channel is that of the medium, by its alias and without letter case', () => {
    const mediums = ['paid-search', 'Paid-Search', 'ppc', 'PPC', 'carrier-pigeon'];
    expect(mediums.map((medium) => reading.channelOf(touch({ medium })))).toEqual([
      ...['Paid search', 'Paid search', 'Paid search', 'Paid search'],
      'carrier-pigeon',
    ]);
  });

  it('without a medium it is that of the page with the link, a referral where the channel map does not know it', () => {
    const hosts = ['weekly.example', 'www.weekly.example', 'forum.example', ''];
    expect(hosts.map((referrerHost) => reading.channelOf(touch({ referrerHost })))).toEqual([
      ...['Partners', 'Partners', 'Referral'],
      '',
    ]);
    // A medium that says so stands before the page that the link was on.
    expect(reading.channelOf(touch({ medium: 'ppc', referrerHost: 'weekly.example' }))).toBe('Paid search');
  });

  it('a platform is that of the click ID, whatever its tags say, and without one that of the source', () => {
    const touches = [
      touch({ platform: 'tessaloop', source: 'quillsearch' }),
      touch({ source: 'QS' }),
      touch({ source: 'letter' }),
    ];
    expect(touches.map(reading.platformOf)).toEqual(['tessaloop', 'quillsearch', '']);
  });
});

it('a campaign is there for what the register says of it, by its alias and without letter case; of others nobody knows', () => {
  const { stageOf, tag } = readingOf(content, [{ name: 'UK-Winter', stage: 'asking' }]);
  expect(stageOf(tag('utm_campaign', 'uk-winter'))).toBe('win enquiries');
  expect(stageOf(tag('utm_campaign', 'spring'))).toBeNull();
  const stage = (campaign: string) =>
    cellOf('stage', touch({ campaign }), '2027-02-15', readingOf(content, [{ name: 'uk-winter', stage: 'buying' }]));
  expect(['UK-winter', 'spring', ''].map(stage)).toEqual(['sell', notPlanned, noValue]);
  expect(['2027-01-01', '2027-03-31', '2027-04-01', '2026-12-31'].map(quarterOf)).toEqual([
    ...['2027-Q1', '2027-Q1', '2027-Q2', '2026-Q4'],
  ]);
});
