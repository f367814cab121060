import { pagePatternProblem } from '../events/pattern';
import { testWords } from '../events/words';
import { quoteValue } from '../quote-value';
import { partsOf, type Option, type Piece } from '../rules/says';
import { count, counted, type Sentence } from '../strands';
import { textTests } from '../events/kinds';
import { daysOptions } from './days-options';
import type { DaysRange } from './days-query';
import { dimensionWords } from './dimensions';
import { funnelDimensions, mostSteps, type FunnelQuery, type FunnelStep, type FunnelView } from './funnel-view';

/* A funnel as a sentence, whose parts are changed in place: Follow those who open a page that begins with /fleet, then send the form … */

/** What is asked for, as the sentence holds it. */
export interface AskedFunnel {
  steps: FunnelStep[];
  span: 'visit' | 'days';
  days: number;
  by: FunnelQuery['by'];
  range: DaysRange;
  from: string;
  to: string;
  segment: string;
}

type Offers = FunnelView['offers'];

/** What a step is begun with when its kind is chosen. */
const firstValue = ({ events, forms, outcomes }: Offers, kind: FunnelStep['kind']): string =>
  ({ page: '/', event: events[0], form: forms[0]?.name, outcome: outcomes[0]?.code })[kind] ?? '';

export function funnelPieces({
  offers,
  segments,
  range,
}: Pick<FunnelView, 'offers' | 'segments' | 'range'>): Piece<AskedFunnel>[] {
  const { choice, number, when, each } = partsOf<AskedFunnel>();
  const step = partsOf<FunnelStep>();
  const names = (label: string, options: readonly Option[]) =>
    step.choice('value', label, options, { words: (value) => value });
  return [
    'Follow those who ',
    each<FunnelStep>(
      'steps',
      'step',
      [
        step.choice(
          'kind',
          'What is done',
          [
            ['page', 'open a page whose path'],
            ['event', 'set off the event'],
            ['form', 'send the form'],
            ['outcome', 'reach'],
          ],
          { also: (kind: FunnelStep['kind']) => ({ value: firstValue(offers, kind) }) },
        ),
        ' ',
        step.when(
          ({ kind }) => kind === 'page',
          step.choice(
            'test',
            'How the path is compared',
            textTests.map((test): Option => [test, testWords[test][0]]),
          ),
          ' ',
          step.value('value', 'Path', 'a path', { offers: 'paths' }),
        ),
        step.when(
          ({ kind }) => kind === 'event',
          names(
            'Event',
            offers.events.map((name): Option => [name, name]),
          ),
        ),
        step.when(
          ({ kind }) => kind === 'form',
          names(
            'Form',
            offers.forms.map(({ name, words }): Option => [name, words]),
          ),
        ),
        step.when(
          ({ kind }) => kind === 'outcome',
          names(
            'Outcome',
            offers.outcomes.map(({ code, words }): Option => [code, words]),
          ),
        ),
      ],
      {
        before: '',
        between: ', then ',
        add: 'then also',
        least: 1,
        most: mostSteps,
        fresh: () => ({ kind: 'page', test: 'begins', value: '/', skip: false }),
      },
    ),
    ', within ',
    choice('span', 'Within', [
      ['visit', 'one visit'],
      ['days', 'some days'],
    ]),
    when(({ span }) => span === 'days', ': ', number('days', 'Days', { unit: ['day', 'days'] })),
    ', begun ',
    choice('range', 'Days it began', daysOptions(range)),
    ', by ',
    choice('by', 'By what', [['', 'nothing'], ...funnelDimensions.map((one): Option => [one, dimensionWords(one)])]),
    ', for ',
    choice('segment', 'Segment', [['', 'everyone'], ...segments.map(({ id, name }): Option => [id, `“${name}”`])]),
    '.',
  ];
}

/** What a view was asked for. */
export const askedFunnel = ({ asked: { steps, within, by, segment }, range }: FunnelView): AskedFunnel => ({
  steps,
  span: within === 'visit' ? 'visit' : 'days',
  days: within === 'visit' ? 30 : within,
  by,
  range: range.choice,
  from: range.choice === 'own' ? range.firstDay : '',
  to: range.choice === 'own' ? range.lastDay : '',
  segment,
});

/** What is asked for, as it stands in an address. */
export function funnelAddress({ steps, span, days, by, range, from, to, segment }: AskedFunnel): string {
  const query = new URLSearchParams({
    steps: JSON.stringify(steps),
    within: span === 'visit' ? 'visit' : String(Math.min(365, Math.max(1, Math.round(days) || 1))),
    range,
  });
  if (by !== '') query.set('by', by);
  if (segment !== '') query.set('segment', segment);
  if (range === 'own') {
    query.set('from', from);
    query.set('to', to);
  }
  return query.toString();
}

/** What was done at a step: "opened a page whose path begins with `/fleet`". @param offers what forms and outcomes are called */
export function stepWords(
  { kind, test, value }: FunnelStep,
  { forms, outcomes }: Pick<Offers, 'forms' | 'outcomes'>,
): string {
  switch (kind) {
    case 'page':
      return `opened a page whose path ${testWords[test][0]} ${quoteValue(value)}`;
    case 'event':
      return `set off ${quoteValue(value)}`;
    case 'form':
      return `sent the form “${forms.find(({ name }) => name === value)?.words ?? value}”`;
    case 'outcome':
      return `reached ${outcomes.find(({ code }) => code === value)?.words ?? value}`;
  }
}

/** What keeps a step from being held against pages, in words; '' where nothing does. */
export const stepProblem = ({ kind, test, value }: FunnelStep): string =>
  kind === 'page' && test === 'pattern' ? pagePatternProblem(value) : '';

export const shareWords = (share: number): string =>
  `${(share * 100).toLocaleString('en-GB', { maximumFractionDigits: share > 0 && share < 0.1 ? 1 : 0 })} %`;

/** "Of 1,204 visitors who opened …, 31 reached Fleet assessed (2.6 %). Most are lost before …". */
export function funnelSentence(
  steps: readonly Pick<FunnelView['steps'][number], 'words' | 'made' | 'share' | 'lost' | 'open'>[],
  unit: 'visit' | 'visitor',
): Sentence {
  // A title has no values in another face.
  const plain = steps.map((step) => ({ ...step, words: step.words.replaceAll('`', '') }));
  const [first, end] = [plain[0], plain.at(-1)];
  if (!first || !end || first.made === 0)
    return {
      title: first ? `Nobody ${first.words} in these days.` : 'Say what people do first.',
      under: 'Choose other days, or another first step.',
    };
  const many = counted(first.made, unit, `${unit}s`);
  if (steps.length === 1)
    return {
      title: `${many}${unit === 'visitor' ? '' : ' in which somebody'} ${first.words}.`,
      under: 'Add what comes next, to see who goes on and where the others go.',
    };
  const worst = plain.reduce((most, step) => (step.lost > most.lost ? step : most));
  const open = steps.reduce((sum, step) => sum + step.open, 0);
  return {
    title: `Of ${many} ${unit === 'visitor' ? 'who' : 'in which somebody'} ${first.words}, ${count(end.made)} ${end.words} (${shareWords(end.share)}).`,
    under: [
      worst.lost > 0 ? `Most are lost before this: ${worst.words}, ${count(worst.lost)}.` : 'None is lost yet.',
      open > 0 ? `${count(open)} may still go on.` : '',
    ]
      .filter(Boolean)
      .join(' '),
  };
}
