import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrive, nothingKept } from './keep';
import { readKept, writeKept, parseCookieText } from './cookies';
import { cleanArrival } from './pii';
import { day, rules as fixture, start } from './rules.fixture';
import type { Arrival } from './touch';
import type { Kept } from './schema';

/* The touch rules of docs/touches.md, held over generated sequences of visits. */

const rules = { ...fixture, carry: [{ platform: 'quillsearch', name: 'lark_key' }] };
const fresh = { visitor: '11111111-1111-4111-8111-111111111111', visit: '22222222-2222-4222-8222-222222222222' };
const site = 'http://larkmoor.localhost';

const name = fc.constantFrom('a', 'B', 'c-1', 'ü', 'x y');
const clickId = fc.constantFrom('Q1', 'q1', 'Q-2_x', 'QsAb12Cd34');
const referrer = fc.constantFrom(
  ...['', `${site}/shop`, 'https://w.example/cargo', 'https://pay.example/done', 'android-app://w.example.app/'],
);
const navigation = fc.constantFrom<Arrival['navigation']>(
  ...(['navigate', 'navigate', 'navigate', 'prerender', 'reload', 'back_forward'] as const),
);
const step = fc.record({
  wait: fc.integer({ min: 1000, max: 20 * day }),
  source: fc.option(name, { nil: '' }),
  campaign: fc.option(name, { nil: '' }),
  term: fc.option(name, { nil: '' }),
  clickId: fc.option(clickId, { nil: '' }),
  other: fc.option(fc.constantFrom('T1', 'T2'), { nil: '' }),
  referrer,
  navigation,
});
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;
const steps = fc.array(step, { minLength: 1, maxLength: 12 });

const addressOf = (one: Step, clickName = 'qsid'): string => {
  const pairs = [
    ['utm_source', one.source],
    ['utm_campaign', one.campaign],
    ['utm_term', one.term],
    [clickName, one.clickId],
    ['tsl', one.other],
  ].filter(([, value]) => value !== '');
  const query = pairs.map(([key, value]) => `${key}=${encodeURIComponent(value!)}`).join('&');
  return `${site}/fleet${query ? `?${query}` : ''}`;
};

interface Seen {
  step: Step;
  at: number;
  before: Kept;
  after: Kept;
  began: boolean;
  because: string;
}
/** Plays steps one after another, as one browser does. */
function play(all: Step[], address: (step: Step) => string = addressOf): Seen[] {
  let kept = nothingKept();
  let at = start;
  return all.map((one) => {
    at += one.wait;
    const before = kept;
    const arrival = { at, address: address(one), referrer: one.referrer, navigation: one.navigation };
    const { kept: after, decision } = arrive(before, arrival, rules, fresh);
    kept = after;
    return { step: one, at, before, after, began: after.visitor!.visitAt === at, because: decision.because };
  });
}
const over = (holds: (seen: Seen[]) => void) =>
  fc.assert(
    fc.property(steps, (all) => holds(play(all))),
    { numRuns: 400 },
  );
const daysOf = ({ platform }: { platform: string }) =>
  rules.keep.clickIds.find((rule) => rule.platform === platform)!.days;

