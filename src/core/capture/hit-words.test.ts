import { expect, it } from 'vitest';
import { hitWords } from './hit-words';
import type { Hit } from './schema';

const common = {
  ...{ id: '01a3719f-e000-7000-8000-000000001389', at: 1, release: 1, visitor: '', visit: '', referrer: '' },
  ...{ address: 'http://larkmoor.localhost/fleet?utm_source=letter' },
  kept: { works: true, first: null, last: null, clicks: [] },
};
const say = (hit: object) => hitWords({ ...common, ...hit } as unknown as Hit, (form) => `the form “${form}”`);

it('says what somebody did, with values told from words', () => {
  expect(say({ kind: 'arrived', navigation: 'navigate', why: 'campaign_values' })).toBe(
    'Opened `/fleet`. Starts a touch, because it brings campaign values.',
  );
  expect(say({ kind: 'form_sent', form: 'test-ride' })).toBe('Sent the form “test-ride”.');
  expect(say({ kind: 'ordered', number: 'LK-`1' })).toBe('Ordered, number `LK-ˋ1`.');
  expect(say({ kind: 'pressed', press: { text: '', link: 'tel:01632', tag: 'a' } })).toBe('Pressed `tel:01632`.');
  expect(say({ kind: 'pressed', press: { text: 'Ask', link: '', tag: 'button' } })).toBe('Pressed `Ask`.');
  expect(say({ kind: 'consent' })).toBe('Changed what is agreed to.');
});

it('says what a page showed and told, and why it could not', () => {
  expect(say({ kind: 'forms_seen', forms: [{ form: 'a' }, { form: 'b' }] })).toBe('Shows the form “a”, the form “b”.');
  expect(say({ kind: 'event', event: 'guide_taken' })).toBe('`guide_taken` went off.');
  const handed = { kind: 'handed', account: 'tessaloop', event: 'order_paid' };
  expect(say({ ...handed, how: 'told' })).toBe('Account `tessaloop` was told on the page of `order_paid`.');
  expect(say({ ...handed, how: 'no_opener' })).toContain('no opener was there');
});
