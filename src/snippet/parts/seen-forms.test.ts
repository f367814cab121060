import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { FillReport, FormOnPage } from '../../core/capture';
import { rules } from '../../core/capture/rules.fixture';
import type { Host } from '../part';
import { takeTools } from '../tools';
import { part } from './seen-forms';

let stored: Map<string, string>;
const page = (pathname: string) => vi.stubGlobal('location', { pathname });
const toolsOf = (release = 1) => takeTools({ business: 'larkmoor', release, edge: '', rules });
const form = (name: string, fields: string[], state: 'filled' | 'no_value' | 'not_found' = 'filled'): FormOnPage => ({
  form: name,
  fields: fields.map((field) => ({ name: field, hidden: true })),
  fills: [{ rule: 'r', field: 'click_id', near: '', state }],
});

/** A page with these forms, and all that it tells of them; each inner list is one hit. */
function look(release: number, ...forms: FormOnPage[]): FormOnPage[][] {
  const told: FormOnPage[][] = [];
  let seen: Parameters<Host['onForm']>[0] = () => undefined;
  let looked = (): void => undefined;
  const of = (one: unknown) => one as FormOnPage;
  part(toolsOf(release)).work!({
    onForm: (work) => (seen = work),
    onLooked: (work) => (looked = work),
    tell: (rest) => void (rest.kind === 'forms_seen' && told.push(rest.forms)),
    nameOf: (one) => of(one).form,
    fieldsOf: (one) =>
      of(one).fields.map(({ name }) => ({ type: 'hidden', getAttribute: () => name }) as unknown as HTMLInputElement),
  } as Partial<Host> as Host);
  for (const one of forms) seen(one as unknown as HTMLFormElement, one.fills as FillReport[]);
  looked();
  return told;
}
const told = (release: number, ...forms: FormOnPage[]) =>
  look(release, ...forms)
    .flat()
    .map((one) => one.form);
const many = (count: number, fields = ['a']) => Array.from({ length: count }, (_, n) => form(`form ${n}`, fields));

beforeEach(() => {
  stored = new Map();
  for (const name of ['addEventListener', 'removeEventListener']) vi.stubGlobal(name, () => undefined);
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

  it('by its fields’ names alone, without contents, cut to what a hit holds', () => {
    const names = ['x'.repeat(200), ...Array.from({ length: 90 }, (_, n) => `${n}`)];
    const [one] = look(1, form('f'.repeat(200), names)).flat();
    expect([one!.form.length, one!.fields.length, one!.fields[0]!.name.length]).toEqual([120, 60, 120]);
    expect(Object.keys(one!.fields[0]!)).toEqual(['name', 'hidden']);
  });

  it('with as many as one hit holds, and as many hits as that takes', () => {
    expect(look(1, ...many(13)).map((hit) => hit.length)).toEqual([10, 3]);
    const large = Array.from({ length: 60 }, (_, n) => `${n} ${'配'.repeat(30)}`);
    const hits = look(2, ...many(12, large));
    expect(hits.flat()).toHaveLength(12);
    for (const hit of hits) expect(new TextEncoder().encode(JSON.stringify(hit)).length).toBeLessThan(24_000);
    // One that fills a hit by itself goes alone.
    const huge = Array.from({ length: 60 }, (_, n) => `${n} ${'x'.repeat(110)}`);
    expect(look(3, form('huge', huge), form('small', ['a'])).map((hit) => hit.length)).toEqual([1, 1]);
  });

  it('with no more than 30 of one page', () => {
    expect(told(1, ...many(200))).toHaveLength(30);
  });

  it('never where the form has no field with a name', () => {
    expect(told(1, form('search', []))).toEqual([]);
  });

  it('and keeps no more than it needs, and nothing once it is told to forget', () => {
    for (let n = 0; n < 80; n++) told(1, form(`form ${n}`, ['a']));
    const kept = JSON.parse(stored.get('avx_forms_larkmoor')!) as string[];
    expect(kept).toHaveLength(60);
    expect(kept.every((mark) => /^[0-9a-z]{1,7}$/.test(mark))).toBe(true);
    part(toolsOf()).clear!();
    expect(stored.size).toBe(0);
  });

  it('on each page where storage is blocked or holds something else', () => {
    stored.set('avx_forms_larkmoor', '{"not": "a list"}');
    expect(told(1, form('ask', ['a']))).toEqual(['ask']);
    const blocked = () => {
      throw new Error('blocked');
    };
    vi.stubGlobal('localStorage', { getItem: blocked, setItem: blocked, removeItem: blocked });
    expect(told(1, form('ask', ['a']), form('ask', ['a']))).toEqual(['ask']);
    expect(told(1, form('ask', ['a']))).toEqual(['ask']);
    expect(() => part(toolsOf()).clear!()).not.toThrow();
  });
});
