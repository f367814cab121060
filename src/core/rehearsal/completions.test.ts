import { expect, it } from 'vitest';
import { completionsOf, pathAfter } from './completions';
import type { RehearsalOffers } from './view';

const offers: RehearsalOffers = {
  arrive: [{ value: 'http://larkmoor.localhost/fleet?utm_source=letter', label: 'winterproof, letter' }],
  paths: ['/fleet', '/care'],
  forms: [
    { form: 'guide', path: '/guide' },
    { form: 'test-ride', path: '/fleet' },
  ],
  presses: [
    { words: 'Ring us', path: '/care', link: 'tel:01632' },
    { words: 'Book a time', path: '/fleet', link: 'http://bellhour.localhost/' },
  ],
  stages: ['Asked', 'Offer'],
  mayChange: true,
};
const values = (typed: string, before: string[] = []) => completionsOf(typed, before, offers).map(({ value }) => value);

it('offers what can be done, where nothing is typed', () => {
  expect(values('')).toContain('arrive');
  expect(values('', ['/fleet'])).toContain('come back');
});
it('completes from what was seen, that of the page one is on first', () => {
  expect(values('send', ['arrive /fleet'])).toEqual(['send test-ride', 'send guide']);
  expect(values('press ', ['arrive /care'])[0]).toBe('press');
  expect(values('press b', ['arrive /fleet'])).toEqual(['press Book a time']);
  expect(values('winter')).toEqual(['arrive http://larkmoor.localhost/fleet?utm_source=letter']);
  expect(values('stage off')).toEqual(['stage Offer']);
});
it('knows which page the lines end on', () => {
  expect(pathAfter(['https://larkmoor.localhost?x=1'])).toBe('/');
  expect(pathAfter(['arrive /a', 'go /b', 'wait 2 days', 'nonsense'])).toBe('/b');
  expect(pathAfter([])).toBe('');
});
