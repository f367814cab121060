import { describe, expect, it } from 'vitest';
import { fillRule } from './rules.fixture';
import {
  clickIdSentence,
  consentSentence,
  fillSentence,
  followedFormSentence,
  keepSentence,
  piiSentence,
  readingWords,
  visitSentence,
} from './sentences';
import { readingSchema } from './schema';

describe('a rule reads as a sentence', () => {
  it.each([
    [
      keepSentence({ touchDays: 90, touchAge: 'renewed', utmLowerCase: true, setBy: 'page' }),
      'The first and the last touch are kept 90 days, counted anew from each visit; UTM values are kept in small letters. Cookies are set by the page.',
    ],
    [
      keepSentence({ touchDays: 1, touchAge: 'fixed', utmLowerCase: false, setBy: 'server' }),
      'The first and the last touch are kept 1 day, counted from the touch itself; UTM values are kept as they arrive. Cookies are set by the website’s own subdomain.',
    ],
    [
      clickIdSentence({
        platform: 'quillsearch',
        parameter: 'qsid',
        days: 90,
        source: 'quillsearch',
        medium: 'paid-search',
      }),
      'The click ID of Quillsearch comes as `qsid` and is kept 90 days from its click; without tags it says source `quillsearch` and medium `paid-search`.',
    ],
    [
      clickIdSentence({ platform: 'tessaloop', parameter: 'tsl', days: 21, source: 'tessaloop', medium: '' }),
      'The click ID of Tessaloop comes as `tsl` and is kept 21 days from its click; without tags it says source `tessaloop`.',
    ],
    [
      clickIdSentence({ platform: 'tessaloop', parameter: 'tsl', days: 21, source: '', medium: '' }),
      'The click ID of Tessaloop comes as `tsl` and is kept 21 days from its click.',
    ],
    [
      visitSentence({ visitMinutes: 30, ownHosts: ['larkmoor.localhost'], passThroughHosts: [] }),
      'A visit ends after 30 idle minutes. `larkmoor.localhost` is never a source.',
    ],
    [
      visitSentence({ visitMinutes: 45, ownHosts: ['a.example', 'b.example'], passThroughHosts: ['pay.example'] }),
      'A visit ends after 45 idle minutes. `a.example`, `b.example` are never a source, nor is `pay.example`.',
    ],
    [
      consentSentence({ required: true, count: false }),
      'Nothing is kept and nothing leaves a page before somebody agreed to measurement; “no” clears what is kept. Who did not agree is not counted.',
    ],
    [
      consentSentence({ required: false, count: false }),
      'Pages keep and send without being asked for consent; “no” clears what is kept.',
    ],
    [piiSentence({ names: [] }), 'Mail addresses and telephone numbers are taken out of every address.'],
    [
      piiSentence({ names: ['email', 'phone'] }),
      'Mail addresses and telephone numbers are taken out of every address, and whatever stands under `email`, `phone`.',
    ],
    [
      followedFormSentence({ name: 'test-ride', words: 'Ask for a test ride' }),
      'Each sending of the form `test-ride` is an enquiry, called “Ask for a test ride”.',
    ],
  ])('%s', (sentence, wanted) => expect(sentence).toBe(wanted));

  it.each([
    [{}, 'The field `ref` of every form gets the click ID.'],
    [{ find: 'id' }, 'The field with the ID `ref` of every form gets the click ID.'],
    [{ find: 'label' }, 'The field labelled `ref` of every form gets the click ID.'],
    [{ find: 'selector', field: '.ref' }, 'The field at `.ref` of every form gets the click ID.'],
    [{ forms: ['a'] }, 'The field `ref` of the form `a` gets the click ID.'],
    [
      { forms: ['a', 'b'], platform: 'quillsearch' },
      'The field `ref` of the forms `a`, `b` gets the click ID of Quillsearch.',
    ],
    [
      { pages: ['/fleet'], when: 'empty', otherwise: 'none', reading: 'last_campaign', platform: 'quillsearch' },
      'The field `ref` of every form on pages that begin with `/fleet` gets the campaign, only when it is empty, else `none`.',
    ],
  ] as const)('with %o', (rule, wanted) => {
    expect(fillSentence(fillRule({ id: 'r', field: 'ref', reading: 'click_id', ...(rule as object) }))).toBe(wanted);
  });

  it('has a word for every reading', () => {
    expect(Object.keys(readingWords).sort()).toEqual([...readingSchema.options].sort());
  });
});
