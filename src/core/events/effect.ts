import { distance } from 'fastest-levenshtein';
import type { SwapTable } from '../capture';
import type { Hit } from '../capture/schema';
import { passes } from './compare';
import { judgeEvent, partOf, type EventJudged, type Moment } from './judge';
import { plainWords } from './press';
import { recordedBy, recordedMoment } from './recorded';
import type { Cue, EventRule, ReadingRule } from './schema';

/** A recorded hit with when it was (ms) and its day in the business's zone. */
export interface RecordedHitOn {
  hit: Hit;
  at: number;
  day: string;
}

/** An event's rule with the readings it may name. */
export interface EventIn {
  rule: EventRule;
  readings: ReadingRule[];
  swaps: SwapTable[];
}

/** One time an event would have gone off. */
export interface Caught {
  hit: string;
  visitor: string;
  at: number;
  page: string;
  reads: { reading: string; value: string | null }[];
}

/** What a cue nearly waits for. */
export interface Missed {
  /** The cue that it nearly met, and what would meet it. */
  cue: Cue;
  count: number;
}

export interface EventEffect {
  /** How often it would have gone off as it is written, and by the live rule; null where none is live. */
  written: number;
  live: number | null;
  /** Moments at which recorded traffic does not say whether it would have. */
  unknown: number;
  /** Cues of it that nothing recorded can say anything of. */
  unjudged: Cue[];
  /** How often each day, and of it what the live rule does not count. */
  days: [day: string, written: number, gained: number][];
  newest: Caught[];
  missed: Missed[];
}

const newestFew = 5;
const mostMissed = 3;

/** Every time a rule would have gone off, once for its key, the newest first. */
function countAll({ rule, readings, swaps }: EventIn, hits: readonly RecordedHitOn[]) {
  const caught = new Map<string, { one: RecordedHitOn; moment: Moment }>();
  let unknown = 0;
  const near = new Map<string, Missed>();
  for (const one of hits) {
    const moment = recordedMoment(one.hit, readings, swaps);
    if (!moment) continue;
    const judged = judgeEvent(rule, moment);
    if (judged.went === null) unknown += 1;
    if (judged.went) caught.set(judged.key!, { one, moment });
    else noteNear(near, rule, judged, moment);
  }
  return { caught, unknown, near };
}

/** Notes what a cue nearly waits for, where nothing else set the event off. */
function noteNear(near: Map<string, Missed>, rule: EventRule, judged: EventJudged, moment: Moment): void {
  if (judged.cues.some(({ holds }) => holds !== false)) return;
  for (const cue of rule.cues) {
    const text = nearlyMet(cue, moment);
    if (text === null || rule.cues.some((other) => other.kind === cue.kind && other.text === text)) continue;
    const key = `${cue.kind} ${text}`;
    const known = near.get(key) ?? { cue: { ...cue, text }, count: 0 };
    near.set(key, { ...known, count: known.count + 1 });
    return;
  }
}

/** What would have met a cue, where it is nearly what it waits for; null where it is not. */
function nearlyMet(cue: Cue, { kind, form = '', press, ...moment }: Moment): string | null {
  const { text } = cue;
  if (text === '') return null;
  if (cue.kind === 'sends' && kind === 'sent') return form !== '' && isLike(form, text) ? form : null;
  if (cue.kind === 'presses_words' && kind === 'pressed' && press)
    return press.text !== '' && isLike(plainWords(press.text), plainWords(text)) ? press.text : null;
  if (
    cue.kind === 'arrives' &&
    kind === 'arrived' &&
    !moment.isAgain &&
    cue.part === 'path' &&
    cue.test !== 'pattern'
  ) {
    const path = partOf(moment, 'path');
    return path !== '/' && isLike(path, text) ? path : null;
  }
  return null;
}

/** Whether an arrival at a path sets a cue off, or nearly does; true where more than the path decides. */
export function mayArrive(cue: Cue, path: string): boolean {
  if (cue.part !== 'path') return true;
  return passes(cue.test, path, cue.text) || (cue.text !== '' && isLike(path, cue.text));
}

/** True for names that a person could take for one another: one within the other, or few letters apart. */
function isLike(one: string, other: string): boolean {
  const [a, b] = [one.toLowerCase(), other.toLowerCase()];
  const shorter = Math.min(a.length, b.length);
  if (shorter < 3) return false;
  if (a.includes(b) || b.includes(a)) return shorter * 2 >= Math.max(a.length, b.length);
  return distance(a, b) <= Math.floor(shorter / 5) + 1;
}

/**
 * What an event as it is written would have counted of recorded hits, against the live rule.
 *
 * @param hits the oldest first, none of staff or bots
 */
export function eventEffect(given: {
  written: EventIn;
  live: EventIn | null;
  hits: RecordedHitOn[];
  /** Every day that was looked at, the first one first. */
  days: string[];
}): EventEffect {
  const { written, live, hits } = given;
  const now = countAll(written, hits);
  const before = live && countAll(live, hits);
  const days = new Map(given.days.map((day): [string, [number, number]] => [day, [0, 0]]));
  for (const [key, { one }] of now.caught) {
    const counts = days.get(one.day);
    if (!counts) continue;
    counts[0] += 1;
    if (before && !before.caught.has(key)) counts[1] += 1;
  }
  const newest = [...now.caught.values()].sort((a, b) => b.one.at - a.one.at).slice(0, newestFew);
  return {
    written: now.caught.size,
    live: before && before.caught.size,
    unknown: now.unknown,
    unjudged: written.rule.cues.filter(({ kind }) => !recordedBy[kind]),
    days: [...days].map(([day, [count, gained]]) => [day, count, gained]),
    newest: newest.map(({ one, moment }) => ({
      hit: one.hit.id,
      visitor: one.hit.visitor,
      at: one.at,
      page: moment.page ? moment.page.host + moment.page.path : '',
      reads: written.rule.reads.map((reading) => ({ reading, value: moment.read(reading) })),
    })),
    missed: [...now.near.values()].sort((a, b) => b.count - a.count).slice(0, mostMissed),
  };
}
