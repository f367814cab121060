import { describe, expect, it } from 'vitest';
import { rules } from '../capture/rules.fixture';
import type { Hit } from '../capture/schema';
import { eventEffect, type EventIn, type RecordedHitOn } from './effect';
import { evidenceWords, isQuiet } from '../evidence';
import { movedPage } from './moved';
import { lastingSelector, looksGenerated } from './selector';
import { startersFor } from './starters';
import type { Press } from './press';
import type { EventRule } from './schema';
import { freshCue, freshEvent } from './words';

const day = 86_400_000;
const start = Date.UTC(2027, 1, 1);
let numbered = 0;
const press = (part: Partial<Press>): Press => ({ tag: 'a', id: '', name: '', link: '', text: '', data: [], ...part });
const common = (path: string, visit = 'v1') => ({
  id: `h${(numbered += 1)}`,
  at: start,
  release: 1,
  visitor: 'p1',
  visit,
  address: `http://larkmoor.localhost${path}`,
  referrer: '',
  kept: { works: true, first: null, last: null, clicks: [] },
});
const on = (hit: object, days = 0): RecordedHitOn => ({
  hit: hit as Hit,
  at: start + days * day,
  day: new Date(start + days * day).toISOString().slice(0, 10),
});
const arrived = (path: string, days = 0, visit = 'v1') =>
  on({ ...common(path, visit), kind: 'arrived', navigation: 'navigate', why: 'own_page' }, days);
const pressed = (one: Partial<Press>, days = 0) =>
  on({ ...common('/dealers'), kind: 'pressed', press: press(one) }, days);
const sent = (form: string, leadToken: string) =>
  on({ ...common('/fleet'), kind: 'form_sent', form, leadToken, fields: [], fills: [] });

const event = (part: Partial<EventRule>): EventIn => ({
  rule: { ...freshEvent(), name: 'one', words: 'One', ...part },
  readings: [],
  swaps: [],
});
const days = ['2027-02-01', '2027-02-02'];

describe('the effect of an event', () => {
  it('counts what it would have caught once for its key, by day, against the live version', () => {
    const written = event({ cues: [{ ...freshCue('arrives'), text: '/fleet' }], onceFor: 'visit' });
    const live = event({ cues: [{ ...freshCue('arrives'), text: '/fleet/lease' }], onceFor: 'visit' });
    const hits = [arrived('/fleet'), arrived('/fleet/lease'), arrived('/fleet', 1, 'v2'), arrived('/shop', 1, 'v3')];
    expect(eventEffect({ written, live, hits, days })).toMatchObject({
      written: 2,
      live: 1,
      unknown: 0,
      days: [
        ['2027-02-01', 1, 0],
        ['2027-02-02', 1, 1],
      ],
      newest: [{ page: 'larkmoor.localhost/fleet' }, { page: 'larkmoor.localhost/fleet/lease' }],
    });
  });

  it('names what it just missed, the most often missed first', () => {
    const written = event({ cues: [{ ...freshCue('sends'), text: 'test-ride' }], onceFor: 'lead_token' });
    const hits = ['test-ride', 'test-ride-nl', 'test-ride-nl', 'test-rides', 'basket'].map((form, at) =>
      sent(form, `t${at}`),
    );
    const { written: caught, missed } = eventEffect({ written, live: null, hits, days });
    expect([caught, missed.map(({ cue, count }) => `${cue.text} ${count}`)]).toEqual([
      1,
      ['test-ride-nl 2', 'test-rides 1'],
    ]);
  });

  it('says what recorded presses do not tell, and which cues nothing recorded judges', () => {
    const written = event({
      cues: [{ ...freshCue('presses'), text: '.dealer' }, freshCue('stays')],
      onceFor: 'each_time',
    });
    const hits = [pressed({ data: [['dealer', 'york']] }), pressed({ tag: 'button' })];
    expect(eventEffect({ written, live: null, hits, days })).toMatchObject({
      written: 0,
      unknown: 2,
      unjudged: [{ kind: 'stays' }],
    });
  });
});

