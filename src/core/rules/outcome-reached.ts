import { tests, textTests, type Test } from '../events/kinds';
import { pagePatternProblem } from '../events/pattern';
import type { Condition } from '../events/schema';
import { nameReading, placeOfName } from '../events/name-reading';
import { readingName, testWords } from '../events/words';
import { listed } from '../listed';
import type { CountedOnceFor, OutcomeRule, ReachedBy } from '../outcomes/schema';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import { conditionPieces } from './condition';
import type { RuleProblem } from './define';
import { partsOf, type Beside, type Option, type Piece, type Within } from './says';

/* What reaches an outcome: the beginning of its sentence, and what is wrong with it. */

const { choice, value, when, each } = partsOf<OutcomeRule>();
const tidy = (text: string) => text.trim();

export const once: Record<CountedOnceFor, string> = {
  enquiry: 'enquiry',
  deal: 'deal',
  lead: 'lead',
  order: 'order',
  subscription: 'subscription',
  payment: 'payment',
  click: 'click',
  visitor: 'browser',
  conversion: 'time it happens',
};
/** What each way of reaching an outcome can be counted once for; a new one begins with the first. */
export const onceFor: Record<ReachedBy['kind'], readonly CountedOnceFor[]> = {
  stage: ['enquiry', 'deal', 'lead'],
  field: ['enquiry', 'deal', 'lead'],
  order: ['order', 'click'],
  postback: ['order', 'subscription', 'payment'],
  event: ['click', 'visitor', 'conversion'],
  page: ['click', 'visitor', 'conversion'],
  file: ['order', 'click', 'conversion'],
};
const begun: { [Kind in ReachedBy['kind']]: Extract<ReachedBy, { kind: Kind }> } = {
  stage: { kind: 'stage', stage: '' },
  field: { kind: 'field', name: '', test: 'equals', text: '' },
  order: { kind: 'order' },
  postback: { kind: 'postback', sender: '', step: '' },
  event: { kind: 'event', event: '', conditions: [] },
  page: { kind: 'page', test: 'begins', text: '' },
  file: { kind: 'file', says: '' },
};

const reachedBy: Within<OutcomeRule> = {
  key: 'reachedBy',
  read: (rule) => rule.reachedBy.kind,
  write: (rule, kind: ReachedBy['kind']) =>
    kind === rule.reachedBy.kind ? rule : { ...rule, reachedBy: begun[kind], countedOnceFor: onceFor[kind][0]! },
};

/** What lies within one way of reaching it. @param key under which it is known in the rule's sentence and its problems */
const within = <Kind extends ReachedBy['kind'], Key extends keyof Extract<ReachedBy, { kind: Kind }> & string>(
  kind: Kind,
  field: Key,
  key: string = field,
): Within<OutcomeRule> => ({
  key,
  read: ({ reachedBy: by }) => (by.kind === kind ? (by as Extract<ReachedBy, { kind: Kind }>)[field] : ''),
  write: (rule, to: never) =>
    rule.reachedBy.kind === kind ? { ...rule, reachedBy: { ...rule.reachedBy, [field]: to } } : rule,
});
const isBy =
  (kind: ReachedBy['kind']) =>
  ({ reachedBy: by }: OutcomeRule): boolean =>
    by.kind === kind;
const byOf = <Kind extends ReachedBy['kind']>(rule: OutcomeRule | null, kind: Kind) =>
  rule?.reachedBy.kind === kind ? (rule.reachedBy as Extract<ReachedBy, { kind: Kind }>) : null;

/** What a part picks from, with one that is written and not known. */
const withWritten = (names: readonly (readonly [string, string])[], written: string, none: string): Option[] => [
  ...(written === '' ? [['', none] as const] : []),
  ...(written !== '' && !names.some(([name]) => name === written) ? [[written, written] as const] : []),
  ...names,
];
const itself = (text: string) => text;

/** What an event takes along, by the event's name. */
const takenAlong = (events: Beside['events'], name: string): string[] => [
  ...(events?.events.find((one) => one.name === name)?.reads ?? []),
  ...(events?.wires ?? []).flatMap(({ event, account }) => (event === name ? nameReading(account) : [])),
];

