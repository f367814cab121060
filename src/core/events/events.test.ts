import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { splitAddress } from '../capture';
import { eventReasonWords } from '../reasons/event-words';
import { eventIdOf } from './event-id';
import { momentArbitrary, readingArbitrary, ruleArbitrary } from './events.fixture';
import { judgeCue, judgeEvent, partOf, type Moment } from './judge';
import { momentFrom } from './moment.fixture';
import { readNumber } from './numbers';
import { pagePatternProblem } from './pattern';
import { leadsTo, meetsSelector, type Press } from './press';
import { freshCue, freshEvent, readingName } from './words';

const address = 'http://larkmoor.localhost:4310/fleet/call-back?bikes=12#top';
const moment = (part: Partial<Moment>): Moment => ({
  kind: 'arrived',
  address,
  page: splitAddress(address),
  read: () => '',
  ids: { hit: 'h1', visit: 'v1', visitor: 'p1' },
  ...part,
});
const press: Press = {
  tag: 'a',
  id: 'book',
  name: '',
  link: 'https://calendar.bellhour.localhost/larkmoor',
  text: 'Book a call',
  data: [['dealer', 'york']],
};

describe('a number in a text', () => {
  it.each([
    ['£1,249.50', 1249.5],
    ['1.249,50 €', 1249.5],
    ['1 249,50 kr', 1249.5],
    ['12 bikes', 12],
    ['1,250', 1250],
    ['1.250', 1250],
    ['0.125', 0.125],
    ['0,125', 0.125],
    ['12,5', 12.5],
    ['1.250.000', 1_250_000],
    ["CHF 1'250.75", 1250.75],
    ['-3', -3],
    ['12.', 12],
    ['about', null],
    ['', null],
  ])('%s is %s', (text, number) => expect(readNumber(text)).toBe(number));

  it('that is written with either mark is read back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 99_999_999 }), fc.constantFrom('en-GB', 'de-DE'), (minor, language) => {
        const written = (minor / 100).toLocaleString(language, { minimumFractionDigits: 2 });
        expect(readNumber(written)).toBe(minor / 100);
      }),
    );
  });
});

describe('a selector held against a recorded press', () => {
  it.each<[string, boolean | null]>([
    ['a', true],
    ['button', false],
    ['#book', true],
    ['a#book[data-dealer]', true],
    ['[data-dealer="york"]', true],
    ["[data-dealer^='yo']", true],
    ['[data-dealer=leeds]', false],
    ['[data-other]', false],
    ['.fancy', null],
    ['a.fancy', null],
    ['button.fancy', false],
    ['nav a', null],
    ['[href]', null],
    ['.fancy, #book', true],
    ['.fancy, #other', null],
    ['', false],
  ])('%s: %s', (selector, meets) => expect(meetsSelector(press, selector)).toBe(meets));

  it('leads to where it begins, with or without its scheme', () => {
    expect(leadsTo(press.link, 'calendar.bellhour.localhost')).toBe(true);
    expect(leadsTo(press.link, 'https://calendar.bellhour.localhost/lark')).toBe(true);
    expect(leadsTo(press.link, 'bellhour.localhost')).toBe(false);
    expect(leadsTo('tel:+442079460018', 'tel:')).toBe(true);
    expect(leadsTo('', 'tel:')).toBe(false);
    expect(leadsTo(press.link, '')).toBe(false);
  });
});

describe('a cue', () => {
  it('looks at the part of an address that it names', () => {
    const at = moment({});
    expect(partOf(at, 'path')).toBe('/fleet/call-back');
    expect(partOf(at, 'query')).toBe('bikes=12');
    expect(partOf(at, 'address')).toBe('http://larkmoor.localhost:4310/fleet/call-back?bikes=12');
  });

  it('waits for its own moment, and for no page that is told again', () => {
    const arrives = { ...freshCue('arrives'), text: '/fleet' };
    expect(judgeCue(arrives, moment({}))).toMatchObject({ holds: true });
    expect(judgeCue(arrives, moment({ isAgain: true }))).toEqual({ holds: false, because: { code: 'told_again' } });
    expect(judgeCue(arrives, moment({ kind: 'stayed' })).because.code).toBe('other_moment');
  });

  it('says why it holds, or not', () => {
    const words = (cue: Parameters<typeof judgeCue>[0], at: Partial<Moment>) =>
      eventReasonWords(judgeCue(cue, moment(at)).because);
    expect(words({ ...freshCue('sends'), text: 'test-ride' }, { kind: 'sent', form: 'call-back' })).toBe(
      'the form is `call-back`, wanted is `test-ride`',
    );
    expect(words({ ...freshCue('stays'), amount: 60 }, { kind: 'stayed', amount: 30 })).toBe(
      'it came to 30, wanted is 60',
    );
    expect(words({ ...freshCue('presses_words'), text: 'book a call' }, { kind: 'pressed', press })).toBe(
      '`Book a call` is held against “is `book a call`”',
    );
    expect(words({ ...freshCue('presses'), text: '.fancy' }, { kind: 'pressed', press, meets: () => null })).toBe(
      '`.fancy` was not recorded',
    );
  });
});

