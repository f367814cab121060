import { expect, it } from 'vitest';
import { everything, strandListSchema } from '../../src/core/strands/schema';
import type { Hop } from '../../src/core/strands';
import { makeEditor } from './place';
import { ask, larkmoor, move, place, qualify, time } from './walks';

/* The line of some days, as their clicks are followed and as it happened. */

const day = 24 * 3_600_000;
const dayOf = (at: number) => new Date(at).toISOString().slice(0, 10);

it('counts a deal that qualified ten days after its click in the days of the click, or in those in which it qualified', async () => {
  const { member } = await makeEditor(place.services, larkmoor.id);
  const { business, role } = member;
  const { deal, qsid } = await ask();
  await ask();
  const clicked = dayOf(time);
  move(time + 10 * day);
  await qualify(deal);
  const qualified = dayOf(time);

  const choice = (on: string, view: 'followed' | 'happened') =>
    ({ range: 'own', from: on, to: on, way: 'form', ...everything, view }) as const;
  const count = async (on: string, view: 'followed' | 'happened') => {
    const { columns } = await place.services.strands.line(business, role, choice(on, view));
    const at = (hop: Hop) => columns.find((column) => column.hop === hop)!.count;
    return [at('landed'), at('form_sent'), at('qualified'), at('told')];
  };
  expect(await count(clicked, 'followed')).toEqual([2, 2, 1, 1]);
  expect(await count(clicked, 'happened')).toEqual([2, 2, 0, 0]);
  expect(await count(qualified, 'followed')).toEqual([0, 0, 0, 0]);
  expect(await count(qualified, 'happened')).toEqual([0, 0, 1, 1]);

  const asked = strandListSchema.parse({ hop: 'qualified' });
  const list = (view: 'followed' | 'happened') =>
    place.services.strands.strands(business, role, choice(qualified, view), asked);
  const { rows, sentence } = await list('happened');
  expect(rows.map(({ clickId }) => clickId)).toEqual([qsid]);
  expect(sentence.under).toMatch(/^They came there from /);
  expect((await list('followed')).total).toBe(0);
});

it('counts a click that qualified twice on the day on which it first did', async () => {
  const { member } = await makeEditor(place.services, larkmoor.id, 'Nell');
  const first = await ask();
  await qualify(first.deal);
  const before = dayOf(time);
  move(time + 2 * day);
  const again = await ask({ clickId: first.qsid });
  await qualify(again.deal);
  const count = async (day: string) => {
    const choice = { range: 'own', from: day, to: day, way: 'form', ...everything, view: 'happened' } as const;
    const { columns } = await place.services.strands.line(member.business, member.role, choice);
    return columns.find(({ hop }) => hop === 'qualified')!.count;
  };
  expect([await count(before), await count(dayOf(time))]).toEqual([2, 0]);
});
