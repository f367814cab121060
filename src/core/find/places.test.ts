import { existsSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { findPlaces, places } from './places';

describe('pages of Avrix that are looked for', () => {
  it.each(places)('“%s” is there', (_words, _also, path) => {
    const file = `src/pages/b/[business]${path}`;
    expect(existsSync(`${file}.astro`) || existsSync(`${file}/index.astro`)).toBe(true);
  });

  it('are found by their words first, then by what else they are called', () => {
    const words = (text: string) => findPlaces(text, 4).map(([one]) => one);
    expect(words('short')).toEqual(['Short links']);
    expect(words('Camp')).toEqual(['Campaigns', 'Campaign names', 'Do they agree?', 'Results']);
    expect(words('cookies')).toEqual(['Faults', 'Kept']);
    expect([words(' '), words('no such page')]).toEqual([[], []]);
  });
});
