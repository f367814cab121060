import { describe, expect, it } from 'vitest';
import { rules } from '../capture/rules.fixture';
import { arrivedTags, firstPlan } from '../plan';
import { linkPlan } from './check-tags';
import { columnsOf, readColumn } from './columns';
import { combine } from './combine';
import { linkUseSchema, replaceSchema } from './list-schema';
import { columnOrderSchema, newLinkSchema, tagSetSchema } from './schema';
import { shortLinkSchema } from './short-link';

const plan = linkPlan({ plan: firstPlan(), platforms: [], capture: rules }, []);
const table = (columns: string[], ...rows: string[][]) => ({
  columns,
  rows: rows.map((cells, index) => ({
    row: index + 2,
    cells: Object.fromEntries(columns.map((name, i) => [name, cells[i] ?? ''])),
  })),
  problems: [],
});

describe('a file of links', () => {
  it('with pages and tags gives the rows of the grid; other columns are left out', () => {
    const { rows, problems } = columnsOf(
      table(['utm_source', 'landing', 'colour'], ['letter', 'l.example/a', 'red'], ['', 'l.example/b', '']),
      plan,
    );
    expect(problems).toEqual([]);
    expect(rows).toEqual([
      { landing: 'l.example/a', tags: { utm_source: 'letter' } },
      { landing: 'l.example/b', tags: { utm_source: '' } },
    ]);
  });

  it('is understood by the headings that the grid has', () => {
    const { rows, problems } = columnsOf(table(['landing page', 'source'], ['l.example/a', 'letter']), plan);
    expect([rows, problems]).toEqual([[{ landing: 'l.example/a', tags: { utm_source: 'letter' } }], []]);
  });

  it('with whole links is read into pages and tags', () => {
    const { rows } = columnsOf(table(['link'], ['https://l.example/a?x=1&utm_source=letter&utm_medium=email']), plan);
    expect(rows).toEqual([{ landing: 'https://l.example/a?x=1', tags: { utm_source: 'letter', utm_medium: 'email' } }]);
  });

  it('names rows without a page and takes the others', () => {
    const { rows, problems } = columnsOf(table(['landing', 'link'], ['', ''], ['', 'nonsense'], ['l.example']), plan);
    expect(rows).toHaveLength(1);
    expect(problems.map(({ row, was }) => [row, was])).toEqual([
      [2, 'it has no landing page'],
      [3, '“nonsense” is no link'],
    ]);
  });

  it('without either column says which there are', () => {
    expect(columnsOf(table(['address', ''], ['x', 'y']), plan)).toEqual({
      rows: [],
      problems: [
        {
          row: 1,
          was: 'no column is called landing or link; there are address',
          fix: 'Name the columns in the first row.',
        },
      ],
    });
  });
});

describe('a column of an upload', () => {
  const row = { landing: 'https://l.example/', tags: { utm_source: 'letter' } };
  it.each([
    ['link', 'link', 'LINK'],
    ['landing', 'landing', 'https://l.example/'],
    ['utm_source as Source of it', 'Source of it', 'letter'],
    ['utm_term', 'utm_term', ''],
    [' link  as  Address ', 'Address', 'LINK'],
  ])('%s is headed %s and holds %s', (text, heading, value) => {
    const column = readColumn(text);
    expect([column.heading, column.valueOf(row, 'LINK')]).toEqual([heading, value]);
  });
});

describe('what is sent about links', () => {
  const said = (schema: { safeParse(given: unknown): { error?: { issues: { message: string }[] } } }, given: unknown) =>
    schema.safeParse(given).error?.issues.map(({ message }) => message) ?? [];
  it('is refused with what would be right', () => {
    const link = { landing: 'l.example', tags: {} };
    expect(said(newLinkSchema, link)).toEqual([]);
    expect(said(newLinkSchema, { ...link, landing: ' ' })).toEqual(['must name the page that people land on']);
    expect(said(newLinkSchema, { ...link, usedIn: 'radio' })).toEqual([
      'must be ad, mail, post, print, website, other',
    ]);
    expect(said(tagSetSchema, { name: '', tags: {} })).toEqual(['must have a name']);
    expect(said(columnOrderSchema, { name: 'X', columns: [] })).toEqual(['must have at least one column']);
    expect(said(replaceSchema, { find: 'ab', put: '' })).toEqual(['must have at least 3 characters']);
    expect(said(linkUseSchema, { links: [], usedIn: 'ad', place: '', owner: '' })).toHaveLength(1);
  });
  it.each([
    ['spring-letter', true],
    ['a', true],
    ['Spring', false],
    ['-spring', false],
    ['spring-', false],
    ['spring/letter', false],
    ['', false],
    ['x'.repeat(61), false],
  ])('the path %s of a short link is taken: %s', (path, taken) => {
    expect(shortLinkSchema.safeParse({ path, destination: 'l.example' }).success).toBe(taken);
  });
  it('takes a short link’s end with its own offset from UTC', () => {
    const until = (expiresAt: string) =>
      shortLinkSchema.safeParse({ path: 'a', destination: 'l.example', expiresAt }).success;
    expect([until('2027-03-31T18:00:00Z'), until('2027-03-31T18:00:00+02:00'), until('31 March')]).toEqual([
      ...[true, true, false],
    ]);
  });
});

it('a set without values makes a link of each page', () => {
  expect(combine(['l.example'], { tags: { utm_source: [] } }, 10)).toEqual({
    rows: [{ landing: 'l.example', tags: {} }],
    leftOut: 0,
  });
  expect(combine([], { tags: { utm_source: ['a'] } }, 10)).toEqual({ rows: [], leftOut: 0 });
});

describe('the tags that stand in an address', () => {
  const tags = ['utm_source', 'utm_medium', 'market'];
  it.each([
    ['https://l.example/?utm_source=A+b&market=uk&x=1', { utm_source: 'A b', market: 'uk' }],
    ['https://l.example/?utm_source=a&utm_source=b&utm_medium=', { utm_source: 'a' }],
    ['https://l.example/#utm_source=a', {}],
    ['no address', {}],
  ])('%s: %o', (address, found) => expect(Object.fromEntries(arrivedTags(address, tags))).toEqual(found));
  it('are cut where they are longer than is kept', () => {
    expect(arrivedTags(`https://l.example/?market=${'x'.repeat(300)}`, tags)[0]![1]).toHaveLength(200);
  });
});
