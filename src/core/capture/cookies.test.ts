import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cookieBytes, cookieNames, fitCookies, mostCookieBytes, parseCookieText, readKept, writeKept } from './cookies';
import { keptClickSchema, touchSchema } from './hit-schema';
import { arrive, nothingKept } from './keep';
import { newestClick } from './lasting';
import { day, rules as fixture, valueRule, start } from './rules.fixture';
import { decideTouch } from './touch';
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
const cookiesOf = (value: Kept, now = start, by = rules) =>
  Object.fromEntries(writeKept(value, now, by).map((cookie) => [cookie.name, cookie.value]));

describe('cookies', () => {
  it('hold what was written, whatever its characters', () => {
    fc.assert(
      fc.property(kept, (value) => {
        const fitted = fitCookies(value, start, rules).kept;
        expect(readKept(cookiesOf(value), rules)).toEqual({ ...fitted, first: fitted.first ?? fitted.last });
      }),
    );
  });

  it('are never more than a browser is sure to hold, whatever is kept', () => {
    fc.assert(
      fc.property(kept, (value) => {
        expect(cookieBytes(writeKept(value, start, rules))).toBeLessThanOrEqual(mostCookieBytes);
      }),
    );
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

  it('say a click ID that a touch came with once, and give it back to both', () => {
    const id = 'Qs'.padEnd(300, 'x');
    const click = { platform: 'quillsearch', clickId: id, at: start };
    const came = { ...fc.sample(touch, 1)[0]!, ...click };
    const value: Kept = { ...nothingKept(), first: came, last: came, clicks: [click] };
    expect(JSON.stringify(cookiesOf(value)).split(id)).toHaveLength(2);
    expect(readKept(cookiesOf(value), rules)).toEqual(value);
    const gone = { ...value, clicks: [{ ...click, clickId: 'another' }] };
    expect(readKept(cookiesOf(gone), rules), 'of another click it keeps its own').toEqual(gone);
  });

  it('written before touches named their click ID once are read as they were', () => {
    const before = '1~abc~s~m~c~~~~w.example%2F~l.example%2F~quillsearch~Q%2B1';
    expect(readKept({ [cookieNames.last]: before }, rules).last).toMatchObject({ source: 's', clickId: 'Q+1' });
  });

  it('keeps the first of a name that stands twice in the header', () => {
    expect(parseCookieText('a=1; b=x=y; a=2; broken')).toEqual({ a: '1', b: 'x=y' });
  });
});

describe('where more came than cookies hold', () => {
  const own = { ...rules, keep: { ...rules.keep, values: [valueRule({ name: 'a' }), valueRule({ name: 'b' })] } };
  const fresh = { visitor: crypto.randomUUID(), visit: crypto.randomUUID() };
  const site = 'http://larkmoor.localhost/';
  const go = (before: Kept, query: string, at = start) =>
    arrive(before, { at, address: `${site}?${query}`, referrer: '', navigation: 'navigate' }, own, fresh);
  const bytes = (value: Kept) => cookieBytes(writeKept(value, start, own));
  const tagged = (campaign: string, rest = campaign) =>
    `utm_source=brief&utm_medium=email&utm_campaign=${encodeURIComponent(campaign)}&utm_content=${encodeURIComponent(rest)}&utm_term=${encodeURIComponent(rest)}`;

  it('eighty Japanese letters each in campaign, content and term: the campaign stays whole', () => {
    const { kept: held, gaveWay } = go(nothingKept(), tagged('配'.repeat(80)));
    expect([held.first, held.last].map((one) => one!.campaign)).toEqual(['配'.repeat(80), '配'.repeat(80)]);
    expect([held.last!.content, held.last!.term, gaveWay]).toEqual(['配'.repeat(80), '配'.repeat(80), ['first']]);
    expect(bytes(held)).toBeLessThanOrEqual(mostCookieBytes);
  });

  it('144 of them: what is longer than a cookie’s share is cut, at whole letters', () => {
    const { kept: held } = go(nothingKept(), tagged('配'.repeat(144)));
    expect([held.first, held.last].map((one) => one!.campaign)).toEqual(['配'.repeat(100), '配'.repeat(100)]);
    expect(bytes(held)).toBeLessThanOrEqual(mostCookieBytes);
  });

  it('an emoji at the end of what is kept of a value, and letters that grow in lower case', () => {
    const { kept: held } = go(nothingKept(), `utm_campaign=${encodeURIComponent(`${'x'.repeat(199)}🚲`)}&utm_medium=m`);
    expect(held.last!.campaign).toBe('x'.repeat(199));
    const grown = go(nothingKept(), `utm_source=${encodeURIComponent('İ'.repeat(101))}`).kept.last!.source;
    expect([grown.length <= 200, grown.isWellFormed()]).toEqual([true, true]);
  });

  it('a click ID of more than 300 characters is kept as far as it fits', () => {
    const { kept: held } = go(nothingKept(), `qsid=${'Q1'.repeat(200)}`);
    expect(held.clicks).toMatchObject([{ platform: 'quillsearch', clickId: 'Q1'.repeat(150) }]);
    expect(held.last!.clickId).toBe('Q1'.repeat(150));
  });

  it('older click IDs go first, and of a platform that has newer ones before another’s only one', () => {
    let held = go(nothingKept(), 'tsl=T1', start - 3000).kept;
    for (let n = 0; n < 30; n++) held = go(held, `qsid=${'Q'.repeat(280)}${n}`, start - 2000 + n).kept;
    expect(held.clicks[0]).toMatchObject({ platform: 'tessaloop', clickId: 'T1' });
    expect(held.clicks.at(-1)!.clickId).toBe(`${'Q'.repeat(280)}29`);
    expect(held.clicks.length).toBeGreaterThan(9);
    expect(bytes(held)).toBeLessThanOrEqual(mostCookieBytes);
  });

  it('content, term, referrer and landing page of the first touch go before those of the last', () => {
    const order: string[] = [];
    for (let n = 20; n < 100; n += 4) {
      const { kept: held } = go(nothingKept(), `${tagged('配'.repeat(n))}&a=${'v'.repeat(200)}`);
      for (const which of ['first', 'last'] as const)
        for (const part of ['content', 'term', 'landing'] as const)
          if (!held[which]![part] && !order.includes(`${which} ${part}`)) order.push(`${which} ${part}`);
      expect(held.values).toHaveLength(1);
    }
    expect(order.slice(0, 2)).toEqual(['first content', 'first term']);
    expect(order).not.toContain('last content');
  });

  it('source, medium, campaign, its ID and the newest click ID stay, and values of one’s own go last', () => {
    const part = fc.oneof(
      fc.string({ unit: 'binary', maxLength: 260 }),
      fc.constantFrom('配', '🚲', 'x', 'é', '+').chain((one) => fc.nat(260).map((n) => one.repeat(n))),
    );
    const names = ['source', 'medium', 'campaign', 'content', 'term', 'id'].map((name) => `utm_${name}`);
    const query = fc
      .record(Object.fromEntries([...names, 'qsid', 'tsl', 'a', 'b'].map((name) => [name, part])))
      .map((pairs) =>
        Object.entries(pairs)
          .map(([name, value]) => `${name}=${encodeURIComponent(value)}`)
          .join('&'),
      );
    const staying = ['source', 'medium', 'campaign', 'utmId'] as const;
    fc.assert(
      fc.property(fc.array(query, { minLength: 1, maxLength: 4 }), (queries) => {
        let held = nothingKept();
        queries.forEach((one, n) => {
          const at = start + n * 1000;
          const address = `${site}?${one}`;
          const { kept: after, decision } = go(held, one, at);
          const wanted = decideTouch({ at, address, referrer: '', navigation: 'navigate' }, held.clicks, own).touch;
          if (wanted) for (const name of staying) expect(after.last![name]).toBe(wanted[name]);
          if (wanted?.clickId) expect(newestClick(after.clicks)!.clickId).toBe(wanted.clickId);
          expect(bytes(after)).toBeLessThanOrEqual(mostCookieBytes);
          expect(readKept(cookiesOf(after, at, own), own)).toEqual(after);
          expect(keptClickSchema.array().max(20).safeParse(after.clicks).success).toBe(true);
          for (const one of [after.first, after.last, ...decision.clicks])
            if (one) expect(touchSchema.safeParse(one).error).toBeUndefined();
          held = after;
        });
      }),
      { numRuns: 200 },
    );
  });
});
