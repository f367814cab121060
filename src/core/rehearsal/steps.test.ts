import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readLine, stepForms, waitWords } from './steps';

const day = 86_400_000;

describe('a line of a rehearsal', () => {
  it.each([
    ['arrive /fleet?a=1 from news.example', { does: 'arrive', address: '/fleet?a=1', from: 'news.example' }],
    ['https://larkmoor.example/fleet?x=y', { does: 'arrive', address: 'https://larkmoor.example/fleet?x=y', from: '' }],
    ['/care', { does: 'arrive', address: '/care', from: '' }],
    ['  GO   /fleet/test-ride ', { does: 'go', to: '/fleet/test-ride' }],
    ['press Book a time', { does: 'press', what: 'Book a time' }],
    ['send test-ride', { does: 'send', form: 'test-ride', fields: [] }],
    [
      'send Test ride bikes=3 name="Bakery Oriel"',
      {
        does: 'send',
        form: 'Test ride',
        fields: [
          ['bikes', '3'],
          ['name', 'Bakery Oriel'],
        ],
      },
    ],
    ['wait 9 days', { does: 'wait', ms: 9 * day }],
    ['wait 1.5h', { does: 'wait', ms: 5_400_000 }],
    ['come back', { does: 'come back', to: '' }],
    ['come back to /care', { does: 'come back', to: '/care' }],
    ['stage Fleet assessed', { does: 'stage', stage: 'Fleet assessed' }],
    ['order', { does: 'order', amount: '', currency: '', number: '' }],
    ['order 249.50 gbp as L-7', { does: 'order', amount: '249.50', currency: 'GBP', number: 'L-7' }],
    ['order as L-7', { does: 'order', amount: '', currency: '', number: 'L-7' }],
    ['refund 50', { does: 'refund', amount: '50' }],
  ])('%s', (line, step) => expect(readLine(line)).toEqual({ step }));

  it.each([
    ['dance', 'is no step'],
    ['wait long', 'at most 400 days'],
    ['wait 500 days', 'at most 400 days'],
    ['order much', 'decimal number'],
    ['send', 'must name a form'],
    ['come back soon', 'a page of the website'],
  ])('that is none says what would be right: %s', (line, problem) =>
    expect(readLine(line)).toEqual({ problem: expect.stringContaining(problem) as string }),
  );

  it('is never thrown on, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), fc.constantFrom(...stepForms.map(({ does }) => does)), (text, does) => {
        for (const line of [text, `${does} ${text}`]) {
          const read = readLine(line);
          expect('step' in read || read.problem.length > 20).toBe(true);
        }
      }),
    );
  });

  it('has an example for each step, which can be read', () => {
    for (const { does, example } of stepForms) expect(readLine(example)).toMatchObject({ step: { does } });
  });
});

it('a wait is said in the largest unit that it is whole in', () => {
  expect([14 * day, 9 * day, 5_400_000, 7_200_000, 45_000].map(waitWords)).toEqual([
    '2 weeks',
    '9 days',
    '90 minutes',
    '2 hours',
    '45 seconds',
  ]);
});
