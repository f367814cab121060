import { describe, expect, it } from 'vitest';
import { candidatesFor, type PointedAt } from './pointed';

const link = (change: Partial<NonNullable<PointedAt['press']>> = {}): PointedAt => ({
  press: {
    tag: 'a',
    id: '',
    name: '',
    link: 'http://bellhour.localhost/book',
    text: 'pick a time',
    data: [],
    ...change,
  },
  form: '',
  path: 'main > p > a',
});
const ways = (pointed: PointedAt) =>
  candidatesFor(pointed, 'larkmoor.localhost').map(({ kind, text, lasts }) => `${kind} ${text} ${lasts}`);

describe('what was pointed at', () => {
  it('is said by what it was given to be known by, then where it leads, its words, its place', () => {
    expect(ways(link({ data: [['dealer', 'york']] }))).toEqual([
      'presses [data-dealer="york"] lasts',
      'leaves_for bellhour.localhost lasts',
      'presses_words pick a time wording',
      'presses main > p > a structure',
    ]);
  });

  it('is no way out where it leads to the same website, and a call where it dials', () => {
    expect(ways(link({ link: 'http://larkmoor.localhost/shop' }))).not.toContain('leaves_for larkmoor.localhost lasts');
    expect(ways(link({ link: 'tel:+441632960018' }))).toContain('leaves_for tel: lasts');
  });

  it('is not known by an ID that looks generated before by anything else but its place', () => {
    expect(ways(link({ id: 'r-7f3a9c2e', link: '' }))).toEqual([
      'presses_words pick a time wording',
      'presses [id="r-7f3a9c2e"] generated',
      'presses main > p > a structure',
    ]);
  });

  it('is the form that it sends, first', () => {
    expect(ways({ ...link({ tag: 'button', link: '' }), form: 'test-ride' })[0]).toBe('sends test-ride lasts');
    expect(ways({ press: null, form: 'test-ride', path: '' })).toEqual(['sends test-ride lasts']);
  });
});