describe('a selector that lasts', () => {
  it.each<[Partial<Press>, string]>([
    [{ id: 'take-guide' }, '#take-guide'],
    [{ id: 'input-48213', data: [['dealer', 'york']] }, '[data-dealer="york"]'],
    [{ id: 'r-7f3a9c2e', name: 'ask' }, 'a[name="ask"]'],
    [{ id: ':r1:' }, ''],
    [{ id: '2nd' }, '[id="2nd"]'],
    [{}, ''],
  ])('of %j is %s', (one, selector) => expect(lastingSelector(press(one))).toBe(selector));

  it('looks like a person’s', () => {
    for (const name of ['css-1a2b3c', 'ember482', 'btn_48', 'a1b2c3d4e5'])
      expect(looksGenerated(name), name).toBe(true);
    for (const name of ['book-a-call', 'hero2', 'step-v2-next', 'tab-1'])
      expect(looksGenerated(name), name).toBe(false);
  });
});

describe('events that are offered', () => {
  const presses = [
    { press: press({ link: 'https://dealers.example/york' }), count: 4 },
    { press: press({ link: 'https://dealers.example/cork' }), count: 3 },
    { press: press({ link: 'https://rare.example/' }), count: 1 },
    { press: press({ link: 'http://bellhour.localhost:4314/book' }), count: 6 },
    { press: press({ link: 'http://larkmoor.localhost/shop' }), count: 90 },
    { press: press({ link: 'tel:+44' }), count: 2 },
  ];
  const capture = {
    ...rules,
    forms: [{ name: 'test-ride', words: 'Test ride', counts: 'enquiry' as const }],
    elsewhere: [
      { name: 'Bellhour', host: 'bellhour.localhost', kind: 'calendar', returns: 'thank_you', plain: [] },
    ] as never,
  };

  it('fit what the website does: forms, telephone numbers, hosts that are often followed', () => {
    const offered = startersFor(capture, presses, []);
    expect(
      offered.map(({ rule }) => `${rule.name}: ${rule.cues.map(({ kind, text }) => `${kind} ${text}`).join()}`),
    ).toEqual([
      'enquiry_sent: sends test-ride',
      'call_started: leaves_for tel:',
      'dealers_opened: leaves_for dealers.example',
      'booking_opened: leaves_for bellhour.localhost',
    ]);
  });

  it('are not offered again', () => {
    const [first, ...rest] = startersFor(capture, presses, []).map(({ rule }) => rule);
    const known = [first!, { ...rest[0]!, name: 'rang' }];
    expect(startersFor(capture, presses, known).map(({ rule }) => rule.name)).toEqual([
      'dealers_opened',
      'booking_opened',
    ]);
  });
});

describe('what is known of how an event is counted', () => {
  const now = start + 30 * day;
  const evidence = { lastAt: now - 2 * 3_600_000, firstAt: now - 20 * day, count: 11, liveSince: null };

  it('is said in dated facts', () => {
    expect(evidenceWords(evidence, now)).toBe('last counted 2 h ago');
    const quiet = { ...evidence, lastAt: now - 12 * day };
    expect(evidenceWords(quiet, now)).toBe('none for 12 days, usually every 19 h');
    expect([isQuiet(evidence, now), isQuiet(quiet, now)]).toEqual([false, true]);
    expect(evidenceWords({ ...evidence, count: 0, lastAt: null, liveSince: now - 6 * day }, now)).toBe(
      'none yet, live 6 days',
    );
    expect(evidenceWords({ ...evidence, count: 0, lastAt: null }, now)).toBe('not live');
    expect(isQuiet({ ...quiet, count: 3 }, now)).toBe(false);
  });

  it('names the page that took the place of one that moved', () => {
    const step = (from: string, to: string, count: number) => ({
      from: `l.example${from}`,
      to: `l.example${to}`,
      count,
    });
    const before = [step('/', '/guide/thanks', 1), step('/guide', '/guide/thanks', 20)];
    expect(movedPage(before, [step('/', '/new', 9), step('/guide', '/guide/ready', 4)])).toEqual({
      was: '/guide/thanks',
      now: '/guide/ready',
      from: '/guide',
      count: 4,
    });
    expect(movedPage(before, [step('/shop', '/new', 9)])).toBe(null);
    expect(movedPage([], [step('/guide', '/guide/ready', 4)])).toBe(null);
  });
});
