import { pointerName } from '../capture/pointer';
import { placeholdersOf } from '../links/placeholders';
import { isShipped, linksOf } from '../platforms/links';
import { platformReadingWords, saysReading } from '../platforms/own/readings';
import type { OwnPlatform } from '../platforms/schema';
import { quoteValue } from '../quote-value';
import { listed } from '../listed';
import { defineRule, type RuleProblem } from './define';
import { inList } from './place';
import { partsOf, type Within } from './says';
import { sameRule } from './same';

const { choice, value, words, number, list, told, said, when } = partsOf<OwnPlatform>();
const tidy = (text: string) => text.trim();

const limit = (key: keyof OwnPlatform['limits']): Within<OwnPlatform> => ({
  key,
  read: ({ limits }) => limits[key],
  write: (rule, to: number) => ({ ...rule, limits: { ...rule.limits, [key]: to } }),
});

/** How it is told, in words. */
function callWords({ writes, method, path, files: { every, at } }: OwnPlatform['telling']): string {
  if (writes === 'json') return `${method} to ${quoteValue(path || '/')}`;
  const when = { due: 'as soon as something is due', hour: 'each hour', day: `each day at ${at}` };
  return `a file ${when[every]}, as ${quoteValue(path || '/')}`;
}

const bringsClicks = ({ clickParameters }: OwnPlatform) => clickParameters.length > 0;

