import { expect, it } from 'vitest';
import { wouldTell } from './would-tell';

const day = 86_400_000;
const one = (days: number, minor: number | null, platform = 'quillsearch') => ({
  at: days * day,
  worth: minor === null ? null : { minor, currency: 'GBP' },
  clicks: [{ platform, at: 0 }],
});
const told = (all: ReturnType<typeof one>[], percent = 100) =>
  wouldTell(all, { platform: 'quillsearch', percent, limitDays: 80 });

it('an account is told of what was counted for a click of its platform that is young enough, with its part of the worth', () => {
  const all = [one(1, 1000), one(79, 501), one(80, 400), one(2, 300, 'tessaloop'), one(3, null)];
  expect(told(all)).toEqual({ times: 3, tooOld: 1, sums: new Map([['GBP', 1501]]) });
  expect(told(all, 50).sums).toEqual(new Map([['GBP', 751]]));
});

it('of several clicks one that is young enough will do', () => {
  const twice = {
    ...one(90, 100),
    clicks: [
      { platform: 'quillsearch', at: 0 },
      { platform: 'quillsearch', at: 30 * day },
    ],
  };
  expect(told([twice])).toMatchObject({ times: 1, tooOld: 0 });
});
