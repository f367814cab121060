import { describe, expect, it } from 'vitest';
import { makeSeason as standinsSeason } from '../../standins/shared/season';
import { makeSeason } from '../../demo/season';

const written = {
  name: 'uk-27q1-fleet-winterproof',
  before: 'uk-26q4-fleet-van-swap',
  next: '?utm_campaign=uk-27q2-fair',
  startsOn: '2026-12-25',
  endsOn: '2027-03-31',
  at: 1_800_000_000_000,
  none: null,
};

describe.each([
  ['demo', makeSeason],
  ['stand-ins', standinsSeason],
])('the season of the %s', (_, make) => {
  it('leaves everything as it is on the day it is written for', () => {
    expect(make('2027-02-15')(written)).toEqual(written);
  });

  it('moves days by as many days and quarters in names by as many quarters', () => {
    expect(make('2026-11-27')(written)).toEqual({
      name: 'uk-26q4-fleet-winterproof',
      before: 'uk-26q3-fleet-van-swap',
      next: '?utm_campaign=uk-27q1-fair',
      startsOn: '2026-10-06',
      endsOn: '2027-01-10',
      at: 1_800_000_000_000,
      none: null,
    });
    expect(make('2028-04-01')(written)).toMatchObject({ name: 'uk-28q2-fleet-winterproof', startsOn: '2028-02-09' });
  });
});
