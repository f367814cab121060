import fc from 'fast-check';
import type { MomentData } from './moment.fixture';
import type { Press } from './press';
import { cueKinds, onceForKinds, tests, textTests } from './kinds';
import type { EventRule, ReadingRule } from './schema';

/** Page contexts with rules, as data: what Node and a browser must judge alike. */

const texts = ['/fleet', '/fleet/call-back', 'bikes=12', 'test-ride', 'tel:+442079460018', 'é', '', '12', '1.249,50 €'];
const text = fc.oneof(
  { weight: 3, arbitrary: fc.constantFrom(...texts) },
  fc.string({ maxLength: 12, unit: 'grapheme' }),
);
const selector = fc.constantFrom(
  'a',
  '#book',
  '[data-dealer]',
  'a[data-dealer="york"]',
  '.fancy',
  'button[name^=ask]',
  '*',
);
const patterns = fc.constantFrom('^/fleet', '\\d+', 'é$', '^(a|b)?/', '[^/]+$');
const ids = ['path', 'query', 'came_from_host', 'press_text', 'press_link', 'form', 'last_source', 'bikes', 'fixed'];

export const ruleArbitrary: fc.Arbitrary<EventRule> = fc.record({
  name: fc.constantFrom('enquiry_sent', 'booking_opened'),
  words: fc.constant('Something'),
  cues: fc.array(
    fc
      .record({
        kind: fc.constantFrom(...cueKinds),
        part: fc.constantFrom('path' as const, 'query' as const, 'address' as const),
        test: fc.constantFrom(...textTests),
        text,
        pattern: patterns,
        selector,
        amount: fc.integer({ min: 1, max: 100 }),
      })
      .map(({ pattern, selector: chosen, ...cue }) => ({
        ...cue,
        text:
          cue.kind === 'presses' || cue.kind === 'reads_to'
            ? chosen
            : cue.kind === 'arrives' && cue.test === 'pattern'
              ? pattern
              : cue.text,
      })),
    { minLength: 1, maxLength: 3 },
  ),
  conditions: fc.array(
    fc
      .record({
        reading: fc.constantFrom(...ids),
        test: fc.constantFrom(...tests),
        not: fc.boolean(),
        text,
        pattern: patterns,
      })
      .map(({ pattern, ...one }) => (one.test === 'pattern' ? { ...one, text: pattern } : one)),
    { maxLength: 3 },
  ),
  reads: fc.constant([]),
  onceFor: fc.constantFrom(...onceForKinds),
  onceReading: fc.constantFrom(...ids),
});

export const readingArbitrary: fc.Arbitrary<ReadingRule[]> = fc.constant([
  { id: 'bikes', words: 'Bikes', from: 'query', name: 'bikes', attribute: '', as: 'number', unit: '', swap: 'size' },
  { id: 'fixed', words: 'Fixed', from: 'fixed', name: 'fleet', attribute: '', as: 'text', unit: '', swap: '' },
]);

const press: fc.Arbitrary<Press> = fc.record({
  tag: fc.constantFrom('a', 'button'),
  id: fc.constantFrom('', 'book'),
  name: fc.constantFrom('', 'ask-now'),
  link: fc.constantFrom('', 'https://calendar.bellhour.localhost/larkmoor', 'tel:+442079460018', 'http://x.example/é'),
  text: fc.constantFrom('Book a call', ' book  A CALL', 'Ask', ''),
  data: fc.constantFrom<[string, string][]>([], [['dealer', 'york']]),
});

export const momentArbitrary: fc.Arbitrary<MomentData> = fc.record({
  kind: fc.constantFrom('arrived', 'pressed', 'sent', 'ordered', 'read_to', 'stayed', 'said'),
  address: fc
    .tuple(
      fc.constantFrom('/fleet', '/fleet/call-back', '/é', '/'),
      fc.constantFrom('', '?bikes=12', '?bikes=1.249,50&x=1', '?x#f'),
    )
    .map(([path, query]) => `http://larkmoor.localhost:4310${path}${query}`),
  isAgain: fc.boolean(),
  press,
  form: fc.constantFrom('', 'test-ride'),
  leadToken: fc.constantFrom('', '019bc41a-0c43-73b6-aa70-6ce7ae64bc50'),
  order: fc.constantFrom('', '1042'),
  amount: fc.integer({ min: 0, max: 100 }),
  said: fc.constantFrom<string[]>([], ['test-ride'], ['/fleet', '12']),
  ids: fc.constant({ hit: 'h', visit: 'v', visitor: 'p' }),
  referrer: fc.constantFrom('', 'https://quillsearch.localhost/find?q=1', 'android-app://x.example/'),
  source: fc.constantFrom('', 'quillsearch'),
  met: fc.subarray(['a', '#book', '.fancy', '*']),
});
