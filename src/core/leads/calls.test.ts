import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { broughtCall, callCounts, dialKey, guessCallReading, readCall, usualCallRules } from './calls';

const names = ['id', 'to', 'from', 'began', 'duration', 'answered', 'code'];
const reading = { ...guessCallReading(names), startedAt: '/began' };
const noon = Date.parse('2027-02-15T12:00:00Z');
const local = (text: string) => (text === '2027-02-15 12:00' ? noon : null);
const call = {
  id: 'c-1',
  to: '+44 1632 960018',
  from: '07700 900950',
  began: '2027-02-15T12:00:00Z',
  duration: '3:05',
  answered: 'yes',
  code: '3K7-M2QX',
};
const read = (given: object) => readCall(reading, { ...call, ...given }, local);

describe('a call as it is sent', () => {
  it('is read by the names that its parts usually have', () => {
    expect(guessCallReading(['Call ID', 'Called number', 'Caller', 'Start time', 'Talk time', 'Status'])).toEqual({
      number: '/Call ID',
      dialled: '/Called number',
      caller: '/Caller',
      startedAt: '/Start time',
      seconds: '/Talk time',
      answered: '/Status',
      reference: '',
    });
    expect(read({})).toEqual({
      ok: true,
      call: {
        number: 'c-1',
        dialled: '+44 1632 960018',
        caller: '07700 900950',
        startedAt: noon,
        seconds: 185,
        answered: true,
        reference: '3K7-M2QX',
      },
    });
  });

  it.each([
    [{ duration: 185 }, { seconds: 185 }],
    [{ duration: '184.6' }, { seconds: 185 }],
    [{ duration: '0:03:05' }, { seconds: 185 }],
    [
      { duration: '', answered: '' },
      { seconds: 0, answered: false },
    ],
    [{ answered: 'no answer' }, { answered: false }],
    [{ answered: 'ANSWERED' }, { answered: true }],
    [{ answered: '' }, { answered: true }],
    [{ began: noon / 1000 }, { startedAt: noon }],
    [{ began: '2027-02-15 12:00' }, { startedAt: noon }],
    [{ began: '2027-02-15T13:00:00+01:00' }, { startedAt: noon }],
    [{ from: 'anonymous' }, { caller: '' }],
    [{ id: undefined }, { number: `07700 900950 ${noon}` }],
  ])('with %j has %j', (given, wanted) => {
    expect(read(given)).toMatchObject({ ok: true, call: wanted });
  });

  it.each([
    [{ began: '' }, 'startedAt', 'there is no time at /began'],
    [{ began: 'yesterday' }, 'startedAt', '“yesterday” at /began is no time'],
    [{ to: '' }, 'dialled', 'the number dialled is missing'],
    [{ to: 'the desk' }, 'dialled', '“the desk” is no telephone number'],
    [{ duration: 'long' }, 'seconds', '“long” is no length of a call'],
    [{ duration: 100_000 }, 'seconds', '“100000” is no length of a call'],
  ])('with %j is named with what was wrong', (given, field, was) => {
    expect(read(given)).toMatchObject({ ok: false, field, was });
  });
});

describe('what counts', () => {
  it.each([
    [{ answered: true, seconds: 20 }, {}, 'enquiry'],
    [{ answered: true, seconds: 19 }, {}, 'too short'],
    [{ answered: false, seconds: 0 }, {}, 'enquiry'],
    [{ answered: false, seconds: 0 }, { missedCount: false }, 'missed'],
  ] as const)('%j under %j is %s', (given, rules, became) => {
    expect(callCounts(given, { ...usualCallRules, ...rules })).toBe(became);
  });

  it.each(['01632 960018', '+44 1632 960018', '0044 (0)1632-960018'.replace('(0)', ''), '1632960018'])(
    '%s is one number, however it is written',
    (number) => {
      expect(dialKey(number)).toBe('632960018');
    },
  );
});

describe('what brought a call', () => {
  const day = 86_400_000;
  const touch = (id: string, days: number, clickId = '') => ({ id, at: noon - days * day, clickId, because: '' });
  const kept = { clickDays: () => 80, touchDays: 90 };
  it.each([
    [[touch('click', 9, 'Q1'), touch('letter', 2)], 'click'],
    [[touch('click', 81, 'Q1'), touch('letter', 2)], 'letter'],
    [[touch('one', 9, 'Q1'), touch('two', 3, 'Q2')], 'two'],
    [[touch('letter', 91)], undefined],
    [[touch('after', -1, 'Q1')], undefined],
  ])('of %j is %s', (touches, id) => {
    expect(broughtCall(touches, noon, kept)?.id).toBe(id);
  });

  it('is never a touch after the call, nor one that is kept no longer', () => {
    const touches = fc.array(
      fc.record({ days: fc.integer({ min: -5, max: 120 }), clickId: fc.constantFrom('', 'Q1') }),
    );
    fc.assert(
      fc.property(touches, (given) => {
        const all = given.map(({ days, clickId }, i) => touch(String(i), days, clickId)).sort((a, b) => a.at - b.at);
        const found = broughtCall(all, noon, kept);
        if (!found) return;
        expect(found.at).toBeLessThanOrEqual(noon);
        expect(noon - found.at).toBeLessThan(90 * day);
        const clicks = all.filter(({ at, clickId }) => clickId !== '' && at <= noon && noon - at < 80 * day);
        if (clicks.length > 0) expect(found).toBe(clicks.at(-1));
      }),
    );
  });
});
