import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { makeSeenForms } from './seen-forms';
import type { FormOnPage } from '../core/capture';
import { rules } from '../core/capture/rules.fixture';

let stored: Map<string, string>;
const page = (pathname: string) => vi.stubGlobal('location', { pathname });
const setup = (release = 1) => ({ business: 'larkmoor', release, edge: '', rules });
const form = (name: string, fields: string[], state: 'filled' | 'no_value' | 'not_found' = 'filled'): FormOnPage => ({
  form: name,
  fields: fields.map((field) => ({ name: field, hidden: true })),
  fills: [{ rule: 'r', field: 'click_id', near: '', state }],
});
const told = (release: number, ...forms: FormOnPage[]) =>
  makeSeenForms(setup(release))
    .fresh(forms)
    .map((one) => one.form);

beforeEach(() => {
  stored = new Map();
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => stored.set(key, value),
    removeItem: (key: string) => stored.delete(key),
  });
  page('/fleet');
});
afterEach(() => vi.unstubAllGlobals());

describe('a browser tells of a form', () => {
  it('once, whether or not its visit had something to fill in', () => {
    expect(told(1, form('ask', ['click_id']))).toEqual(['ask']);
    expect(told(1, form('ask', ['click_id']))).toEqual([]);
    expect(told(1, form('ask', ['click_id'], 'no_value'))).toEqual([]);
  });

  it('again when its fields or what rules find there change, on another page, and with another release', () => {
    told(1, form('ask', ['click_id']));
    expect(told(1, form('ask', ['click_ref']))).toEqual(['ask']);
    expect(told(1, form('ask', ['click_id'], 'not_found'))).toEqual(['ask']);
    expect(told(2, form('ask', ['click_id']))).toEqual(['ask']);
    page('/shop');
    expect(told(1, form('ask', ['click_id']))).toEqual(['ask']);
  });

  it('with the next look where there are more than one hit holds', () => {
    const many = Array.from({ length: 13 }, (_, n) => form(`form ${n}`, ['a']));
    expect([told(1, ...many).length, told(1, ...many).length, told(1, ...many).length]).toEqual([10, 3, 0]);
  });

  it('as many at a time as one body holds, the others with the next look', () => {
    const large = (name: string) =>
      form(
        name,
        Array.from({ length: 60 }, (_, n) => `${n} ${'配'.repeat(30)}`),
      );
    const seen = makeSeenForms(setup());
    const all = Array.from({ length: 12 }, (_, n) => large(`form ${n}`));
    const told: string[] = [];
    for (let look = 0; look < 12; look++) {
      const fresh = seen.fresh(all);
      expect(new TextEncoder().encode(JSON.stringify(fresh)).length).toBeLessThan(24_000);
      told.push(...fresh.map((one) => one.form));
    }
    expect(told.sort()).toEqual(all.map((one) => one.form).sort());
    // One that fills a body by itself goes alone.
    expect(
      seen.fresh([
        form(
          'huge',
          Array.from({ length: 60 }, (_, n) => `${n} ${'x'.repeat(200)}`),
        ),
        form('small', ['a']),
      ]),
    ).toHaveLength(1);
  });

  it('never where the form has no field with a name', () => {
    expect(told(1, form('search', []))).toEqual([]);
  });

  it('and keeps no more than it needs, and nothing once it is told to forget', () => {
    for (let n = 0; n < 80; n++) told(1, form(`form ${n}`, ['a']));
    const kept = JSON.parse(stored.get('avx_forms_larkmoor')!) as string[];
    expect(kept).toHaveLength(60);
    expect(kept.every((mark) => /^[0-9a-z]{1,7}$/.test(mark))).toBe(true);
    makeSeenForms(setup()).clear();
    expect(stored.size).toBe(0);
  });

  it('on each page where storage is blocked or holds something else', () => {
    stored.set('avx_forms_larkmoor', '{"not": "a list"}');
    expect(told(1, form('ask', ['a']))).toEqual(['ask']);
    vi.stubGlobal('localStorage', {
      getItem: () => {
        throw new Error('blocked');
      },
      setItem: () => {
        throw new Error('blocked');
      },
      removeItem: () => {
        throw new Error('blocked');
      },
    });
    const blocked = makeSeenForms(setup());
    expect(blocked.fresh([form('ask', ['a'])])).toHaveLength(1);
    expect(blocked.fresh([form('ask', ['a'])])).toHaveLength(0);
    expect(() => blocked.clear()).not.toThrow();
  });
});
