import { partsOf, type Option, type Piece } from '../rules/says';
import { count, counted, type Sentence } from '../strands';
import { daysOptions } from './days-options';
import type { DaysRange } from './days-query';
import { cellWords } from './dimensions';
import { eachOnce } from './each-once';
import { visitColumns, type VisitColumn, type VisitsQuery, type VisitsView } from './visits-view';

/* The list of visits as a sentence, whose parts are changed in place: List visits with a lead, of everyone but staff and bots, … */

/** What is asked for, as the sentence holds it. */
export interface AskedVisits {
  lead: VisitsQuery['lead'];
  whose: VisitsQuery['whose'];
  range: DaysRange;
  from: string;
  to: string;
  columns: { one: VisitColumn }[];
}

/** What a column is called. */
export const visitColumnWords: Record<VisitColumn, string> = {
  channel: 'channel',
  source: 'source',
  medium: 'medium',
  campaign: 'campaign',
  content: 'content',
  term: 'term',
  referrer: 'referrer',
  landing: 'landing page',
  pages: 'pages',
  length: 'length',
  browser: 'browser engine',
  lead: 'lead',
};

/** The headings of a file of visits, by what its rows hold. */
export const visitFileColumns = (columns: readonly VisitColumn[]): Record<string, string> => ({
  at: 'began',
  ...Object.fromEntries(columns.map((column) => [column, visitColumnWords[column]])),
  visitor: 'browser',
});

/** @param isOfBrowser where one browser's visits are listed, of whatever days */
export function visitsPieces(range: VisitsView['range'], isOfBrowser: boolean): Piece<AskedVisits>[] {
  const { choice, each } = partsOf<AskedVisits>();
  const column = partsOf<{ one: VisitColumn }>().choice(
    'one',
    'What is shown',
    visitColumns.map((one): Option => [one, visitColumnWords[one]]),
  );
  return [
    isOfBrowser ? 'List this browser’s visits ' : 'List visits ',
    choice('lead', 'Lead', [
      ['any', 'with and without a lead'],
      ['with', 'with a lead'],
      ['without', 'without a lead'],
    ]),
    ...(isOfBrowser
      ? []
      : [
          ', of ',
          choice('whose', 'Whose', [
            ['customers', 'everyone but staff and bots'],
            ['everyone', 'everyone'],
          ]),
          ', begun ',
          choice('range', 'Days', daysOptions(range)),
        ]),
    ', with ',
    each<{ one: VisitColumn }>('columns', 'column', [column], {
      before: '',
      between: ', ',
      add: 'and also',
      least: 1,
      most: visitColumns.length,
      fresh: () => ({ one: 'channel' }),
    }),
    '.',
  ];
}

export const askedVisits = ({ asked: { lead, whose, columns }, range }: VisitsView): AskedVisits => ({
  lead,
  whose,
  range: range.choice,
  from: range.choice === 'own' ? range.firstDay : '',
  to: range.choice === 'own' ? range.lastDay : '',
  columns: columns.map((one) => ({ one })),
});

/** What is asked for after a part was changed: each column once. */
export const settledVisits = (asked: AskedVisits): AskedVisits => ({
  ...asked,
  columns: eachOnce(asked.columns, visitColumns),
});

/** What is asked for, as it stands in an address. @param narrowed to one browser, or to what a row of figures counts */
export function visitsAddress(
  { lead, whose, range, from, to, columns }: AskedVisits,
  narrowed: Pick<VisitsView['asked'], 'browser' | 'first' | 'by' | 'row'>,
): string {
  const query = new URLSearchParams({ range, lead, whose, columns: columns.map(({ one }) => one).join(',') });
  if (range === 'own') {
    query.set('from', from);
    query.set('to', to);
  }
  if (narrowed.browser !== '') query.set('browser', narrowed.browser);
  if (narrowed.first === 'yes') query.set('first', 'yes');
  if (narrowed.row !== null) {
    query.set('by', narrowed.by.join(','));
    query.set('row', JSON.stringify(narrowed.row));
  }
  return query.toString();
}

/** "1,204 visits, 33 of them with a lead." */
export function visitsSentence(
  { lead, browser, row, first }: Pick<VisitsQuery, 'lead' | 'browser' | 'row' | 'first'>,
  total: number,
  withLead: number,
): Sentence {
  const of = row === null ? '' : ` of ${row.map(cellWords).join(', ')}`;
  const what = counted(total, first === 'yes' ? 'first visit' : 'visit', first === 'yes' ? 'first visits' : 'visits');
  const under =
    browser !== ''
      ? 'All that this browser did here that is known, whenever it was.'
      : 'Each opens its lead, or the trace of the click that brought it.';
  if (total === 0) return { title: 'No visit is like this in these days.', under: 'Choose other days, or list more.' };
  const title =
    lead === 'with'
      ? `${what} with a lead${of}.`
      : lead === 'without'
        ? `${what} without a lead${of}.`
        : `${what}${of}, ${withLead === 0 ? 'none' : count(withLead)} of them with a lead.`;
  return { title, under };
}
