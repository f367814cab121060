import { beforeAll, expect, it } from 'vitest';
import { figuresQuerySchema } from '../../src/core/results/figures-view';
import { visitsQuerySchema, type VisitsView } from '../../src/core/results/visits-view';
import { makeEditor, rowsOf } from './place';
import { ask, larkmoor, move, place, rest, time } from './walks';

/* Visits one by one: with and without a lead, of one browser, and behind a figure. */

let member: Awaited<ReturnType<typeof makeEditor>>['member'];
const visitors: string[] = [];
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  for (let i = 0; i < 3; i++) {
    visitors.push((await ask()).visitor);
    move(time + 86_400_000);
  }
  await rest();
});
const query = (given: Record<string, string>) => visitsQuerySchema.parse({ range: 'weeks4', ...given });
const view = (given: Record<string, string>): Promise<VisitsView> => place.services.visits.view(member, query(given));

it('are listed with what brought them and what they led to, the newest first, each with its lead', async () => {
  const shown = await view({ columns: 'source,channel,pages,lead' });
  expect(shown.sentence.title).toBe('3 visits, 3 of them with a lead.');
  expect(shown.rows.map(({ visitor }) => visitor)).toEqual(visitors.toReversed());
  expect(shown.rows[0]!.cells.source).toEqual({ text: 'quillsearch', isValue: true });
  expect(shown.rows[0]!.cells.channel!.isValue).toBe(false);
  expect(shown.rows[0]!.path).toMatch(/^\/leads\/[0-9a-f-]{36}$/);
  expect((await view({ lead: 'without' })).sentence.title).toBe('No visit is like this in these days.');
  const blind = { ...member, role: { ...member.role, seesPeople: false } };
  const hidden = await place.services.visits.view(blind, query({ columns: 'lead' }));
  expect(hidden.rows[0]!.cells.lead!.text).not.toBe(shown.rows[0]!.cells.lead!.text);
});

it('are found, sorted, and of one browser whatever the days', async () => {
  expect((await view({ find: 'quill' })).total).toBe(3);
  expect((await view({ find: '_' })).total).toBe(0);
  const oldest = await view({ sort: 'at', descending: 'no' });
  expect(oldest.rows.map(({ visitor }) => visitor)).toEqual(visitors);
  expect((await view({ browser: visitors[0]!, range: 'week' })).rows).toHaveLength(1);
  move(time + 200 * 86_400_000);
  expect((await view({ browser: visitors[0]! })).rows).toHaveLength(1);
  expect((await view({})).rows).toHaveLength(0);
  move(time - 200 * 86_400_000);
});

it('behind a figure are as many as it says, by values and by times', async () => {
  const { rows } = await place.services.figures.view(
    member,
    figuresQuerySchema.parse({ count: 'visits,visitors', by: 'source,day', range: 'weeks4', against: 'none' }),
  );
  expect(rows).toHaveLength(3);
  for (const { row, figures } of rows) {
    expect((await view({ by: 'source,day', row })).total).toBe(figures[0]);
    expect((await view({ by: 'source,day', row, first: 'yes' })).total).toBe(figures[1]);
  }
  expect((await view({ by: 'source', row: '["nobody"]' })).total).toBe(0);
  // What is no list of cells narrows nothing.
  expect((await view({ by: 'source', row: 'x' })).total).toBe(3);
});

it('as a file have the columns that are shown', async () => {
  const rows: Record<string, string>[] = [];
  for await (const part of place.services.visits.all(member, query({ columns: 'source,lead' }))) rows.push(...part);
  expect(Object.keys(rows[0]!)).toEqual(['at', 'source', 'lead', 'visitor']);
  expect(await rowsOf(place.db, 'SELECT id FROM visits')).toHaveLength(rows.length);
});
