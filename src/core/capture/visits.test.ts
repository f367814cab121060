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
const referrer = fc.constantFrom('', `${site}/shop`, 'https://w.example/cargo', 'https://pay.example/done');
const navigation = fc.constantFrom<Arrival['navigation']>('navigate', 'navigate', 'navigate', 'reload', 'back_forward');
const step = fc.record({
  wait: fc.integer({ min: 1000, max: 20 * day }),
  source: fc.option(name, { nil: '' }),
  campaign: fc.option(name, { nil: '' }),
  clickId: fc.option(clickId, { nil: '' }),
  ...{ referrer, navigation },
});
type Step = typeof step extends fc.Arbitrary<infer S> ? S : never;
const steps = fc.array(step, { minLength: 1, maxLength: 12 });

const addressOf = (
  { source, campaign, clickId: id }: Pick<Step, 'source' | 'campaign' | 'clickId'>,
  clickName = 'qsid',
): string => {
  const pairs = [
    ['utm_source', source],
    ['utm_campaign', campaign],
    [clickName, id],
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
const isAlive = (at: number, touchAt: number, seenAt: number) =>
  at - Math.max(touchAt, seenAt) < rules.keep.touchDays * day;

describe('over any sequence of visits', () => {
  it('a reload and a step through the history start no touch (rule 1)', () => {
    over((seen) => {
      for (const {
        step: { navigation: by },
        before,
        after,
      } of seen)
        if (by !== 'navigate' && before.last && after.last) expect(after.last).toEqual(before.last);
    });
  });

  it('a click ID that is known starts no touch, whatever stands beside it (rules 1 and 4)', () => {
    over((seen) => {
      for (const { step: one, before, because } of seen)
        if (one.navigation === 'navigate' && before.clicks.some((click) => click.clickId === one.clickId))
          // It may have grown too old in between; then it is new again.
          expect(['click_id_known', 'click_id_new']).toContain(because);
    });
  });

  it('a direct visit never replaces a touch that is still kept (rule 1)', () => {
    over((seen) => {
      for (const { step: one, at, before, after } of seen) {
        const direct = one.source === '' && one.campaign === '' && one.clickId === '' && one.referrer === '';
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
            const tagged = came.step.source !== '' || came.step.campaign !== '';
            expect(touch.campaign).toBe(came.step.campaign.toLowerCase());
            if (tagged) expect(touch.source).toBe(came.step.source.toLowerCase());
            expect(touch.clickId).toBe(came.step.clickId);
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
          expect(at - click.at).toBeLessThan(rules.keep.clickIds[0]!.days * day);
          expect(seen.find((one) => one.at === click.at)!.step.clickId).toBe(click.clickId);
        }
      }
    });
  });

  it('a later touch from elsewhere clears no click ID that is young enough (rule 4)', () => {
    over((seen) => {
      for (const { at, before, after } of seen)
        for (const click of before.clicks)
          if (at - click.at < rules.keep.clickIds[0]!.days * day) expect(after.clicks).toContainEqual(click);
    });
  });

  it('the first touch is the oldest still kept and the last the newest (rule 7)', () => {
    over((seen) => {
      for (const { after, before, at } of seen) {
        if (after.first && after.last) expect(after.first.at).toBeLessThanOrEqual(after.last.at);
        if (before.first && isAlive(at, before.first.at, before.visitor!.seenAt))
          expect(after.first).toEqual(before.first);
      }
    });
  });

  it('a visit begins after thirty idle minutes and at no other time', () => {
    over((seen) => {
      for (const { before, at, began } of seen)
        expect(began).toBe(!before.visitor || at - before.visitor.seenAt >= rules.touch.visitMinutes * 60_000);
    });
  });

  it('a click ID under its carry name is kept as under its own (need C5)', () => {
    fc.assert(
      fc.property(steps, fc.array(fc.boolean(), { minLength: 12, maxLength: 12 }), (all, stripped) => {
        const own = play(all);
        const carried = play(all, (one) => addressOf(one, stripped[all.indexOf(one)] ? 'lark_key' : 'qsid'));
        expect(carried.at(-1)!.after).toEqual(own.at(-1)!.after);
      }),
    );
  });

  it('what says who somebody is changes nothing of what is kept, and does not stand in it (need C8)', () => {
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
