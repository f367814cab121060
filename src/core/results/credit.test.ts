import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { creditTouches, type PathTouch } from './credit';
import { creditModelSchema, type CreditModel } from './schema';

const day = 86_400_000;
const start = Date.UTC(2027, 0, 4, 9);

const models: fc.Arbitrary<CreditModel> = fc.oneof(
  fc.constantFrom<CreditModel>({ kind: 'last' }, { kind: 'first' }, { kind: 'even' }),
  fc
    .tuple(fc.nat(100), fc.nat(100))
    .filter(([first, last]) => first + last <= 100)
    .map(([first, last]) => ({ kind: 'position' as const, first, last })),
  fc.integer({ min: 1, max: 730 }).map((halves) => ({ kind: 'decay' as const, halfLifeDays: halves / 2 })),
);
const paths: fc.Arbitrary<PathTouch[]> = fc.uniqueArray(
  fc.record({ id: fc.uuid(), at: fc.integer({ min: 0, max: 90 * 24 }).map((hours) => start + (hours * day) / 24) }),
  { selector: ({ id }) => id, maxLength: 12 },
);
const worths = fc.oneof(fc.integer({ min: -5000, max: 5000 }), fc.maxSafeInteger());
const until = start + 60 * day;
const sum = (credits: { minor: number }[]) => credits.reduce((total, { minor }) => total + BigInt(minor), 0n);

/**
 * The same, slow and obvious: each minor unit goes to the touch that is furthest below its exact part, the older one of
 * two alike. Parts are fractions of whole numbers.
 */
function creditSlowly(worth: number, touches: readonly PathTouch[], model: CreditModel): [string, number][] {
  const path = [...touches].filter(({ at }) => !(at > until));
  path.sort((a, b) => `${a.at} ${a.id}`.localeCompare(`${b.at} ${b.id}`, 'en'));
  const n = path.length;
  const weights = path.map(({ at }, i): bigint => {
    const isFirst = i === 0;
    const isLast = i === n - 1;
    if (n === 1) return 1n;
    if (model.kind === 'last') return isLast ? 1n : 0n;
    if (model.kind === 'first') return isFirst ? 1n : 0n;
    if (model.kind === 'even') return 1n;
    if (model.kind === 'decay') {
      const halvings = (path[n - 1]!.at - at) / day / model.halfLifeDays;
      return BigInt(Math.round(1_048_576 * Math.pow(0.5, halvings)));
    }
    if (n === 2 && model.first + model.last === 0) return 1n;
    const inBetween = BigInt(Math.max(n - 2, 1));
    if (isFirst) return BigInt(model.first) * inBetween;
    if (isLast) return BigInt(model.last) * inBetween;
    return BigInt(100 - model.first - model.last);
  });
  const total = weights.reduce((all, weight) => all + weight, 0n);
  const given = path.map(() => 0n);
  const sign = worth < 0 ? -1 : 1;
  for (let unit = 0; unit < Math.abs(worth) && n > 0; unit++) {
    const short = weights.map((weight, i) => BigInt(Math.abs(worth)) * weight - given[i]! * total);
    const most = short.reduce((best, one) => (one > best ? one : best));
    given[short.indexOf(most)]! += 1n;
  }
  return path.map(({ id }, i) => [id, sign * Number(given[i]!) + 0]);
}

describe('the worked examples of docs/results.md', () => {
  const modelOf = (words: string): CreditModel => {
    const [first, last] = [...words.matchAll(/\d+/g)].map(Number);
    if (words.startsWith('position')) return { kind: 'position', first: first!, last: last! };
    if (words.startsWith('decay')) return { kind: 'decay', halfLifeDays: first! };
    return { kind: words as 'last' | 'first' | 'even' };
  };
  const rows = readFileSync('docs/results.md', 'utf8')
    .split('\n')
    .filter((line) => /^\| -?\d+ \|/.test(line))
    .map((line) =>
      line
        .split('|')
        .slice(1, -1)
        .map((cell) => cell.trim()),
    );
  it('are there', () => expect(rows.length).toBeGreaterThan(12));

  it.each(rows)(
    'worth %s, touches on the days %s, the outcome on day %s, %s',
    (worth, days, outcome, model, credits) => {
      const touches =
        days === '-' ? [] : days!.split(', ').map((on) => ({ id: `day ${on}`, at: start + Number(on) * day }));
      const shared = creditTouches(Number(worth), touches, start + Number(outcome) * day, modelOf(model!));
      expect(shared.map(({ touch, minor }) => `${touch}: ${minor}`).join(', ') || 'not known').toBe(credits);
    },
  );
});

describe('what touches are credited with', () => {
  it('adds up to the worth, to the minor unit', () =>
    fc.assert(
      fc.property(worths, paths, models, (worth, path, model) => {
        const credits = creditTouches(worth, path, until, model);
        const isKnown = path.some(({ at }) => at <= until);
        expect(sum(credits)).toBe(isKnown ? BigInt(worth) : 0n);
        expect(credits.length).toBe(path.filter(({ at }) => at <= until).length);
      }),
    ));

  it('is the same in whatever order they come', () =>
    fc.assert(
      fc.property(worths, paths, models, fc.nat(), (worth, path, model, turn) => {
        const turned = [...path.slice(turn % (path.length + 1)), ...path.slice(0, turn % (path.length + 1))].reverse();
        expect(creditTouches(worth, turned, until, model)).toEqual(creditTouches(worth, path, until, model));
      }),
    ));

  it('goes to none after the outcome', () =>
    fc.assert(
      fc.property(worths, paths, models, (worth, path, model) => {
        const before = path.filter(({ at }) => at <= until);
        expect(creditTouches(worth, path, until, model)).toEqual(creditTouches(worth, before, until, model));
      }),
    ));

  it('goes to a single one whole', () =>
    fc.assert(
      fc.property(worths, models, fc.uuid(), (worth, model, id) => {
        expect(creditTouches(worth, [{ id, at: start }], until, model)).toEqual([{ touch: id, minor: worth }]);
      }),
    ));

  it('is taken back by the same touches, as it was given', () =>
    fc.assert(
      fc.property(fc.nat(100_000), paths, models, (worth, path, model) => {
        const given = creditTouches(worth, path, until, model);
        const taken = creditTouches(0 - worth, path, until, model);
        expect(taken).toEqual(given.map(({ touch, minor }) => ({ touch, minor: 0 - minor })));
      }),
    ));

  it('is what a slow and obvious count gives', () =>
    fc.assert(
      fc.property(fc.integer({ min: -900, max: 900 }), paths, models, (worth, path, model) => {
        const credits = creditTouches(worth, path, until, model);
        expect(credits.map(({ touch, minor }) => [touch, minor])).toEqual(creditSlowly(worth, path, model));
      }),
    ));
});

it('shares of the first and the last beyond the whole are refused by name', () => {
  const { error } = creditModelSchema.safeParse({ kind: 'position', first: 60, last: 50 });
  expect(error?.issues).toMatchObject([{ path: ['last'], message: expect.stringContaining('more than 100 per cent') }]);
});
