import fc from 'fast-check';
import { describe, expect, it, test } from 'vitest';
import { countSteps, missedBy, walk, type Done } from './funnel';
import { drawFunnel } from './funnel-drawing';
import { funnelQuerySchema, type FunnelStep } from './funnel-view';
import { funnelAddress, funnelSentence, shareWords, stepWords, type AskedFunnel } from './funnel-words';

/** Things done at minutes: "a" fits step 0, "b" step 1, "c" step 2, "ab" both, anything else none. */
const did = (...texts: string[]): Done[] =>
  texts.map((text, at) => ({
    at,
    fits: ['a', 'b', 'c', 'd'].flatMap((name, step) => (text.includes(name) ? [step] : [])),
  }));
const needed = [false, false, false];
const far = (texts: string[], skips = needed, within = 100) => walk(skips, did(...texts), 0, 100, within);

describe('how far somebody came', () => {
  it('is as far as the steps were made in their order', () => {
    expect(far(['a', 'x', 'b', 'c'])).toEqual({ times: [0, 2, 3], last: 2 });
    expect(far(['a', 'c', 'b'])).toEqual({ times: [0, 2, null], last: 1 });
    expect(far(['b', 'c'])).toBeNull();
  });

  it('counts nothing twice: one thing makes one step', () => {
    expect(far(['ab'])).toEqual({ times: [0, null, null], last: 0 });
    expect(far(['ab', 'ab', 'c'])).toEqual({ times: [0, 1, 2], last: 2 });
  });

  it('is by the beginning that leads farthest, of those the first', () => {
    expect(far(['a', 'x', 'x', 'a', 'b'], needed, 2)).toEqual({ times: [3, 4, null], last: 1 });
    expect(far(['a', 'a', 'x'])!.times[0]).toBe(0);
  });

  it('begins within the days and ends within its time', () => {
    expect(walk(needed, did('a', 'b', 'c'), 1, 100, 100)).toBeNull();
    expect(walk(needed, did('a', 'x', 'x', 'b'), 0, 100, 3)!.last).toBe(1);
    expect(walk(needed, did('a', 'x', 'x', 'b'), 0, 100, 2)!.last).toBe(0);
  });

  it('leaves out what may be skipped, and counts it where it was on the way', () => {
    const skips = [false, true, false];
    expect(far(['a', 'c'], skips)).toEqual({ times: [0, null, 1], last: 2 });
    expect(far(['a', 'b', 'c'], skips)).toEqual({ times: [0, 1, 2], last: 2 });
    // What fits both is the one that is needed.
    expect(far(['a', 'bc'], skips)).toEqual({ times: [0, null, 1], last: 2 });
    expect(missedBy(skips, 0)).toBe(2);
    expect(missedBy(skips, 1)).toBe(2);
    expect(missedBy(skips, 2)).toBeNull();
  });
});

/** Tries every choice of things for steps: slow, and plain to see. */
function farthest(skips: readonly boolean[], done: readonly Done[], within: number): number {
  let best = -1;
  const go = (step: number, from: number, begun: number): void => {
    best = Math.max(best, step);
    for (let next = step + 1; next < skips.length; next++) {
      for (let i = from; i < done.length; i++)
        if (done[i]!.fits.includes(next) && done[i]!.at <= begun + within) go(next, i + 1, begun);
      if (!skips[next]) break;
    }
  };
  done.forEach(({ at, fits }, i) => fits.includes(0) && go(0, i + 1, at));
  return best;
}

test('comes as far as any choice of what was done would, whatever was done', () => {
  const one = fc.subarray([0, 1, 2, 3], { maxLength: 2 });
  fc.assert(
    fc.property(
      fc.array(one, { maxLength: 9 }),
      fc.tuple(fc.boolean(), fc.boolean()),
      fc.integer({ min: 1, max: 9 }),
      (things, [second, third], within) => {
        const skips = [false, second, third, false];
        const done = things.map((fits, at) => ({ at, fits }));
        expect(walk(skips, done, 0, 100, within)?.last ?? -1).toBe(farthest(skips, done, within));
      },
    ),
  );
});