/** The rules once more, as they are written and not as the engine decides. */
function judge(one: Step, before: Kept) {
  const ids = [
    { platform: 'quillsearch', clickId: one.clickId, source: 'quillsearch', medium: 'paid-search' },
    { platform: 'tessaloop', clickId: one.other, source: 'tessaloop', medium: '' },
  ].filter((id) => id.clickId !== '');
  const isKnown = (id: { platform: string; clickId: string }) =>
    before.clicks.some((click) => click.platform === id.platform && click.clickId === id.clickId);
  const fresh = ids.filter((id) => !isKnown(id));
  const from = one.referrer.startsWith(site) ? 'own' : one.referrer.includes('pay.') ? 'paying' : one.referrer;
  const base = {
    campaign: one.campaign.toLowerCase(),
    term: one.term.toLowerCase(),
    referrer: from === 'own' || from === 'paying' ? '' : one.referrer.replace(/^[a-z-]+:\/\//, ''),
  };
  const none = (because: string) => ({ because, touch: null, fresh: [] });
  const [first] = fresh;
  if (first) {
    const source = one.source.toLowerCase() || first.source;
    const medium = source === first.source ? first.medium : '';
    const click = { platform: first.platform, clickId: first.clickId };
    const kept = fresh.map(({ platform, clickId: id }) => ({ platform, clickId: id }));
    return { because: 'click_id_new', touch: { ...base, ...click, source, medium }, fresh: kept };
  }
  if (one.navigation === 'reload') return none('reloaded');
  if (one.navigation === 'back_forward') return none('history_step');
  if (ids.length > 0) return none('click_id_known');
  const touch = { ...base, source: one.source.toLowerCase(), medium: '', platform: '', clickId: '' };
  if (one.source || one.campaign || one.term)
    return from === 'own' ? none('own_link_tagged') : { because: 'campaign_values', touch, fresh: [] };
  if (from === '') return none('no_referrer');
  if (from === 'own') return none('own_page');
  return from === 'paying' ? none('no_source_host') : { because: 'outside_referrer', touch, fresh: [] };
}
const isAlive = (at: number, touchAt: number, seenAt: number) =>
  at - Math.max(touchAt, seenAt) < rules.keep.touchDays * day;

describe('over any sequence of visits', () => {
  it('starts a touch where the rules say so and nowhere else, for the reason they say (rules 1 to 6)', () => {
    over((seen) => {
      for (const { step: one, at, before, after, because } of seen) {
        const wanted = judge(one, before);
        expect(because).toBe(wanted.because);
        if (wanted.touch) expect(after.last).toMatchObject({ at, ...wanted.touch });
        for (const fresh of wanted.fresh) expect(after.clicks).toContainEqual({ ...fresh, at });
      }
    });
  });

  it('a direct visit never replaces a touch that is still kept (rule 1)', () => {
    over((seen) => {
      for (const { step: one, at, before, after } of seen) {
        const direct = addressOf(one) === `${site}/fleet` && one.referrer === '';
        if (direct && before.last && isAlive(at, before.last.at, before.visitor!.seenAt))
          expect(after.last).toEqual(before.last);
      }
    });
  });

  it('a touch is stored whole: everything in it came with one arrival (rule 2)', () => {
    over((seen) => {
      for (const { after } of seen)
        for (const touch of [after.first, after.last])
          if (touch) {
            const came = seen.find(({ at }) => at === touch.at)!;
            expect(touch.campaign).toBe(came.step.campaign.toLowerCase());
            expect(touch.term).toBe(came.step.term.toLowerCase());
            if (came.step.source) expect(touch.source).toBe(came.step.source.toLowerCase());
            expect(['', came.step.clickId, came.step.other]).toContain(touch.clickId);
          }
    });
  });

  it('a click ID is kept as it came, once, at its first sight, and its age never slides (rules 4 and 6)', () => {
    over((seen) => {
      for (const { at, after } of seen) {
        expect(new Set(after.clicks.map((click) => `${click.platform} ${click.clickId}`)).size).toBe(
          after.clicks.length,
        );
        for (const click of after.clicks) {
          expect(at - click.at).toBeLessThan(daysOf(click) * day);
          const { clickId: own, other } = seen.find((one) => one.at === click.at)!.step;
          expect(click.platform === 'quillsearch' ? own : other).toBe(click.clickId);
        }
      }
    });
  });

  it('a later touch from elsewhere clears no click ID that is young enough (rule 4)', () => {
    over((seen) => {
      for (const { at, before, after } of seen)
        for (const click of before.clicks)
          if (at - click.at < daysOf(click) * day) expect(after.clicks).toContainEqual(click);
    });
  });

  it('the first touch is the oldest still kept and the last the newest (rule 7)', () => {
    over((seen) => {
      for (const { after, before, at } of seen) {
        if (after.first && after.last) expect(after.first.at).toBeLessThanOrEqual(after.last.at);
        if (before.first && isAlive(at, before.first.at, before.visitor!.seenAt))
          expect(after.first).toEqual(before.first);
        if (after.last) expect(after.first).not.toBeNull();
      }
    });
  });

  it('a visit begins after thirty idle minutes and at no other time', () => {
    over((seen) => {
      for (const { before, at, began } of seen)
        expect(began).toBe(!before.visitor || at - before.visitor.seenAt >= rules.touch.visitMinutes * 60_000);
    });
  });

  it('a click ID under its carry name is kept as under its own', () => {
    fc.assert(
      fc.property(steps, fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), (all, stripped) => {
        const own = play(all);
        const carried = play(all, (one) => addressOf(one, stripped[all.indexOf(one)] ? 'lark_key' : 'qsid'));
        expect(carried.at(-1)!.after).toEqual(own.at(-1)!.after);
      }),
    );
  });

  it('what says who somebody is changes nothing of what is kept, and does not stand in it', () => {
    fc.assert(
      fc.property(steps, (all) => {
        const told = play(all, (one) => {
          const address = addressOf(one);
          const with_ = `${address}${address.includes('?') ? '&' : '?'}who=anna%2540bakery.example`;
          return cleanArrival({ address: with_, referrer: '' }, rules).address;
        });
        expect(told.at(-1)!.after).toEqual(play(all).at(-1)!.after);
        expect(JSON.stringify(told.map(({ after }) => after))).not.toContain('anna');
      }),
    );
  });

  it('what is kept is read back from its cookies as it was, at every step', () => {
    over((seen) => {
      for (const { at, after } of seen) {
        const text = writeKept(after, at, rules)
          .filter(({ maxAge }) => maxAge > 0)
          .map((cookie) => `${cookie.name}=${cookie.value}`)
          .join('; ');
        expect(readKept(parseCookieText(text), rules)).toEqual(after);
        expect(text.length).toBeLessThan(4096);
      }
    });
  });
});
