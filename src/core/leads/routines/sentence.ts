import { partsOf, sayPieces, type Beside, type Option } from '../../rules/says';
import { qualityReasons, qualityWords, setQualities } from '../quality';
import type { Doing, LetGo, RoutineMeans, Step, Takes, Wait } from './routine';

const takes = partsOf<Takes>();
const tidy = (text: string) => text.trim();

const segmentOptions =
  (none: string, words: (name: string) => string) =>
  ({ segments = [] }: Beside): readonly Option[] => [
    ['', none],
    ...segments.map(({ id, name }): Option => [id, words(name)]),
  ];
const noSegment = { words: () => 'a segment that is not there' };

/** Which leads a routine takes. */
export const takesPieces = [
  'Takes leads that ',
  takes.choice('on', 'What they do', [
    ['form', 'send the form'],
    ['stage', 'reach the stage'],
    ['segment', 'come into the segment'],
  ]),
  ' ',
  takes.when(({ on }) => on === 'form', takes.list('forms', 'Forms', 'whichever it is', { offers: 'forms' })),
  takes.when(({ on }) => on === 'stage', takes.list('stages', 'Stages', 'a stage', { offers: 'stages' })),
  takes.when(
    ({ on }) => on === 'segment',
    takes.choice(
      'segment',
      'Segment',
      segmentOptions('a segment', (name) => `“${name}”`),
      noSegment,
    ),
  ),
  takes.said(
    ({ also }) => also !== '',
    ', ',
    takes.choice(
      'also',
      'Only those of the segment',
      segmentOptions('whichever segment they are in', (name) => `of the segment “${name}” alone`),
      noSegment,
    ),
  ),
  '. Takes ',
  takes.choice('once', 'How often', [
    ['enquiry', 'each enquiry'],
    ['person', 'each person'],
  ]),
  ' once.',
];

const step = partsOf<Step>();
const does =
  (...kinds: Doing[]) =>
  (one: Step) =>
    kinds.includes(one.does);
const mailOptions = ({ mails = [] }: Beside): readonly Option[] => [
  ['', 'no email'],
  ...mails.map(({ id, name }): Option => [id, `“${name}”`]),
];
const noMail = { words: () => 'an email that is not there' };

/** What a step does, and when. */
export const stepPieces = [
  step.when(({ wait }) => wait !== 'at_once', step.number('amount', 'How long'), ' '),
  step.choice('wait', 'When', (_, rule): readonly Option[] => {
    const many = rule?.amount === 1 ? '' : 's';
    return [
      ['at_once', 'At once'],
      ['hours', `hour${many} later`],
      ['days', `day${many} later`],
      ['working_hours', `working hour${many} later`],
      ['working_days', `working day${many} later`],
    ] satisfies [Wait, string][];
  }),
  ': ',
  step.choice('does', 'What is done', [
    ['mail', 'email them'],
    ['field', 'write into the CRM’s record'],
    ['stage', 'move the CRM’s record on to'],
    ['quality', 'say that they are'],
    ['tell_mail', 'tell by email'],
    ['tell_webhook', 'tell by webhook'],
  ] satisfies [Doing, string][]),
  ' ',
  step.when(
    does('mail'),
    step.choice('mail', 'Email', mailOptions, noMail),
    step.each<Step['byForm'][number]>(
      'byForm',
      'form',
      [
        partsOf<Step['byForm'][number]>().choice(
          'mail',
          'Email for this form',
          ({ mails = [] }) => [['', 'no email'], ...mails.map(({ id, name }): Option => [id, `“${name}”`])],
          noMail,
        ),
        ' to who sent ',
        partsOf<Step['byForm'][number]>().value('form', 'Form', 'a form', { offers: 'forms', tidy }),
      ],
      {
        before: ', but ',
        between: ', ',
        add: 'another for a form',
        fresh: () => ({ form: '', mail: '' }),
        least: 0,
        most: 20,
      },
    ),
  ),
  step.when(
    does('field'),
    step.words('value', 'Value', 'nothing', { tidy }),
    ' into ',
    step.value('field', 'Field', 'a field', { offers: 'crmFields', tidy }),
    ', ',
    step.choice('onlyEmpty', 'What is there', [
      [true, 'only where it is empty'],
      [false, 'whatever is in it'],
    ]),
  ),
  step.when(does('stage'), step.value('stage', 'Stage', 'a stage', { offers: 'stages', tidy })),
  step.when(
    does('quality'),
    step.choice(
      'quality',
      'How far answered',
      setQualities.map((one): Option => [one, one === 'no_enquiry' ? 'no enquiry' : qualityWords[one]]),
    ),
    step.when(
      ({ quality }) => qualityReasons[quality].length > 0,
      ', ',
      step.choice('words', 'Reason', (_, rule): readonly Option[] => [
        ['', 'no reason given'],
        ...(rule ? qualityReasons[rule.quality] : []).map((one): Option => [one, one]),
      ]),
    ),
  ),
  step.when(
    does('tell_mail'),
    step.value('to', 'Email address', 'an address', { offers: 'people', tidy }),
    ': ',
    step.words('words', 'What is said', 'where they came from'),
  ),
  step.when(does('tell_webhook'), step.value('to', 'Address', 'an address', { tidy })),
  '.',
];

const go = partsOf<LetGo>();

/** When it lets a lead go. */
export const letGoPieces = [
  'Lets go when they unsubscribe, ',
  go.choice('reply', 'Replies', [
    [true, 'reply'],
    [false, 'but not when they reply'],
  ]),
  ', ',
  go.when(({ stages }) => stages.length > 0, 'reach '),
  go.list('stages', 'Stages', 'at no stage', { offers: 'stages' }),
  ' or ',
  go.choice('answered', 'Answered', [
    ['no', 'however far they are answered'],
    ['answering', 'are being answered'],
    ['qualified', 'are qualified or disqualified'],
  ]),
  '.',
];

/** A routine as text, a line for each step. */
export const routineLines = ({ takes: taken, steps, letGo }: RoutineMeans, beside: Beside): string[] => [
  sayPieces(takesPieces, taken, beside),
  ...steps.map((one) => sayPieces(stepPieces, one, beside)),
  sayPieces(letGoPieces, letGo, beside),
];
