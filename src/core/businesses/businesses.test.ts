import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { releaseContentSchema } from '../releases/schema';
import { firstContent } from './first-content';
import { businessKey } from './key';
import { hostOfWebsite, newBusinessSchema } from './schema';

describe('a website as somebody writes it', () => {
  it.each([
    ['https://www.bakery.example/bread?x=1', 'www.bakery.example'],
    ['bakery.example', 'bakery.example'],
    ['  Bakery.Example/about ', 'bakery.example'],
    ['http://bakery.example:8080', 'bakery.example'],
    ['bakery.example:8080/shop', 'bakery.example'],
    ['bäckerei.example', 'xn--bckerei-5wa.example'],
    ['bakery.example.', 'bakery.example'],
  ])('%s is %s', (written, host) => expect(hostOfWebsite(written)).toBe(host));

  it.each([
    '',
    'bakery',
    'localhost',
    '192.168.0.1',
    'ftp://bakery.example',
    'mail@bakery.example',
    'a b.example',
    '//',
  ])('“%s” is none', (written) => expect(hostOfWebsite(written)).toBe(''));

  it('whatever is written: a host or nothing, never an error', () => {
    fc.assert(
      fc.property(fc.string(), (written) => {
        expect(hostOfWebsite(written)).toMatch(/^$|^[a-z0-9.-]+$/);
      }),
    );
  });
});

describe('the key of a business', () => {
  it('is its name in plain letters', () => {
    expect(businessKey('Zoë’s Bröd & Söhne', new Set())).toBe('zoe-s-brod-sohne');
    expect(businessKey('面包店', new Set())).toBe('business');
    expect(businessKey('X', new Set())).toBe('business-x');
  });

  it('is never one that is taken, and always one that addresses take', () => {
    fc.assert(
      fc.property(fc.string(), fc.integer({ min: 0, max: 4 }), (name, before) => {
        const taken = new Set<string>();
        for (let n = 0; n <= before; n++) {
          const key = businessKey(name, taken);
          expect(taken.has(key)).toBe(false);
          expect(key).toMatch(/^[a-z0-9][a-z0-9-]{1,38}$/);
          taken.add(key);
        }
      }),
    );
  });
});

it('a business begins with rules that a release can hold: its own pages, and nothing that is not its own', () => {
  const content = releaseContentSchema.parse(firstContent(['bakery.example']));
  expect(content.capture.touch.ownHosts).toEqual(['bakery.example']);
  expect([content.crm, content.outcomes, content.telling, content.qualified]).toEqual([null, [], [], {}]);
});

it('what is wrong with a new business is said of the field', () => {
  const { error } = newBusinessSchema.safeParse({
    name: ' ',
    website: 'bakery',
    timeZone: 'Mars/Base',
    currency: 'gbp',
  });
  expect(error!.issues.map(({ path }) => path[0])).toEqual(['name', 'website', 'timeZone', 'currency']);
});
