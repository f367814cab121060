import { describe, expect, it } from 'vitest';
import { compareSentence } from './compare-words';
import type { ComparedTelling } from './compare-view';

const now = Date.parse('2027-02-15T17:00:00Z');
const chosen: ComparedTelling = {
  key: 'SHP-PAID quillsearch',
  of: 'outcome',
  outcome: 'SHP-PAID',
  account: 'quillsearch',
  accountName: 'Quillsearch',
  isLive: true,
  from: '',
  fromInDraft: '',
};
const day = (ours: number, old: number, same: number) => ({ day: '2027-02-14', ours, old, same });
type Found = Parameters<typeof compareSentence>[2];
const say = (
  found: Partial<Found>,
  {
    of = chosen,
    by = 'file',
    has = {},
  }: { of?: ComparedTelling | null; by?: 'file' | 'report'; has?: { files?: boolean; report?: boolean } } = {},
) =>
  compareSentence(
    of,
    by,
    { days: [], differing: 0, stillTold: 0, ...found },
    { files: true, report: true, ...has },
    now,
    (at) => new Date(at).toISOString(),
  );

describe('what the page of a comparison says first', () => {
  it('is the next step where nothing is compared, or not live yet', () => {
    expect(say({}, { of: null }).title).toBe('Nothing is only worked out.');
    expect(say({}, { of: { ...chosen, isLive: false } })).toEqual({
      title: 'Quillsearch is still told of SHP-PAID by Avrix.',
      under: 'That it is only worked out is not live yet. Make it live, then both ways are compared here.',
    });
    expect(say({ days: [day(1, 0, 0)] }, { has: { files: false } }).title).toBe(
      'Avrix would tell Quillsearch of 1 conversion in 28 days.',
    );
  });

  it('is how many both ways tell, and whether they agree', () => {
    expect(say({ days: [day(2, 2, 2)] })).toEqual({
      title: 'Avrix would tell 2 of SHP-PAID, the other way told 2.',
      under: 'They agree. Set the time from which Avrix tells, and stop the other way then.',
    });
    expect(say({ days: [day(3, 2, 1)], differing: 3 }).under).toBe('1 row agrees in 28 days, 3 differ; each says why.');
    expect(say({ days: [day(3, 2, 2)], differing: 1 }, { by: 'report' })).toEqual({
      title: 'Avrix would tell 3 of SHP-PAID, the other way counts 2.',
      under: 'They differ on 1 day of the click, in 28 days.',
    });
    expect(say({}, { by: 'report' }).under).toBe('Nothing happened in 28 days that either would tell.');
  });

  it('counts events where one is compared, by the day on which they happened', () => {
    const event = { ...chosen, of: 'event' as const, outcome: 'enquiry_sent', accountName: 'Meterhall' };
    expect(say({ days: [day(3, 2, 2)], differing: 1 }, { of: event, by: 'report' })).toEqual({
      title: 'Avrix would tell 3 of enquiry_sent, the other way counts 2.',
      under: 'They differ on 1 day, in 28 days.',
    });
    expect(say({ days: [day(1, 0, 0)] }, { of: event, by: 'report', has: { report: false } })).toEqual({
      title: 'Avrix would tell Meterhall of 1 event in 28 days.',
      under: 'Meterhall has no report of its own to compare with.',
    });
  });

  it('is since when it is switched over, and whether the other way goes on', () => {
    const over = { ...chosen, from: '2027-02-10T09:00:00Z' };
    expect(say({ days: [day(3, 2, 1)], differing: 3 }, { of: over })).toEqual({
      title: 'Avrix tells 3 of SHP-PAID, the other way told 2.',
      under: 'Switched over on 2027-02-10T09:00:00.000Z.',
    });
    expect(say({ stillTold: 2 }, { of: over, by: 'report' }).under).toBe(
      'Quillsearch counts 2 conversions of clicks since then that Avrix did not tell: is the other way still telling?',
    );
    const later = { ...chosen, from: '2027-03-01T09:00:00Z' };
    expect(say({ days: [day(1, 1, 1)] }, { of: later }).title).toBe(
      'Avrix would tell 1 of SHP-PAID, the other way told 1.',
    );
  });
});
