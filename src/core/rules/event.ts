import { passes } from '../events/compare';
import type { Condition, Cue, CueKind, EventRule, Test } from '../events/schema';
import { onceForKinds, tests } from '../events/kinds';
import {
  freshCondition,
  freshCue,
  freshEvent,
  isUsual,
  lacksText,
  onceForWords,
  usualOnceFor,
  usualReadings,
} from '../events/words';
import { pagePatternProblem } from '../events/pattern';
import { quoteValue } from '../quote-value';
import { conditionPieces } from './condition';
import { cueCell, cuePieces, nameAt } from './cue';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Beside, type Option } from './says';

const { choice, value, words, list, when, each, inGrid } = partsOf<EventRule>();

/** Readings that are email addresses, hashed: they go to destinations alone. */
export const hashedOptions = ({ events }: Beside): Option[] =>
  (events?.readings ?? []).filter(({ as }) => as === 'mail_hash').map(({ id, words: name }): Option => [id, name]);

/** Readings to choose from: the usual ones and the business's own, without those that only go to destinations, hashed. */
export const readingOptions = ({ events }: Beside): Option[] => [
  ...(events?.readings ?? []).filter(({ as }) => as !== 'mail_hash').map(({ id, words: name }): Option => [id, name]),
  ...usualReadings,
];

const condition = conditionPieces(readingOptions);

/** A condition in a cell of the grid: `last_source equals letter`, `path not begins /nl`. */
const conditionCell = {
  heading: 'And only if',
  write: ({ reading, test, not, text }: Condition): string =>
    `${reading} ${not ? 'not ' : ''}${test.replaceAll('_', ' ')} ${text}`.trim(),
  read(cell: string): Condition {
    const [, reading = '', not, rest = ''] = /^(\S+) (not )?(.*)$/s.exec(cell) ?? [];
    const [test, text] = nameAt(rest, tests) ?? [rest as Test, ''];
    return { reading, test, not: not !== undefined, text };
  },
};

/** Something on the website that counts: what sets it off, under which conditions, and once for what. */
export const event = defineRule<EventRule>({
  station: 'Events',
  at: inList(['events', 'events'], ({ name }) => name),
  calls: (name) => `the event ${quoteValue(name)}`,
  says: [
    'When someone ',
    each<Cue>(
      {
        key: 'cues',
        read: ({ cues }) => cues,
        write: (rule, cues: Cue[]) => {
          const usual = rule.cues[0] && usualOnceFor(rule.cues[0].kind);
          // What it counts once for goes along with its first cue, as long as nobody chose otherwise.
          const onceFor = rule.onceFor === usual && cues[0] ? usualOnceFor(cues[0].kind) : rule.onceFor;
          return { ...rule, cues, onceFor };
        },
      },
      'cue',
      cuePieces,
      { before: '', between: ' or ', add: 'or …', fresh: () => freshCue(), least: 1, most: 8, cell: cueCell },
    ),
    each<Condition>('conditions', 'condition', condition, {
      before: ', and only if ',
      between: ' and ',
      add: 'and only if …',
      fresh: freshCondition,
      least: 0,
      most: 12,
      cell: conditionCell,
    }),
    ', call it ',
    value('name', 'Name of the event', 'a name', { isName: true, tidy: (text) => text.trim().toLowerCase() }),
    ', in words ',
    words('words', 'What people call it', 'some words'),
    ', and count it once for each ',
    choice(
      'onceFor',
      'Counted once for each',
      onceForKinds.map((one) => [one, onceForWords[one]]),
    ),
    when(
      ({ onceFor }) => onceFor === 'reading',
      ' ',
      choice('onceReading', 'Reading that it counts once for', (beside, rule) => [
        ...(rule?.onceReading ? [] : [['', 'a reading'] as const]),
        ...readingOptions(beside),
      ]),
    ),
    '.',
    inGrid(list('reads', 'What it takes along', 'nothing', { heading: 'Takes along', oneWord: true })),
  ],
  start: freshEvent,
  refs: ({ conditions, reads, onceFor, onceReading }) =>
    [
      ...new Set([
        ...conditions.map(({ reading }) => reading),
        ...reads,
        ...(onceFor === 'reading' ? [onceReading] : []),
      ]),
    ]
      .filter((id) => id !== '' && !isUsual(id))
      .map((id) => ({ kind: 'reading', id })),
  detailsOfNew: true,
  details: (before, after) =>
    String(before.reads) === String(after.reads)
      ? []
      : [`It takes along ${after.reads.map((id) => quoteValue(id)).join(', ') || 'nothing'}.`],
  check({ cues, conditions, reads, onceFor, onceReading }, { events }) {
    const found: RuleProblem[] = [];
    const used = [
      ...conditions.map(({ reading }) => ({ field: 'conditions', id: reading })),
      ...reads.map((id) => ({ field: 'reads', id })),
      ...(onceFor === 'reading' ? [{ field: 'onceReading', id: onceReading }] : []),
    ];
    for (const { field, id } of used)
      if (events.readings.some((one) => one.id === id && one.as === 'mail_hash'))
        found.push({
          field,
          was: `${quoteValue(id)} is read only for destinations that take email addresses hashed`,
          fix: 'Take it out here, and send it along where the event is told.',
        });
    for (const one of cues) {
      const { kind, test, text } = one;
      if (lacksText(one))
        found.push({
          field: 'cues',
          was: `${missing[kind] ?? 'what it waits for'} is missing`,
          fix: 'Choose or type it.',
        });
      const problem = kind === 'arrives' && test === 'pattern' ? pagePatternProblem(text) : '';
      if (problem) found.push({ field: 'cues', was: problem, fix: 'Write a simpler pattern.' });
    }
    for (const { test, text } of conditions) {
      if (text === '' && test !== 'there')
        found.push({
          field: 'conditions',
          was: 'a condition has nothing to compare with',
          fix: 'Type a value, or choose “is there”.',
        });
      const problem = test === 'pattern' ? pagePatternProblem(text) : '';
      if (problem) found.push({ field: 'conditions', was: problem, fix: 'Write a simpler pattern.' });
      if ((test === 'at_least' || test === 'at_most') && text !== '' && !passes('at_least', text, text))
        found.push({ field: 'conditions', was: `${quoteValue(text)} is no number`, fix: 'Type a number.' });
    }
    const without = (cueKind: CueKind) => cues.some(({ kind }) => kind !== cueKind);
    if (onceFor === 'lead_token' && without('sends'))
      found.push({
        field: 'onceFor',
        was: 'only a form that is sent has a lead token',
        fix: 'Count it once for something else, or let only forms set it off.',
      });
    if (onceFor === 'order' && without('orders'))
      found.push({
        field: 'onceFor',
        was: 'only an order has an order number',
        fix: 'Count it once for something else, or let only orders set it off.',
      });
    if (onceFor === 'reading' && onceReading === '')
      found.push({
        field: 'onceReading',
        was: 'the reading is missing',
        fix: 'Choose the reading it counts once for.',
      });
    return found;
  },
});

const missing: Partial<Record<CueKind, string>> = {
  arrives: 'the address',
  sends: 'the form’s name',
  presses: 'the selector',
  presses_words: 'the words on it',
  leaves_for: 'where the link leads',
  reads_to: 'the selector',
  says: 'what the page says',
};