const readingOptions = ({ events }: Beside): Option[] =>
  [...new Set((events?.events ?? []).flatMap(({ name }) => takenAlong(events, name)))].map((id): Option => [
    id,
    readingName(id, events?.readings),
  ]);
const condition = conditionPieces(readingOptions);
const conditions: Within<OutcomeRule> = {
  ...within('event', 'conditions'),
  read: (rule) => byOf(rule, 'event')?.conditions ?? [],
};

const testOptions = (kinds: readonly Test[]) => kinds.map((test): Option => [test, testWords[test][0]]);

/** "When a deal reaches Fleet assessed or a later stage", "When the event guide_taken goes off". */
export const reachedPieces: Piece<OutcomeRule>[] = [
  choice(reachedBy, 'What reaches it', [
    ['stage', 'When a deal reaches'],
    ['field', 'When of a deal'],
    ['order', 'When somebody orders'],
    ['postback', 'When a postback of'],
    ['event', 'When the event'],
    ['page', 'When somebody comes to a page whose path'],
    ['file', 'When a row of a file says'],
  ]),
  when(
    isBy('postback'),
    ' ',
    choice(
      within('postback', 'sender'),
      'Sender',
      ({ senders = [] }, rule): Option[] =>
        withWritten(
          senders.map(({ key, name }) => [key, name] as const),
          byOf(rule, 'postback')?.sender ?? '',
          'a sender',
        ),
      { words: itself },
    ),
    ' says ',
    choice(
      within('postback', 'step'),
      'Step',
      ({ senders = [] }, rule): Option[] => {
        const by = byOf(rule, 'postback');
        const known = senders.find(({ key }) => key === by?.sender)?.steps ?? [];
        return withWritten(
          known.map((one) => [one, one] as const),
          by?.step ?? '',
          'a step',
        );
      },
      { words: itself },
    ),
  ),
  when(
    isBy('stage'),
    ' ',
    choice(
      within('stage', 'stage'),
      'Stage',
      ({ crm }, rule): Option[] => [
        ...(byOf(rule, 'stage')?.stage ? [] : [['', 'a stage'] as const]),
        ...(crm?.stages.inOrder ?? []).map((name): Option => [name, name]),
      ],
      { words: itself },
    ),
    ' or a later stage',
  ),
  when(
    isBy('field'),
    ' ',
    value(within('field', 'name', 'fieldName'), 'Field of the deal', 'a field', { offers: 'crmFields', tidy }),
    ' ',
    choice(within('field', 'test', 'fieldTest'), 'How the field is compared', testOptions(tests)),
    when(
      (rule) => byOf(rule, 'field')?.test !== 'there',
      ' ',
      value(within('field', 'text', 'fieldText'), 'What the field must be', 'a value', { tidy }),
    ),
  ),
  when(
    isBy('event'),
    ' ',
    choice(
      within('event', 'event'),
      'Event',
      ({ events }, rule): Option[] =>
        withWritten(
          (events?.events ?? []).map(({ name }) => [name, name] as const),
          byOf(rule, 'event')?.event ?? '',
          'an event',
        ),
      { words: itself },
    ),
    ' goes off',
    each<Condition>(conditions, 'condition', condition, {
      before: ', and only if ',
      between: ' and ',
      add: 'and only if …',
      fresh: () => ({ reading: 'path', test: 'equals', not: false, text: '' }),
      least: 0,
      most: 12,
    }),
  ),
  when(
    isBy('page'),
    ' ',
    choice(within('page', 'test', 'pathTest'), 'How the path is compared', testOptions(textTests)),
    ' ',
    value(within('page', 'text', 'path'), 'Path', 'a path', { offers: 'paths', tidy }),
  ),
  when(isBy('file'), ' ', value(within('file', 'says'), 'What the row says', 'an outcome', { tidy })),
];

type Content = Pick<ReleaseContent, 'crm' | 'events'>;

