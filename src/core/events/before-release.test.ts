import { describe, expect, it } from 'vitest';
import type { ReleaseContent } from '../releases/schema';
import { findingsBeforeRelease, type Lately } from './before-release';
import type { Cue, EventRule, WireRule } from './schema';
import { freshCue, freshEvent } from './words';

const event = (name: string, ...cues: Cue[]): EventRule => ({ ...freshEvent(), name, cues });
const wire = (change: Partial<WireRule> = {}): WireRule => ({
  event: 'asked',
  account: 'quillsearch',
  kind: 'quillsearch',
  fields: [],
  by: 'server',
  purpose: 'advertising',
  how: 'told',
  from: '',
  named: [{ text: 'FLT-QUAL', reading: '' }],
  ...change,
});
const lately: Lately = {
  weeks: 4,
  forms: ['test-ride'],
  paths: ['/fleet', '/guide/ready'],
  presses: [{ tag: 'a', id: '', name: '', link: 'http://bellhour.localhost/book', text: 'Book', data: [] }],
  moved: {},
  pairs: [],
  accounts: ['quillsearch'],
  known: { quillsearch: ['FLT-QUAL'] },
};
const found = (events: EventRule[], wires: WireRule[], change: Partial<Lately> = {}) =>
  findingsBeforeRelease(
    { events: { readings: [], presses: true, events, wires }, platforms: [] } as unknown as ReleaseContent,
    { ...lately, ...change },
  ).map(({ was, fix }) => `${was}. ${fix}`);
const sends = (form: string) => ({ ...freshCue('sends'), text: form });

describe('before events go live', () => {
  it('what was done lately is not named', () => {
    const fine = event('asked', sends('test-ride'), { ...freshCue('leaves_for'), text: 'bellhour.localhost' });
    expect(found([fine], [wire()])).toEqual([]);
  });

  it('what nobody did in four weeks is named, and nothing of what recorded traffic cannot say', () => {
    const rule = event('asked', sends('test-rid'), { ...freshCue('presses'), text: '.book' }, freshCue('reads_down'));
    expect(found([rule], [])).toEqual([
      '`asked` waits for what nobody did in 4 weeks: someone sends the form `test-rid`. Correct it, or leave it if it is only to come.',
    ]);
    expect(found([event('asked', { ...freshCue('leaves_for'), text: 'x.example' })], [], { presses: null })).toEqual(
      [],
    );
  });

  it('a page that moved is named with the one that visitors now reach, once', () => {
    const rule = event('taken', { ...freshCue('arrives'), test: 'equals', text: '/guide/thanks' });
    const moved = { taken: { was: '/guide/thanks', now: '/guide/ready', from: '/guide', count: 9 } };
    expect(found([rule], [], { moved })).toEqual([
      '`taken` waits for `/guide/thanks`, and visitors now reach `/guide/ready`. Use the new page.',
    ]);
  });

  it('a name that is spelt otherwise outside is named, and a place that is not there', () => {
    const rule = event('asked', sends('test-ride'));
    expect(found([rule], [wire({ named: [{ text: 'flt-qual', reading: '' }] })])).toEqual([
      'Quillsearch does not know `flt-qual`, as which it is told `asked`: it would count none. Use `FLT-QUAL`, which is there, or make the name there.',
    ]);
    const page = wire({ account: 'tessaloop', kind: 'tessaloop', by: 'both', named: [{ text: 'asked', reading: '' }] });
    expect(found([rule], [page])).toEqual([
      '`asked` is to be told to `tessaloop`, which is paused or not connected: pages have no opener of it. Connect it, or let it go on, under Connections.',
    ]);
  });

  it('two that always came together are named', () => {
    const two = [event('asked', sends('test-ride')), event('asked_too', sends('test-ride'))];
    expect(found(two, [], { pairs: [['asked', 'asked_too', 12]] })).toEqual([
      '`asked` and `asked_too` always went off together, 12 times. If they are the same thing, keep one of them.',
    ]);
  });
});
