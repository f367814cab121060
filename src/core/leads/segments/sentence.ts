import { partsOf, type Option } from '../../rules/says';
import { waysIn } from '../../ways-in';
import { qualities, qualityWords } from '../quality';
import {
  freshCondition,
  hasDates,
  hasTest,
  needsValue,
  type Condition,
  type ConditionKind,
  type SegmentMeans,
  type TouchPartName,
} from './condition';

const { choice, value, list, number, when } = partsOf<Condition>();
const is =
  (...kinds: ConditionKind[]) =>
  ({ about }: Condition) =>
    kinds.includes(about);
const tidy = (text: string) => text.trim();

const partWords: Record<TouchPartName, string> = {
  source: 'source',
  medium: 'medium',
  campaign: 'campaign',
  content: 'content',
  term: 'term',
  referrer: 'referrer’s host',
  landing: 'landing page',
};

const test = choice('test', 'How it is compared', [
  ['is', 'is'],
  ['is_not', 'is not'],
  ['begins', 'begins with'],
  ['contains', 'contains'],
  ['empty', 'is empty'],
  ['not_empty', 'is not empty'],
]);
const valued =
  (...parts: TouchPartName[]) =>
  ({ about, part, test: how }: Condition) =>
    about === 'touch' && needsValue(how) && parts.includes(part);

const condition = [
  'they ',
  choice(
    {
      key: 'about',
      read: ({ about }) => about,
      // What was said of the one before is said of nothing else.
      write: (before, about: ConditionKind) => (about === before.about ? before : freshCondition(about)),
    },
    'What is looked at',
    [
      ['touch', 'came by'],
      ['form', 'sent the form'],
      ['not_form', 'did not send the form'],
      ['way', 'came in by'],
      ['stage', 'are at the stage'],
      ['reached', 'reached the stage'],
      ['not_reached', 'did not reach the stage'],
      ['quality', 'are'],
      ['not_quality', 'are not'],
      ['field', 'have a CRM record whose field'],
      ['enquired', 'enquired'],
      ['answered', 'were first answered'],
      ['outcome', 'reached the outcome'],
      ['no_outcome', 'did not reach the outcome'],
      ['segment', 'are in the segment'],
      ['not_segment', 'are not in the segment'],
    ],
  ),
  ' ',
  when(
    is('touch'),
    choice('touch', 'Which touch', [
      ['any', 'any touch'],
      ['first', 'a first touch'],
      ['last', 'a last touch'],
      ['enquiry', 'the touch before they enquired'],
    ]),
    ' whose ',
    choice('part', 'Part of the touch', Object.entries(partWords)),
    ' ',
  ),
  when(is('field'), value('field', 'Field of the CRM', 'a field', { offers: 'crmFields', tidy }), ' '),
  when(({ about }) => hasTest(about), test),
  when(valued('source'), ' ', list('values', 'Values', 'a source', { offers: 'sources' })),
  when(valued('medium'), ' ', list('values', 'Values', 'a medium', { offers: 'mediums' })),
  when(valued('campaign'), ' ', list('values', 'Values', 'a campaign', { offers: 'campaigns' })),
  when(valued('landing'), ' ', list('values', 'Values', 'a page', { offers: 'paths' })),
  when(valued('content', 'term', 'referrer'), ' ', list('values', 'Values', 'a value')),
  when(({ about, test: how }) => about === 'field' && needsValue(how), ' ', list('values', 'Values', 'a value')),
  when(is('form', 'not_form'), list('values', 'Forms', 'a form', { offers: 'forms' })),
  when(
    is('way'),
    choice(
      'way',
      'Way in',
      Object.values(waysIn)
        .filter(({ subject }) => subject === 'enquiry')
        .map(({ kind, words }): Option => [kind, words.toLowerCase()]),
    ),
  ),
  when(is('stage', 'reached', 'not_reached'), list('values', 'Stages', 'a stage', { offers: 'stages' })),
  when(
    is('quality', 'not_quality'),
    choice(
      'quality',
      'How far answered',
      qualities.map((one): Option => [one, one === 'no_enquiry' ? 'marked as no enquiry' : qualityWords[one]]),
    ),
  ),
  when(is('outcome', 'no_outcome'), list('values', 'Outcomes', 'an outcome', { offers: 'outcomes' })),
  when(
    is('segment', 'not_segment'),
    choice(
      'segment',
      'Segment',
      ({ segments = [] }): readonly Option[] => [
        ['', 'a segment'],
        ...segments.map(({ id, name }): Option => [id, `“${name}”`]),
      ],
      { words: () => 'a segment that is not there' },
    ),
  ),
  when(
    ({ about }) => hasDates(about),
    choice('when', 'When', [
      ['last', 'in the last'],
      ['before', 'more than'],
      ['between', 'from'],
    ]),
    ' ',
    when(({ when: how }) => how !== 'between', number('days', 'Days', { unit: ['day', 'days'] })),
    when(({ when: how }) => how === 'before', ' ago'),
    when(
      ({ when: how }) => how === 'between',
      value('from', 'First day', '2027-02-01', { tidy }),
      ' to ',
      value('to', 'Last day', '2027-02-28', { tidy }),
    ),
  ),
];

const means = partsOf<SegmentMeans>();

/** A segment as its sentence, in parts that are changed in place. */
export const segmentPieces = [
  'Leads of whom ',
  means.when(
    ({ conditions }) => conditions.length > 1,
    means.choice('match', 'How many of the conditions', [
      ['all', 'all'],
      ['any', 'any'],
    ]),
    ' of ',
  ),
  'this is true: ',
  means.each<Condition>('conditions', 'condition', condition, {
    before: '',
    between: '; ',
    add: 'and …',
    fresh: () => freshCondition(),
    least: 1,
    most: 12,
  }),
  '.',
];