/** What is wrong with what reaches an outcome, and with what it is counted once for. */
export function checkReached({ reachedBy: by, countedOnceFor }: OutcomeRule, content: Content): RuleProblem[] {
  const found = wrongBy(by, content);
  if (!onceFor[by.kind].includes(countedOnceFor))
    found.push({
      field: 'countedOnceFor',
      was: `it would never be counted once for each ${once[countedOnceFor]}`,
      fix: `Choose ${listed(
        onceFor[by.kind].map((one) => once[one]),
        'or',
      )}.`,
    });
  return found;
}

function wrongBy(by: ReachedBy, { crm, events }: Content): RuleProblem[] {
  switch (by.kind) {
    case 'stage':
    case 'field':
      if (!crm)
        return [
          {
            field: by.kind === 'stage' ? 'stage' : 'fieldName',
            was: `no CRM is read, so ${by.kind === 'stage' ? 'no deal reaches a stage' : 'no field of a deal is known'}`,
            fix: 'Say which CRM is read first.',
          },
        ];
      return by.kind === 'stage' ? wrongStage(by.stage, crm.stages.inOrder) : wrongField(by);
    case 'postback':
      return by.sender !== '' && by.step !== ''
        ? []
        : [
            {
              field: by.sender === '' ? 'sender' : 'step',
              was: by.sender === '' ? 'it is not said who posts it' : 'it is not said which step it is',
              fix: 'Choose one; senders and what their steps mean are set up in Report-backs, Postbacks.',
            },
          ];
    case 'event':
      return wrongEvent(by, events);
    case 'page':
      return by.text === ''
        ? [{ field: 'path', was: 'the path is missing', fix: 'Type it, such as /care/welcome.' }]
        : wrongPattern('path', by.test, by.text);
    case 'file':
      return by.says === ''
        ? [
            {
              field: 'says',
              was: 'it is not said what files call it',
              fix: 'Type what stands in their rows, such as FLT-SIGNED.',
            },
          ]
        : [];
    case 'order':
      return [];
  }
}

const wrongStage = (stage: string, stages: readonly string[]): RuleProblem[] =>
  stages.includes(stage)
    ? []
    : [
        {
          field: 'stage',
          was: stage === '' ? 'the stage is missing' : `“${stage}” is no stage of the CRM`,
          fix: `Choose ${listed(
            stages.map((one) => `“${one}”`),
            'or',
          )}.`,
        },
      ];

function wrongField({ name, test, text }: Extract<ReachedBy, { kind: 'field' }>): RuleProblem[] {
  if (name === '') return [{ field: 'fieldName', was: 'the field is missing', fix: 'Choose a field of the CRM.' }];
  if (text === '' && test !== 'there')
    return [
      { field: 'fieldText', was: 'it is not said what the field must be', fix: 'Type it, or choose “is there”.' },
    ];
  return wrongPattern('fieldText', test, text);
}

function wrongPattern(field: string, test: Test, text: string): RuleProblem[] {
  const problem = test === 'pattern' ? pagePatternProblem(text) : '';
  return problem ? [{ field, was: problem, fix: 'Write a simpler pattern.' }] : [];
}

function wrongEvent(by: Extract<ReachedBy, { kind: 'event' }>, events: Content['events']): RuleProblem[] {
  if (by.event === '') return [{ field: 'event', was: 'the event is missing', fix: 'Choose one of Events.' }];
  const known = takenAlong(events, by.event);
  return by.conditions.flatMap(({ reading, test, text }): RuleProblem[] => {
    const place = placeOfName(reading);
    if (!known.includes(reading) && place !== null)
      return [
        {
          field: 'conditions',
          was: `${quoteValue(by.event)} has no name at ${place}, as it is not told there`,
          fix: 'Tell it there, in Events, or take the condition out.',
        },
      ];
    if (!known.includes(reading))
      return [
        {
          field: 'conditions',
          was: `${quoteValue(by.event)} does not take ${quoteValue(reading)} along`,
          fix:
            known.length > 0
              ? `Choose ${listed(known.map(quoteValue), 'or')}, or have the event take it along.`
              : 'Have the event take it along, in Events.',
        },
      ];
    if (text === '' && test !== 'there')
      return [
        {
          field: 'conditions',
          was: 'a condition has nothing to compare with',
          fix: 'Type a value, or choose “is there”.',
        },
      ];
    return wrongPattern('conditions', test, text);
  });
}
