import { beforeAll, expect, it } from 'vitest';
import { funnelBehindSchema, funnelQuerySchema, type FunnelView } from '../../src/core/results/funnel-view';
import { makeEditor } from './place';
import { ask, larkmoor, move, place, qualify, rest, time } from './walks';

/* A funnel over what browsers did: pages, a form, an outcome, on MariaDB and in the pool. */

const day = 86_400_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
const visitors: string[] = [];
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  // Three enquire, the first qualifies after six days.
  const begun = time;
  const deals: string[] = [];
  for (let i = 0; i < 3; i++) {
    move(begun + i * 3_600_000);
    const { deal, visitor } = await ask();
    visitors.push(visitor);
    deals.push(deal);
  }
  move(begun + 6 * day);
  await qualify(deals[0]!);
  await rest();
});

const steps = (...made: [kind: string, value: string, skip?: boolean, test?: string][]) =>
  JSON.stringify(made.map(([kind, value, skip = false, test = 'begins']) => ({ kind, value, skip, test })));
const usual = () => steps(['page', '/fleet'], ['form', 'test-ride'], ['outcome', 'FLT-QUAL']);
const query = (given: Record<string, string>) => funnelQuerySchema.parse({ range: 'weeks4', ...given });
const view = (given: Record<string, string>): Promise<FunnelView> => place.services.funnel.view(member, query(given));
const counts = ({ steps: found }: FunnelView) => found.map(({ made, lost, open }) => [made, lost, open]);

it('counts who went on, who may still, and who no longer can', async () => {
  const shown = await view({ steps: usual(), within: '30', by: 'source' });
  expect(counts(shown)).toEqual([
    [3, 0, 0],
    [3, 0, 0],
    [1, 0, 2],
  ]);
  expect(shown.rows).toMatchObject([{ text: 'quillsearch', made: [3, 3, 1] }]);
  expect(shown.sentence.title).toMatch(/^Of 3 visitors who opened a page whose path begins with \/fleet, 1 reached /);
  move(time + 60 * day);
  const later = await view({ steps: usual(), within: '30', range: 'weeks13' });
  expect(counts(later)[2]).toEqual([1, 2, 0]);
  expect(later.steps[2]).toMatchObject({ left: 2, instead: [] });
  const short = await view({ steps: usual(), within: '3', range: 'weeks13' });
  expect(counts(short)[2]).toEqual([0, 3, 0]);
});

it('in one visit ends with the visit; a pattern and a step that may be skipped are held against paths', async () => {
  const inVisit = await view({ steps: usual(), within: 'visit', range: 'weeks13' });
  expect(counts(inVisit).map(([made]) => made)).toEqual([3, 3, 0]);
  const patterned = steps(
    ['page', '^/fl[aeiou]{2}t', false, 'pattern'],
    ['page', '/nowhere', true],
    ['form', 'test-ride'],
  );
  expect(counts(await view({ steps: patterned, range: 'weeks13' })).map(([made]) => made)).toEqual([3, 0, 3]);
  const wrong = await view({ steps: steps(['page', '/fleet'], ['page', '(a+)+', false, 'pattern']), range: 'weeks13' });
  expect(wrong.problems).toEqual([expect.stringMatching(/^Step 2 fits no page: a repeat in it is repeated itself/)]);
  expect(counts(wrong)[1]![0]).toBe(0);
  const none = await view({ steps: steps(['page', '/nowhere']), range: 'weeks13' });
  expect(none.sentence.title).toBe('Nobody opened a page whose path begins with /nowhere in these days.');
});

it('every figure opens its journeys, also as a file', async () => {
  const asked = query({ steps: usual(), range: 'weeks13', within: '30', by: 'source' });
  const made = await place.services.funnel.behind(member, asked, funnelBehindSchema.parse({ step: '2', end: 'made' }));
  expect(made.rows.map(({ visitor }) => visitor)).toEqual([visitors[0]]);
  const lost = funnelBehindSchema.parse({ step: '2', end: 'lost', cell: 'quillsearch' });
  expect((await place.services.funnel.behind(member, asked, lost)).total).toBe(2);
  const [heading, ...rows] = await place.services.funnel.journeys(member, asked, lost);
  expect(heading).toHaveLength(6);
  expect(rows.map((row) => row.at(-1)).sort()).toEqual(visitors.slice(1).sort());
  const table = await place.services.funnel.table(member, asked);
  expect(table.map((row) => row.slice(0, 4))).toEqual([
    [
      'source',
      'opened a page whose path begins with /fleet',
      expect.stringContaining('sent the form'),
      expect.any(String),
    ],
    ['quillsearch', '3', '3', '1'],
    ['all together', '3', '3', '1'],
  ]);
});

it('begins with what a business has, and hides amounts from who may not see them', async () => {
  const shown = await view({});
  expect(shown.asked.steps.map(({ kind }) => kind)).toEqual(['page', 'form', 'outcome']);
  const blind = { ...member, role: { ...member.role, seesMoney: false } };
  expect((await place.services.funnel.view(blind, query({ by: 'source' }))).worth).toBeNull();
});