/** A platform that the business describes itself. */
export const platform = defineRule<OwnPlatform>({
  station: 'Connections',
  at: inList(['platforms'], ({ kind }) => kind),
  calls: (kind, { platforms }) =>
    `the platform ${platforms.find((one) => one.kind === kind)?.words ?? quoteValue(kind)}`,
  says: [
    'The platform ',
    words('words', 'What people call it', 'a name'),
    ', in short ',
    value('kind', 'Its short name', 'a short name', { isName: true, tidy: (text) => text.trim().toLowerCase() }),
    ', puts its click ID into ',
    list('clickParameters', 'Query names of its click ID', 'nothing', { oneWord: true }),
    when(
      bringsClicks,
      ' ',
      choice('provesPayment', 'Which clicks have one', [
        [true, 'on paid clicks only'],
        [false, 'on unpaid links too'],
      ]),
      said(
        ({ source }) => source !== '',
        '; without UTM tags it counts as source ',
        value('source', 'Source it counts as', 'none', { offers: 'sources', tidy }),
        said(
          ({ medium }) => medium !== '',
          ' and medium ',
          value('medium', 'Medium it counts as', 'none', { offers: 'mediums', tidy }),
        ),
      ),
      '. It takes clicks up to ',
      number(limit('clickDays'), 'Oldest click', { unit: ['day', 'days'] }),
      ' old, told within ',
    ),
    when((rule) => !bringsClicks(rule), ', for it brings no clicks: it takes events, told within '),
    number(limit('tellWithinDays'), 'Latest telling', { unit: ['day', 'days'] }),
    ' and corrections ',
    number(limit('changeWithinDays'), 'Latest correction', { unit: ['day', 'days'] }),
    ' after it took it (0: it takes none)',
    ' of what happened, ',
    number(limit('callsPerMinute'), 'Calls a minute', { unit: ['call', 'calls'] }),
    ' a minute',
    when(
      ({ telling }) => telling.many,
      ' with up to ',
      number(limit('rowsPerCall'), 'Rows a call', { unit: ['row', 'rows'] }),
      ' each',
    ),
    '; told twice, a row is ',
    choice('repeats', 'How a repeat is recognised', [
      ['key', 'recognised by its event ID'],
      ['order', 'recognised by its order'],
      ['nothing', 'counted twice'],
    ]),
    when(
      bringsClicks,
      '. It is told of ',
      choice('tells', 'Which clicks it is told of', [
        ['every click', 'every click in its window'],
        ['last paid touch', 'the last paid click only'],
      ]),
    ),
    told(({ telling }) => `, by ${callWords(telling)}`),
    '.',
  ],
  start: (_beside, names) => ({
    kind: newName('platform', names),
    words: '',
    clickParameters: [],
    provesPayment: true,
    source: '',
    medium: '',
    placeholders: [],
    freezesNames: false,
    limits: { clickDays: 30, tellWithinDays: 7, changeWithinDays: 0, rowsPerCall: 100, callsPerMinute: 60 },
    repeats: 'nothing',
    tells: 'every click',
    telling: {
      writes: 'json',
      files: { every: 'day', at: '06:00' },
      method: 'POST',
      path: '',
      testPath: '',
      headers: [],
      token: { header: 'authorization', before: 'Bearer ', signs: false },
      many: false,
      rowsAt: '',
      fields: [
        { at: '/click_id', reading: 'click_id', text: '' },
        { at: '/event', reading: 'outcome', text: '' },
        { at: '/event_id', reading: 'event_id', text: '' },
        { at: '/time', reading: 'happened_at', text: '' },
        { at: '/value', reading: 'worth', text: '' },
        { at: '/currency', reading: 'currency', text: '' },
      ],
      answer: { rowsAt: '', idAt: '', saysAt: '', taken: [], toldBefore: [] },
    },
    page: null,
  }),
  details(before, after) {
    const changed: string[] = [];
    if (!sameRule(before.placeholders, after.placeholders))
      changed.push(
        `Fills ${listed(after.placeholders.map(({ text }) => quoteValue(text))) || 'nothing'} into its links.`,
      );
    if (!sameRule(before.telling.fields, after.telling.fields))
      changed.push(
        `A row says ${listed(
          after.telling.fields.map(({ at, reading, text }) =>
            reading === 'text'
              ? `${quoteValue(at)} is always ${quoteValue(text)}`
              : `${quoteValue(at)} is ${platformReadingWords[reading]}`,
          ),
        )}.`,
      );
    if (!sameRule(before.telling.answer, after.telling.answer)) changed.push('Its answers are read otherwise.');
    return changed;
  },
  check({ kind, placeholders, telling, clickParameters, limits }, content) {
    const found: RuleProblem[] = [];
    if (isShipped(kind))
      found.push({
        field: 'kind',
        was: `${quoteValue(kind)} is a platform that Avrix knows`,
        fix: 'Use another short name.',
      });
    const saysClick = telling.fields.some(({ reading }) => reading === 'click_id') || telling.path.includes('click_id');
    if (clickParameters.length > 0 && !saysClick)
      found.push({ field: 'telling.fields', was: 'no row says the click ID', fix: 'Add where the click ID goes.' });
    const { answer, method, writes } = telling;
    const many = telling.many && writes === 'json';
    const path = telling.path.replace(/\{(file|token)\}/g, '');
    if (writes === 'csv') {
      if (method === 'GET')
        found.push({ field: 'telling.method', was: 'a file is not sent by GET', fix: 'Send it by POST or PUT.' });
      if (/[{}]/.test(path))
        found.push({
          field: 'telling.path',
          was: 'the path of a file has no values of one row',
          fix: 'Write it such as `/conversions-{file}.csv`.',
        });
      if (!telling.path.includes('{file}'))
        found.push({
          field: 'telling.path',
          weighs: 'warns',
          was: 'every file has the same name',
          fix: 'Write `{file}` where a name of its own goes, such as `/conversions-{file}.csv`.',
        });
      const headings = telling.fields.map(({ at }) => pointerName(at));
      const same = headings.find((name, at) => headings.indexOf(name) !== at);
      if (same !== undefined)
        found.push({ field: 'telling.fields', was: `two columns are called ${quoteValue(same)}`, fix: 'Rename one.' });
    }
    if (limits.changeWithinDays > 0 && !saysReading(telling, 'change'))
      found.push({
        field: 'telling.fields',
        weighs: 'warns',
        was: 'no row says that it is a correction',
        fix: 'Add whether it is new, unless the platform takes what it is told again under the same event ID for a correction.',
      });
    if (many && (method === 'GET' || /[{}]/.test(telling.path)))
      found.push({
        field: 'telling.path',
        was: `a call with many rows ${method === 'GET' ? 'has no body by GET' : 'has no path of one row'}`,
        fix: 'Let a call be one row.',
      });
    if (writes === 'json' && /[{}]/.test(telling.path.replace(/\{[+#./;?&]?[\w*:,]+\}/g, '')))
      found.push({
        field: 'telling.path',
        was: 'the path has a brace that is no part of a template',
        fix: 'Write it such as `/told{?click_id,event_id}`.',
      });
    if (answer.saysAt !== '' && answer.taken.length === 0)
      found.push({
        field: 'telling.answer.taken',
        was: 'it is not said which answer means taken',
        fix: 'Enter it, such as `ok`.',
      });
    if (many && answer.saysAt !== '' && answer.idAt === '')
      found.push({
        field: 'telling.answer.idAt',
        weighs: 'warns',
        was: 'its rows are answered without the event ID, so they are read in the order they were sent',
        fix: 'Say where the event ID is in the answer, if it is there.',
      });
    const others = placeholdersOf(linksOf(content.platforms.filter((one) => one.kind !== kind)));
    for (const { text } of placeholders)
      if (others.some((one) => one.text === text))
        found.push({
          field: 'placeholders',
          was: `${quoteValue(text)} is another platform’s placeholder`,
          fix: 'Use the text as this platform writes it.',
        });
    const twice = clickParameters.find((name, at) => clickParameters.indexOf(name) !== at);
    if (twice !== undefined)
      found.push({ field: 'clickParameters', was: `${quoteValue(twice)} is there twice`, fix: 'Keep it once.' });
    return found;
  },
});

/** A short name that no other has; it stays when the words are changed. */
export function newName(beginning: string, names: string[]): string {
  for (let n = 1; ; n++) {
    const one = n === 1 ? beginning : `${beginning}-${n}`;
    if (!names.includes(one)) return one;
  }
}
