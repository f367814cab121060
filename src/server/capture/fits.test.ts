import fc from 'fast-check';
import { expect, it } from 'vitest';
import { hitSchema, type Hit } from '../../core/capture/schema';
import { fitsHit } from './fits';

const id = '01945b1e-7a00-7000-8000-000000000001';
const touch = {
  at: 1,
  source: 'quillsearch',
  medium: 'cpc',
  campaign: '',
  content: '',
  term: '',
  utmId: '',
  referrer: '',
  landing: 'larkmoor.example/fleet',
  platform: 'quillsearch',
  clickId: 'QS-1',
};
const common = {
  id,
  at: 1,
  release: 1,
  visitor: id,
  visit: id,
  address: 'https://larkmoor.example/fleet',
  referrer: '',
  consent: { measurement: 'yes' as const, advertising: 'not asked' as const },
  pii: [{ place: 'query' as const, name: 'email', kind: 'mail' as const }],
  kept: {
    works: true,
    first: touch,
    last: null,
    clicks: [{ platform: 'quillsearch', clickId: 'QS-1', at: 1 }],
    values: [{ name: 'ref', value: 'a', at: 1 }],
  },
};
const fill = {
  rule: 'r',
  field: 'click_id',
  near: '',
  state: 'filled' as const,
  reading: 'click_id' as const,
  value: 'QS-1',
};
const hits: Hit[] = [
  { ...common, kind: 'arrived', navigation: 'navigate', why: 'click_id_new', lines: 2, restored: 'offers' },
  { ...common, kind: 'form_sent', form: 'test-ride', leadToken: id, fields: ['name'], fills: [fill] },
  {
    ...common,
    kind: 'forms_seen',
    forms: [{ form: 'test-ride', fields: [{ name: 'click_id', hidden: true }], fills: [] }],
  },
  { ...common, kind: 'consent' },
];

/** Every place in a value, as the keys that lead to it. */
const placesIn = (value: unknown): string[][] =>
  typeof value === 'object' && value !== null
    ? Object.entries(value).flatMap(([key, inner]) => [[key], ...placesIn(inner).map((rest) => [key, ...rest])])
    : [];
function withPut(value: object, [key = '', ...rest]: string[], put: unknown): object {
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...value }) as Record<string, unknown>;
  copy[key] = rest.length > 0 ? withPut(copy[key] as object, rest, put) : put;
  return copy;
}

const oddity = fc.oneof(
  fc.anything({ maxDepth: 1 }),
  fc.constantFrom<unknown>(
    null,
    undefined,
    0,
    -1,
    1.5,
    2 ** 60,
    Infinity,
    'not asked',
    'ftp://x',
    'HTTPS://x',
    id.toUpperCase(),
  ),
  fc.integer({ min: 38, max: 4002 }).map((length) => 'x'.repeat(length)),
  // One code point, two UTF-16 units.
  fc.integer({ min: 19, max: 302 }).map((length) => '🚲'.repeat(length)),
  fc.integer({ min: 0, max: 120 }).map((length) => Array.from({ length }, () => 'x')),
);

it('hits of each kind fit without their schema’s own check', () => {
  expect(hits.map(fitsHit)).toEqual([true, true, true, true]);
});

it('nothing fits that the schema would refuse', () => {
  const odd = fc
    .constantFrom(...hits)
    .chain((hit) => fc.tuple(fc.constant(hit), fc.constantFrom(...placesIn(hit), ['more'], ['kept', 'more']), oddity))
    .map(([hit, place, put]) => withPut(hit, place, put));
  fc.assert(
    fc.property(odd, (hit) => {
      if (fitsHit(hit)) expect(hitSchema.safeParse(hit).success).toBe(true);
    }),
    { numRuns: 4000 },
  );
});

it.each([null, 1, 'hit', [], {}, { kind: 'toString' }])('%j is left to the schema', (value) => {
  expect(fitsHit(value)).toBe(false);
});
