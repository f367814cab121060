import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cleanHit, mayHoldPii } from './clean-hit';
import { rules, start } from './rules.fixture';
import type { ArrivedHit, Hit, Touch } from './schema';

const touch = (more: Partial<Touch>): Touch => ({
  at: start,
  source: '',
  medium: '',
  campaign: '',
  content: '',
  term: '',
  utmId: '',
  referrer: '',
  landing: '',
  platform: '',
  clickId: '',
  ...more,
});
const hit = (more: Partial<ArrivedHit> = {}): ArrivedHit => ({
  id: '01978b50-0000-7000-8000-000000000001',
  at: start,
  release: 1,
  kind: 'arrived',
  visitor: '01978b50-0000-4000-8000-000000000001',
  visit: '01978b50-0000-4000-8000-000000000002',
  address: 'http://larkmoor.localhost/fleet',
  referrer: '',
  navigation: 'navigate',
  why: 'no_referrer',
  kept: { works: true, first: null, last: null, clicks: [] },
  ...more,
});

describe('a hit that a page did not clean', () => {
  it('loses what says who somebody is in both addresses and in what it keeps, and says where', () => {
    const sent = hit({
      address: 'http://larkmoor.localhost/fleet?email=anna%40b.example&qsid=QsAb12',
      referrer: 'http://mail.example/inbox/anna@b.example',
      kept: {
        works: true,
        clicks: [],
        first: touch({ campaign: 'anna@b.example', landing: 'larkmoor.localhost/hello/anna@b.example' }),
        last: touch({ source: 'letter', referrer: 'mail.example/' }),
        values: [
          { name: 'lark_van', value: 'anna@b.example', at: start },
          { name: 'lark_partner', value: 'BW-1', at: start },
        ],
      },
      pii: [{ place: 'path', name: '', kind: 'mail' }],
    });
    const cleaned = cleanHit(sent, rules) as ArrivedHit;
    expect(JSON.stringify(cleaned)).not.toContain('anna');
    expect(cleaned.kept.values).toEqual([{ name: 'lark_partner', value: 'BW-1', at: start }]);
    expect(cleaned).toMatchObject({
      address: 'http://larkmoor.localhost/fleet?email=&qsid=QsAb12',
      referrer: 'http://mail.example/inbox/removed',
      kept: { first: { campaign: '', landing: 'larkmoor.localhost/hello/removed' }, last: sent.kept.last },
    });
    expect(cleaned.pii).toEqual([
      { place: 'path', name: '', kind: 'mail' },
      { place: 'query', name: 'email', kind: 'mail' },
      { place: 'path', name: '', kind: 'mail' },
    ]);
  });

  it('leaves no address as the key of an event', () => {
    const key = { ...hit(), event: 'asked', key: 'anna@bakery.example' };
    const event = { ...key, kind: 'event', cue: 0, reads: [{ reading: 'who', value: 'anna@bakery.example' }] };
    expect(mayHoldPii(event as Hit, rules)).toBe(true);
    expect(cleanHit(event as Hit, rules)).toMatchObject({ key: 'removed', reads: [{ value: '' }] });
    const handed = { ...key, kind: 'handed', account: 'tessaloop', how: 'told' };
    expect(mayHoldPii(handed as Hit, rules)).toBe(true);
    expect(cleanHit(handed as Hit, rules)).toMatchObject({ key: 'removed' });
  });

  it('is told from almost all others without looking at each value', () => {
    expect(mayHoldPii(hit(), rules)).toBe(false);
    expect(mayHoldPii(hit({ address: 'http://larkmoor.localhost/?Phone=12' }), rules)).toBe(true);
    const pieces = [
      ...'ab@.%2504&=?#/+ -()'.split(''),
      'tel:',
      'phone=',
      'email=',
      '020',
      '7946',
      '212',
      '555',
      '1234567',
    ];
    const rest = fc.string({ unit: fc.constantFrom(...pieces), maxLength: 40 });
    fc.assert(
      fc.property(rest, rest, (text, value) => {
        const kept = {
          works: true,
          clicks: [],
          first: touch({ source: value, landing: `l.example/${value}` }),
          last: null,
          values: [{ name: 'phone', value, at: start }],
        };
        const sent = hit({ address: `http://larkmoor.localhost/${text}`, kept });
        if (!mayHoldPii(sent, rules)) expect(cleanHit(sent, rules)).toEqual(sent);
      }),
      { numRuns: 5000 },
    );
  });
});
