import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareDays, compareTold, reportedDays, timesByDay, type ToldRow } from './compare';

const row = (id: string, clickId: string, at: number, minor = 100): ToldRow => ({
  id,
  clickId,
  at,
  minor,
  currency: 'GBP',
});

it('joins both ways by the click, in the order of time, and says where they differ', () => {
  const ours = [row('a', 'q1', 10), row('b', 'q1', 20), row('c', 'q2', 30, 200), row('d', 'q3', 40)];
  const old = [row('x', 'q1', 22), row('y', 'q1', 11), row('z', 'q2', 31), row('w', 'q4', 50)];
  const found = compareTold(ours, old).map(({ kind, ours: one, old: other }) => [kind, one?.id ?? '', other?.id ?? '']);
  expect(found).toEqual([
    ['only old', '', 'w'],
    ['only ours', 'd', ''],
    ['worth', 'c', 'z'],
    ['same', 'b', 'x'],
    ['same', 'a', 'y'],
  ]);
});

it('asks of an event, which has no worth, only whether both told it', () => {
  const event = { ...row('a', 'q1', 10, 0), currency: '' };
  expect(compareTold([event], [row('x', 'q1', 12)])).toMatchObject([{ kind: 'same' }]);
});

it('has each row in exactly one pair, and the days add up to both', () => {
  const rows = (way: string) =>
    fc
      .array(fc.record({ click: fc.constantFrom('q1', 'q2', 'q3'), at: fc.integer({ min: 0, max: 20 }) }), {
        maxLength: 20,
      })
      .map((all) => all.map(({ click, at }, n) => row(`${way}${n}`, click, at, at % 3)));
  fc.assert(
    fc.property(rows('a'), rows('b'), (ours, old) => {
      const compared = compareTold(ours, old);
      const ids = (side: 'ours' | 'old') => compared.flatMap((one) => one[side]?.id ?? []).sort();
      expect(ids('ours')).toEqual(ours.map(({ id }) => id).sort());
      expect(ids('old')).toEqual(old.map(({ id }) => id).sort());
      const days = compareDays(compared, (at) => String(Math.floor(at / 5)));
      const sum = (side: 'ours' | 'old') => days.reduce((all, day) => all + day[side], 0);
      expect([sum('ours'), sum('old')]).toEqual([ours.length, old.length]);
    }),
  );
});

describe('a platform’s own report', () => {
  it('is compared by day of the click, without what Avrix told itself', () => {
    const report = [
      { day: '2027-02-01', counted: 3 },
      { day: '2027-02-02', counted: 1 },
      { day: '2027-02-04', counted: 2 },
    ];
    const on = (...days: string[]) => timesByDay(days.map((day) => ({ day: `2027-02-0${day}`, times: 1 })));
    expect(reportedDays(report, on('1', '1', '3'), on('1', '2'))).toEqual([
      { day: '2027-02-04', ours: 0, old: 2, same: 0 },
      { day: '2027-02-03', ours: 1, old: 0, same: 0 },
      { day: '2027-02-01', ours: 2, old: 2, same: 2 },
    ]);
  });

  it('that holds less than Avrix told says nothing of the other way', () => {
    const booked = new Map([['2027-02-01', 2]]);
    expect(reportedDays([{ day: '2027-02-01', counted: 1 }], new Map(), booked)).toEqual([]);
  });
});
