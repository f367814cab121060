import { expect, it } from 'vitest';
import { faceOf } from '../destinations/faces';
import { goalName, goalRow, takesGoals } from './goals';

const meterhall = faceOf('meterhall', [])!;

it('a goal is named by its outcome’s code as the place wants names, and nothing else', () => {
  expect(goalName('FLT-QUAL', meterhall)).toBe('goal/flt-qual');
  expect(meterhall.named.problem(goalName('X9-LONGEST-CODE-EVER', meterhall))).toBe('');
});

it('it says what the outcome is worth, where it is worth something', () => {
  const outcome = { id: 'o-1', code: 'FLT-QUAL', happenedAt: 5, worth: { minor: 13_500, currency: 'GBP' } };
  expect(goalRow(outcome, meterhall)).toEqual({
    eventId: 'o-1',
    name: 'goal/flt-qual',
    happenedAt: 5,
    fields: [
      ['worth', '135.00'],
      ['currency', 'GBP'],
    ],
    clickId: '',
  });
  expect(goalRow({ ...outcome, worth: null }, meterhall).fields).toEqual([]);
});

it('platforms that know people by their clicks take none', () => {
  expect(['meterhall', 'quillsearch', 'wrenwick'].map((kind) => takesGoals(faceOf(kind, [])!))).toEqual([
    true,
    false,
    false,
  ]);
});
