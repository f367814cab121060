import { eventEffect, type RecordedHitOn } from '../src/core/events/effect';
import { judgeEvent, type Moment } from '../src/core/events/judge';
import { passes } from '../src/core/events/compare';
import { leadsTo, plainWords, type Press } from '../src/core/events/press';
import { splitAddress } from '../src/core/capture';
import type { Hit } from '../src/core/capture/schema';
import type { Cue, EventRule } from '../src/core/events/schema';
import { freshCue, freshEvent } from '../src/core/events/words';
import { compareRates, tell } from './lib/measure';

const pages = ['/', '/fleet', '/fleet/call-back', '/shop', '/shop/box', '/care', '/dealers', '/guide', '/guide/ready'];
const cue = (kind: Cue['kind'], text: string): Cue => ({ ...freshCue(kind), text });
/** Thirty events, as a business of some size has them: ten arrivals, ten presses, ten forms, each with conditions. */
const rules: EventRule[] = Array.from({ length: 30 }, (_, n) => ({
  ...freshEvent(),
  name: `event_${n}`,
  cues:
    n < 10
      ? [cue('arrives', pages[n % 9]!), cue('arrives', `/other/${n}`)]
      : n < 20
        ? [cue('leaves_for', `place-${n}.example`), cue('presses_words', 'Book a call')]
        : [cue('sends', n % 2 ? 'test-ride' : 'call-back')],
  conditions: [
    { reading: 'path', test: 'begins', not: false, text: '/' },
    { reading: 'source', test: n % 3 ? 'equals' : 'contains', not: n % 5 === 0, text: 'quillsearch' },
  ],
  onceFor: 'visit',
}));
const press: Press = {
  tag: 'a',
  id: '',
  name: '',
  link: 'http://place-12.example/book',
  text: 'Book a call',
  data: [],
};
const moments: Moment[] = Array.from({ length: 300 }, (_, n) => {
  const address = `http://larkmoor.localhost${pages[n % 9]}?utm_source=quillsearch&n=${n}`;
  const page = splitAddress(address);
  const read = (id: string) => (id === 'path' ? (page?.path ?? '') : n % 2 ? 'quillsearch' : 'letter');
  const more = [{ kind: 'arrived' }, { kind: 'pressed', press }, { kind: 'sent', form: 'test-ride' }] as const;
  return { ...more[n % 3]!, address, page, read, ids: { hit: 'h', visit: `v${n}`, visitor: 'p' } };
});

/** The same comparisons, without saying why. */
function goesOff(rule: EventRule, moment: Moment): boolean {
  const isSet = rule.cues.some(({ kind, text, test }) => {
    if (kind === 'arrives') return moment.kind === 'arrived' && passes(test, moment.page?.path ?? '', text);
    if (kind === 'leaves_for') return moment.kind === 'pressed' && leadsTo(moment.press!.link, text);
    if (kind === 'presses_words')
      return moment.kind === 'pressed' && plainWords(moment.press!.text) === plainWords(text);
    return moment.kind === 'sent' && moment.form === text;
  });
  return (
    isSet &&
    rule.conditions.every(({ reading, test, not, text }) => passes(test, moment.read(reading) ?? '', text) !== not)
  );
}

const turns = 60;
const rateOf = (went: (rule: EventRule, moment: Moment) => boolean) => () => {
  const began = performance.now();
  let count = 0;
  for (let turn = 0; turn < turns; turn++)
    for (const moment of moments) for (const rule of rules) if (went(rule, moment)) count += 1;
  if (count === 0) throw new Error('nothing went off');
  return Promise.resolve((turns * moments.length * rules.length * 1000) / (performance.now() - began));
};
const engine = await compareRates(
  'events judged with their reasons',
  0.5,
  'evaluations',
  rateOf(goesOff),
  rateOf((rule, moment) => judgeEvent(rule, moment).went === true),
);

/* What an event as it is written would have caught: 60,000 visits' arrivals, the hits already read. */
const day = 86_400_000;
const start = Date.UTC(2027, 0, 18);
const hits: RecordedHitOn[] = Array.from({ length: 60_000 }, (_, n) => {
  const at = start + Math.floor((n / 60_000) * 28 * day);
  const id = `0198c0de-0000-7000-8000-${String(n).padStart(12, '0')}`;
  const hit = {
    ...{ id, at, release: 1, visitor: id, visit: id, referrer: '', kind: 'arrived', navigation: 'navigate' },
    ...{ address: `http://larkmoor.localhost${pages[n % 9]}?n=${n}`, why: 'no_referrer' },
    kept: { works: true, first: null, last: null, clicks: [] },
  } as unknown as Hit;
  return { hit, at, day: new Date(at).toISOString().slice(0, 10) };
});
const days = Array.from({ length: 28 }, (_, n) => new Date(start + n * day).toISOString().slice(0, 10));
const written = {
  rule: { ...freshEvent(), name: 'fleet_read', cues: [cue('arrives', '/fleet')], onceFor: 'visit' as const },
  readings: [],
  swaps: [],
};
const times = Array.from({ length: 7 }, () => {
  const began = performance.now();
  eventEffect({ written, live: written, hits, days });
  return performance.now() - began;
}).sort((a, b) => a - b);
console.log(`effect of an event over the arrivals of 60,000 visits: ${times[3]!.toFixed(0)} ms`);
tell([engine]);