test('everyone who made a step made the next that is needed, was lost before it, or may still make it', () => {
  const journey = fc.record({ last: fc.integer({ min: 0, max: 3 }), isOpen: fc.boolean() });
  fc.assert(
    fc.property(fc.array(journey, { minLength: 1, maxLength: 30 }), (journeys) => {
      const skips = [false, false, false, false];
      const counts = countSteps(skips);
      for (const { last, isOpen } of journeys)
        counts.add({ times: skips.map((_, step) => (step <= last ? step * 10 : null)), last }, isOpen);
      const steps = counts.steps();
      expect(steps[0]!.made).toBe(journeys.length);
      steps.slice(1).forEach(({ made, lost, open }, i) => expect(made + lost + open).toBe(steps[i]!.made));
      for (const { made, median } of steps.slice(1)) expect(median).toBe(made > 0 ? 10 : null);
    }),
  );
});

const step = (kind: FunnelStep['kind'], value: string): FunnelStep => ({ kind, test: 'begins', value, skip: false });

test('is said as a sentence', () => {
  const offers = {
    forms: [{ name: 'ride', words: 'Test ride' }],
    outcomes: [{ code: 'FLT-QUAL', words: 'Fleet assessed' }],
  };
  expect(stepWords(step('page', '/fleet'), offers)).toBe('opened a page whose path begins with `/fleet`');
  expect(stepWords(step('form', 'ride'), offers)).toBe('sent the form “Test ride”');
  expect(stepWords(step('outcome', 'GONE'), offers)).toBe('reached GONE');
  const views = [
    { words: 'opened it', made: 1204, share: 1, lost: 0, open: 0 },
    { words: 'sent it', made: 31, share: 31 / 1204, lost: 1170, open: 3 },
  ];
  expect(funnelSentence(views, 'visitor')).toEqual({
    title: 'Of 1,204 visitors who opened it, 31 sent it (2.6 %).',
    under: 'Most are lost before this: sent it, 1,170. 3 may still go on.',
  });
  expect(funnelSentence(views.slice(0, 1), 'visit').title).toBe('1,204 visits in which somebody opened it.');
  expect(funnelSentence([{ ...views[0]!, made: 0 }], 'visit').title).toBe('Nobody opened it in these days.');
  expect([0, 0.026, 0.5].map(shareWords)).toEqual(['0 %', '2.6 %', '50 %']);
});

test('what is asked for is the same from its address, and what cannot be read there is left out', () => {
  const asked: AskedFunnel = {
    steps: [step('page', '/fleet?a=b&c'), { ...step('outcome', 'FLT-QUAL'), skip: true }],
    ...{ span: 'days', days: 12, by: 'source', range: 'own', from: '2027-01-01', to: '2027-02-01', segment: '' },
  };
  const read = (text: string) => funnelQuerySchema.parse(Object.fromEntries(new URLSearchParams(text)));
  expect(read(funnelAddress(asked))).toMatchObject({
    steps: asked.steps,
    within: 12,
    by: 'source',
    from: '2027-01-01',
  });
  expect(read(funnelAddress({ ...asked, span: 'visit', days: Number.NaN })).within).toBe('visit');
  expect(read('steps=no&within=x&by=day')).toMatchObject({ steps: [], within: 30, by: '' });
});

test('strands are as long as their step is of the first, and fray where they end', () => {
  const [first, second] = drawFunnel(
    [
      { made: 100, lost: 0, open: 0 },
      { made: 25, lost: 75, open: 0 },
    ],
    400,
    44,
  );
  expect(first!.through).toMatch(/^M0 [\d.]+H400/);
  expect(second!.through).toMatch(/^M0 [\d.]+H100/);
  expect(second!.lost).toMatch(/H390/);
  expect(second!.frays).toContain('M390');
  expect(drawFunnel([{ made: 0, lost: 0, open: 0 }], 400, 44)[0]!.through).toBe('');
});