describe('an event', () => {
  const enquiry = { ...freshEvent(), name: 'enquiry_sent', cues: [{ ...freshCue('sends'), text: 'test-ride' }] };

  it('goes off by any of its cues where all its conditions hold, once for its key', () => {
    const rule = {
      ...enquiry,
      cues: [...enquiry.cues, { ...freshCue('sends'), text: 'call-back' }],
      conditions: [
        { reading: 'bikes', test: 'at_least' as const, not: false, text: '5' },
        { reading: 'path', test: 'begins' as const, not: true, text: '/office' },
      ],
    };
    const sent = (bikes: string, path: string, leadToken = 't1') =>
      judgeEvent(
        rule,
        moment({ kind: 'sent', form: 'call-back', leadToken, read: (id) => (id === 'bikes' ? bikes : path) }),
      );
    expect(sent('12', '/fleet')).toMatchObject({ went: true, key: 't1' });
    expect(sent('12', '/fleet').cues.map(({ holds }) => holds)).toEqual([false, true]);
    expect(sent('4', '/fleet').went).toBe(false);
    expect(sent('12', '/office').went).toBe(false);
    expect(sent('12', '/fleet', '').went).toBe(false);
  });

  it('is not judged where what it needs was not recorded, unless something else decides it', () => {
    const rule = {
      ...enquiry,
      conditions: [
        { reading: 'cookie', test: 'there' as const, not: false, text: '' },
        { reading: 'path', test: 'begins' as const, not: false, text: '/fleet' },
      ],
    };
    const sent = (path: string, form = 'test-ride') =>
      judgeEvent(rule, moment({ kind: 'sent', form, leadToken: 't', read: (id) => (id === 'cookie' ? null : path) }));
    expect(sent('/fleet').went).toBe(null);
    expect(sent('/shop').went).toBe(false);
    expect(sent('/fleet', 'other').went).toBe(false);
  });

  it('has an ID made of its key, whatever page tells it', () => {
    expect(eventIdOf('order_paid', '1042')).toBe('order_paid.1042');
    const long = 'x'.repeat(70);
    expect(eventIdOf('a', `${long}1`)).not.toBe(eventIdOf('a', `${long}2`));
    expect(eventIdOf('a', `${long}1`).length).toBeLessThanOrEqual(105);
  });

  it('is judged without an error, with every reading said in words', () => {
    fc.assert(
      fc.property(ruleArbitrary, readingArbitrary, momentArbitrary, (rule, readings, data) => {
        const judged = judgeEvent(rule, momentFrom(data, readings));
        for (const { because } of [...judged.cues, ...judged.conditions])
          expect(eventReasonWords(because, (id) => readingName(id, readings))).not.toBe('');
        if (judged.went) {
          expect(judged.cues.some(({ holds }) => holds)).toBe(true);
          expect(judged.conditions.every(({ holds }) => holds)).toBe(true);
          expect(judged.key).not.toBe('');
        }
      }),
    );
  });
});

describe('a pattern for pages', () => {
  it.each([
    ['^/fleet(/|$)', ''],
    ['[*+]{2}', ''],
    ['(a+)+$', 'repeat'],
    ['^.*.*.*x', ''],
    ['.*.*.*x', '3 endless repeats'],
    ['^.*.*.*.*x', 'have at most 3'],
    ['(?<=a)b', 'no pattern'],
    ['(?i)a', 'browsers do not take it'],
    ['(', 'no pattern'],
  ])('%s: %s', (pattern, problem) => {
    if (problem === '') expect(pagePatternProblem(pattern)).toBe('');
    else expect(pagePatternProblem(pattern)).toContain(problem);
  });
});
