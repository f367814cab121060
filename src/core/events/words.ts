import { readingWords as keptWords } from '../capture/readings';
import type { Reading } from '../capture/schema';
import { placeOfName } from './name-reading';
import { pageReadings, type PageReading } from './readings';
import type { Condition, Cue, EventRule, OnceFor, ReadingRule, Test } from './schema';

const pageWords: Record<PageReading, string> = {
  path: 'the page’s path',
  address: 'the page’s address',
  host: 'the page’s host',
  came_from: 'the page before',
  came_from_host: 'the host before',
  press_text: 'the words on what was pressed',
  press_link: 'where what was pressed leads',
  form: 'the form’s name',
  order_number: 'the order’s number',
};

/** Readings that need no rule, each with what people call it. */
export const usualReadings: readonly (readonly [id: string, words: string])[] = [
  ...pageReadings.map((id) => [id, pageWords[id]] as const),
  ...Object.entries(keptWords).filter(([id]) => id !== 'kept_value'),
];

/** What people call a reading; its ID where none of that name is there. */
export const readingName = (id: string, rules: readonly ReadingRule[] = []): string => {
  const place = placeOfName(id);
  if (place !== null) return `its name at ${place}`;
  return (
    rules.find((one) => one.id === id)?.words ??
    (id in pageWords ? pageWords[id as PageReading] : (keptWords[id as Reading] ?? id))
  );
};

export const isUsual = (id: string): boolean => usualReadings.some(([one]) => one === id);

/** How a test is read between what is held and what against. */
export const testWords: Record<Test, readonly [is: string, isNot: string]> = {
  equals: ['is', 'is not'],
  begins: ['begins with', 'does not begin with'],
  ends: ['ends with', 'does not end with'],
  contains: ['contains', 'does not contain'],
  pattern: ['fits the pattern', 'does not fit the pattern'],
  one_of: ['is one of', 'is none of'],
  at_least: ['is at least', 'is not at least'],
  at_most: ['is at most', 'is not at most'],
  there: ['is there', 'is not there'],
};

export const onceForWords: Record<OnceFor, string> = {
  each_time: 'time it happens',
  lead_token: 'lead token',
  order: 'order',
  reading: 'value of',
  visit: 'visit',
  visitor: 'visitor',
};

/** What an event with this cue usually counts once for. */
export const usualOnceFor = (kind: Cue['kind']): OnceFor =>
  kind === 'sends'
    ? 'lead_token'
    : kind === 'orders'
      ? 'order'
      : kind.startsWith('press') || kind === 'leaves_for'
        ? 'each_time'
        : 'visit';

/** Whether a cue still lacks what it waits for. */
export const lacksText = ({ kind, text }: Cue): boolean =>
  text === '' && !['orders', 'reads_down', 'stays'].includes(kind);

/** What a cue of a kind begins with. */
export const freshCue = (kind: Cue['kind'] = 'arrives'): Cue => ({
  kind,
  part: 'path',
  test: 'begins',
  text: '',
  amount: kind === 'stays' ? 30 : kind === 'reads_down' ? 75 : 1,
});

export const freshCondition = (): Condition => ({ reading: 'path', test: 'begins', not: false, text: '' });

export const freshEvent = (): EventRule => ({
  name: '',
  words: '',
  cues: [freshCue('sends')],
  conditions: [],
  reads: [],
  onceFor: 'lead_token',
  onceReading: '',
});

/** A name for an event at a destination, from its own. */
export const freshWireName = (event: string): string => event.replaceAll('_', '-');
