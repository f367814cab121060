import { describe, expect, it } from 'vitest';
import { partsIn, sayPieces } from '../../rules/says';
import { freshCondition, isComplete, meansNoEnquiry, segmentsIn, type Condition, type SegmentMeans } from './condition';
import { segmentGivenSchema } from './schema';
import { segmentPieces } from './sentence';

const id = '019bc41a-0c43-73b6-aa70-6ce7ae64bc50';
const meaning = (match: 'all' | 'any', ...conditions: Partial<Condition>[]): SegmentMeans => ({
  match,
  conditions: conditions.map((one) => ({ ...freshCondition(one.about), ...one })),
});
const says = (means: SegmentMeans) => sayPieces(segmentPieces, means, { segments: [{ id, name: 'Partners' }] });

describe('the sentence of a segment', () => {
  it.each([
    [
      meaning('all', { values: ['wrenwick'] }),
      'Leads of whom this is true: they came by any touch whose source is `wrenwick`.',
    ],
    [
      meaning(
        'any',
        { touch: 'first', part: 'referrer', test: 'contains', values: ['news.example'] },
        { about: 'enquired', days: 1 },
      ),
      'Leads of whom any of this is true: they came by a first touch whose referrer’s host contains `news.example`; they enquired in the last 1 day.',
    ],
    [
      meaning(
        'all',
        { touch: 'enquiry', part: 'campaign', test: 'empty' },
        { about: 'answered', when: 'before', days: 30 },
        { about: 'enquired', when: 'between', from: '2027-02-01', to: '2027-02-28' },
      ),
      'Leads of whom all of this is true: they came by the touch before they enquired whose campaign is empty; they were first answered more than 30 days ago; they enquired from `2027-02-01` to `2027-02-28`.',
    ],
    [
      meaning(
        'all',
        { about: 'not_reached', values: ['Offer'] },
        { about: 'not_quality', quality: 'no_enquiry' },
        { about: 'field', field: 'region', test: 'begins', values: ['No'] },
        { about: 'way', way: 'call' },
        { about: 'not_segment', segment: id },
      ),
      'Leads of whom all of this is true: they did not reach the stage `Offer`; they are not marked as no enquiry; they have a CRM record whose field `region` begins with `No`; they came in by calls; they are not in the segment “Partners”.',
    ],
  ])('of %j', (means, text) => {
    expect(says(means)).toBe(text);
  });

  it('forgets what was said of one thing when it becomes about another', () => {
    const means = meaning('all', { values: ['wrenwick'], test: 'is_not' });
    const [list] = segmentPieces.filter((piece) => typeof piece === 'object' && 'each' in piece);
    const pieces = (list as { pieces: Parameters<typeof partsIn>[0] }).pieces;
    const about = partsIn(pieces).find(({ key }) => key === 'about')!;
    expect(about.write(means.conditions[0], 'stage' as never)).toEqual(freshCondition('stage'));
    expect(about.write(means.conditions[0], 'touch' as never)).toEqual(means.conditions[0]);
  });
});

describe('a condition', () => {
  it.each([
    [{}, false],
    [{ values: ['x'] }, true],
    [{ test: 'empty' }, true],
    [{ about: 'stage' }, false],
    [{ about: 'segment' }, false],
    [{ about: 'segment', segment: id }, true],
    [{ about: 'field', test: 'empty' }, false],
    [{ about: 'field', test: 'empty', field: 'region' }, true],
    [{ about: 'enquired' }, true],
    [{ about: 'enquired', when: 'between', from: '2027-02-02', to: '2027-02-01' }, false],
    [{ about: 'enquired', when: 'between', from: '2027-02-01', to: '2027-02-01' }, true],
    [{ about: 'quality' }, true],
  ] as [Partial<Condition>, boolean][])('%j is whole: %s', (given, whole) => {
    const condition = { ...freshCondition(given.about), ...given };
    expect(isComplete(condition)).toBe(whole);
    const segment = { id: '', name: 'X', isShared: true, seen: '', means: { match: 'all', conditions: [condition] } };
    expect(segmentGivenSchema.safeParse(segment).success).toBe(whole);
  });

  it('names the segments it is made of, and whether nobody’s enquiries are meant', () => {
    const means = meaning('all', { about: 'segment', segment: id }, { about: 'quality', quality: 'no_enquiry' });
    expect([segmentsIn(means), meansNoEnquiry(means)]).toEqual([[id], true]);
    expect(meansNoEnquiry(meaning('all', { about: 'not_quality', quality: 'no_enquiry' }))).toBe(false);
  });
});
