import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cookieBytes, cookieNames, mostCookieBytes, parseCookieText, readKept, writeKept } from './cookies';
import { nothingKept } from './keep';
import { day, rules as fixture, valueRule, start } from './rules.fixture';
import type { CaptureRules, Kept, Touch } from './schema';

const text = fc.string({ maxLength: 60, unit: 'grapheme' }).filter((value) => value.isWellFormed());
const touch: fc.Arbitrary<Touch> = fc.record({
  at: fc.integer({ min: 1, max: start }),
  source: text,
  medium: text,
  campaign: text,
  content: text,
  term: text,
  utmId: text,
  referrer: text,
  landing: text,
  platform: text,
  clickId: text,
});
const kept: fc.Arbitrary<Kept> = fc.record({
  visitor: fc.record({
    id: fc.uuid(),
    visitId: fc.uuid(),
    visitAt: fc.integer({ min: 1, max: start }),
    seenAt: fc.integer({ min: 1, max: start }),
    noCustomer: fc.boolean(),
  }),
  first: fc.option(touch),
  last: fc.option(touch),
  clicks: fc.array(
    fc.record({
      at: fc.integer({ min: 1, max: start }),
      platform: text.filter(Boolean),
      clickId: text.filter(Boolean),
    }),
    { maxLength: 20 },
  ),
  values: fc
    .tuple(fc.integer({ min: 1, max: start }), fc.string({ unit: 'grapheme', minLength: 1, maxLength: 40 }))
    .map(([at, value]) => [{ name: 'lark_van', value, at }]),
});

const rules: CaptureRules = { ...fixture, keep: { ...fixture.keep, values: [valueRule({ name: 'lark_van' })] } };
const cookiesOf = (value: Kept, now = start) =>
  Object.fromEntries(writeKept(value, now, rules).map((cookie) => [cookie.name, cookie.value]));

describe('cookies', () => {
  it('hold what was written, whatever its characters', () => {
    fc.assert(
      fc.property(kept, (value) => {
        const read = readKept(cookiesOf(value), rules);
        // Where all would be too large the oldest click IDs go, and nothing else.
        expect(read).toEqual({ ...value, clicks: value.clicks.slice(-read.clicks.length || value.clicks.length) });
      }),
    );
  });

  it('are never more than a browser is sure to hold, as long as one click ID is left to drop', () => {
    const clicks = Array.from({ length: 20 }, (_, n) => ({
      platform: 'quillsearch',
      clickId: `Q${n}`.repeat(90),
      at: n + 1,
    }));
    const written = writeKept({ ...nothingKept(), clicks }, start, rules);
    expect(cookieBytes(written)).toBeLessThanOrEqual(mostCookieBytes);
    const left = readKept(Object.fromEntries(written.map(({ name, value }) => [name, value])), rules).clicks;
    expect(left.length).toBeGreaterThan(10);
    expect(left).toEqual(clicks.slice(-left.length));
  });

  it('hold only characters that a cookie may hold (RFC 6265, 4.1.1)', () => {
    fc.assert(
      fc.property(kept, (value) => {
        for (const cookie of Object.values(cookiesOf(value)))
          expect(cookie).toMatch(/^[\x21\x23-\x2B\x2D-\x3A\x3C-\x5B\x5D-\x7E]*$/);
      }),
    );
  });

  it('are dropped, never thrown on, when they were tampered with', () => {
    fc.assert(
      fc.property(fc.string(), fc.string(), (a, b) => {
        const read = readKept(
          { [cookieNames.visitor]: a, [cookieNames.last]: b, [cookieNames.clicks]: `1~${a}` },
          rules,
        );
        expect(read.last === null || typeof read.last.source === 'string').toBe(true);
      }),
    );
    expect(readKept({ [cookieNames.last]: '1~abc~%E0%A4~' }, rules).last).toBeNull();
    expect(readKept({ [cookieNames.last]: '2~1~~~~~~~~~~' }, rules).last).toBeNull();
  });

  it('live as long as the rule says: touches from the last page seen, click IDs from their click', () => {
    const at = start - 10 * day;
    const value: Kept = {
      visitor: { id: crypto.randomUUID(), visitId: crypto.randomUUID(), visitAt: at, seenAt: start, noCustomer: false },
      first: null,
      last: { ...fc.sample(touch, 1)[0]!, at },
      clicks: [{ platform: 'quillsearch', clickId: 'x', at }],
      values: [],
    };
    const ages = Object.fromEntries(writeKept(value, start, rules).map((c) => [c.name, c.maxAge]));
    expect(ages[cookieNames.last]).toBe(90 * 86_400);
    expect(ages[cookieNames.clicks]).toBe(80 * 86_400);
    expect(ages[cookieNames.first]).toBe(0);
  });

  it('keeps the first of a name that stands twice in the header', () => {
    expect(parseCookieText('a=1; b=x=y; a=2; broken')).toEqual({ a: '1', b: 'x=y' });
  });
});
