import { describe, expect, it } from 'vitest';
import { generate } from './journeys';
import { sizes } from './sizes';

const end = Date.UTC(2027, 1, 15, 17);
const make = (seed?: number) => generate(sizes.small, end, 'http://quillsearch.localhost', seed);

describe('the demo’s events', () => {
  const events = make();

  it('are the same for the same seed, others for another', () => {
    expect(make()).toEqual(events);
    expect(make(7)).not.toEqual(events);
  });

  it('stand in the order of time, in whole milliseconds, over thirteen months, none after the end', () => {
    expect(events.every((event, i) => i === 0 || event.at >= events[i - 1]!.at)).toBe(true);
    expect(events.every((event) => Number.isInteger(event.at) && event.at < end)).toBe(true);
    expect(end - events[0]!.at).toBeGreaterThan(380 * 86_400_000);
  });

  it('hold both forms, calls, clicks that never land, and a partner’s own spellings', () => {
    const kinds = new Set(events.map((event) => event.kind));
    expect([...kinds].sort()).toEqual([
      'calls',
      'click',
      'fetches',
      'form',
      'merge',
      'order',
      'page',
      'partner_click',
      'press',
      'rings',
      'sends_there',
      'stage',
      'starts_routines',
      'values',
      'writes_back',
    ]);
    expect(events.some((event) => event.kind === 'click' && !event.lands)).toBe(true);
    const queries = events.flatMap((event) => (event.kind === 'page' ? [event.query] : [])).join();
    expect(queries).toContain('Paid_Social');
    expect(events.some((event) => event.kind === 'click' && event.strips)).toBe(true);
    expect(queries).toMatch(/email=reader\d+%40bakery\.example/);
    expect(queries).toContain('utm_medium=banner');
    expect(queries).toContain('~ad-name~');
    const short = events.flatMap((event) => (event.kind === 'page' && event.short ? [event.path] : []));
    expect(new Set(short)).toEqual(new Set(['/go/cargo-fair', '/go/bakery']));
    const forms = events.flatMap((event) => (event.kind === 'form' ? [event.form] : []));
    expect(new Set(forms)).toEqual(new Set(['test-ride', 'call-back']));
  });

  it('are about 60,000 visits at the size demo', () => {
    const visits = generate(sizes.demo, end, 'http://quillsearch.localhost').filter(
      (event) => event.kind === 'click' || (event.kind === 'page' && event.referrer !== 'own'),
    );
    expect(visits.length).toBeGreaterThan(55_000);
    expect(visits.length).toBeLessThan(65_000);
  });

  it('hold nothing that goes wrong where the size is clean', () => {
    const clean = generate(sizes.clean, end, 'http://quillsearch.localhost');
    expect(clean.every((event) => event.kind !== 'click' || (event.lands && event.works && !event.strips))).toBe(true);
    expect(clean.every((event) => event.kind !== 'page' || event.works)).toBe(true);
    const queries = clean.flatMap((event) => (event.kind === 'page' ? [decodeURIComponent(event.query)] : [])).join();
    expect(queries).not.toMatch(/Paid_Social|paid social|PaidSocial|qsid|email=|banner|~/);
    expect(queries).toContain('paid-social');
  });

  it('use invented people at .example only, each mail address once but for what sales wrote down twice', () => {
    const mails = events.flatMap((event) =>
      event.kind === 'form' || event.kind === 'rings' ? [event.person.mail] : [],
    );
    expect(mails.every((mail) => mail.endsWith('.example'))).toBe(true);
    const twice = mails.filter((mail, i) => mails.indexOf(mail) < i);
    expect(twice).toEqual(['info@marram-yard.example', 'rhys@fennick-florist.example']);
  });
});
