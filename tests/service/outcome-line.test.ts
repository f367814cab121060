import { beforeAll, expect, it } from 'vitest';
import { everything, strandListSchema } from '../../src/core/strands/schema';
import type { Hop } from '../../src/core/strands';
import type { OutcomeRule } from '../../src/core/outcomes';
import { makeEditor } from './place';
import { ask, larkmoor, move, place, qualify, rest, time } from './walks';

/* The line of another outcome than the Qualified of its way in: up to the CRM the same, from there on its own. */

const day = 24 * 3_600_000;
const signed: OutcomeRule = {
  ...{ code: 'FLT-SIGNED', version: 1, words: 'Lease signed', kind: 'agreement', clickDays: 80 },
  reachedBy: { kind: 'stage', stage: 'Signed' },
  worth: { kind: 'none' },
  countedOnceFor: 'enquiry',
};
const twin: OutcomeRule = { ...signed, code: 'FLT-TWIN', reachedBy: { kind: 'stage', stage: 'Fleet assessed' } };
const hops: Hop[] = ['landed', 'kept', 'form_sent', 'in_crm', 'qualified', 'told', 'confirmed'];
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let begun: string;

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const { content } = await place.services.releases.live(larkmoor.id);
  const [telling] = content.telling.filter((one) => one.outcome === 'FLT-QUAL' && one.platform === 'quillsearch');
  move(time + 1000);
  await place.services.releases.make(larkmoor.id, {
    name: 'Leases',
    note: '',
    content: {
      ...content,
      outcomes: [...content.outcomes, signed, twin],
      telling: [...content.telling, { ...telling!, outcome: signed.code, delayMinutes: 0 }],
    },
  });
  begun = new Date(time).toISOString().slice(0, 10);
});

const choice = (outcome: string, more: object = {}) => ({
  ...({ range: 'own', from: begun, to: new Date(time).toISOString().slice(0, 10), way: 'form' } as const),
  ...everything,
  outcome,
  ...more,
});
const line = (...of: Parameters<typeof choice>) =>
  place.services.strands.line(member.business, member.role, choice(...of));
const counts = async (...of: Parameters<typeof choice>) => {
  const { columns } = await line(...of);
  return hops.map((hop) => columns.find((column) => column.hop === hop)!.count);
};
const list = async (query: object, ...of: Parameters<typeof choice>) => {
  const asked = strandListSchema.parse(query);
  return place.services.strands.strands(member.business, member.role, choice(...of), asked);
};

it('counts leases that were signed, with the rows behind each number and what became of the rest', async () => {
  const [first, second, third] = [await ask(), await ask(), await ask()];
  await ask({ form: 'call-back' });
  await qualify(first.deal);
  await qualify(second.deal, 'Signed');
  await qualify(third.deal, 'Not this time');
  move(time + 10 * 60_000);
  await rest();

  expect((await counts('')).slice(0, 5)).toEqual([4, 4, 4, 3, 2]);
  const { columns, losses, sentence, outcomes, outcome } = await line('FLT-SIGNED');
  expect(columns.map(({ count }) => count)).toEqual([columns[0]!.count, 4, 4, 4, 3, 1, 1, expect.any(Number)]);
  expect(outcome).toBe('FLT-SIGNED');
  expect(outcomes.map(({ id }) => id)).toEqual(['FLT-SIGNED', 'FLT-TWIN']);
  expect(sentence.title).toMatch(/^FLT-SIGNED: of 4 enquiries /);
  expect(sentence.under).toMatch(/^1 reached FLT-SIGNED\. 1 was lost there: /);
  // Quillsearch knows no outcome of that name.
  expect(losses.map(({ to }) => to).sort()).toEqual(['confirmed', 'in_crm']);

  const made = await list({ hop: 'qualified' }, 'FLT-SIGNED');
  expect(made.rows.map(({ clickId }) => clickId)).toEqual([second.qsid]);
  expect(made.sentence.title).toBe('1 click came to FLT-SIGNED.');
  const waiting = await list({ hop: 'qualified', state: 'waiting' }, 'FLT-SIGNED');
  expect(waiting.rows.map(({ clickId, lastHop }) => [clickId, lastHop])).toEqual([[first.qsid, 'In CRM']]);
  expect(waiting.sentence.title).toBe('1 click waits between In CRM and FLT-SIGNED.');
  const left = await list({ hop: 'qualified', state: 'left', reason: 'disqualified' }, 'FLT-SIGNED');
  expect(left.rows.map(({ clickId }) => clickId)).toEqual([third.qsid]);
  expect((await list({ hop: 'in_crm', state: 'lost' }, 'FLT-SIGNED')).total).toBe(1);
  expect((await list({ hop: 'in_crm' }, 'FLT-SIGNED')).total).toBe(3);
});

it('is the line itself for an outcome that is reached by the same, but for what is told of it', async () => {
  expect((await counts('FLT-TWIN')).slice(0, 5)).toEqual((await counts('')).slice(0, 5));
  const { columns } = await line('FLT-TWIN');
  expect(columns.find(({ hop }) => hop === 'qualified')!.leftNotes.map(({ code, strands }) => [code, strands])).toEqual(
    [['no_platform_to_tell', 2]],
  );
  // The Qualified of the way in, by its code, is the line itself.
  const own = await line('FLT-QUAL');
  expect([own.outcome, own.sentence]).toEqual(['', (await line('')).sentence]);
});

it('narrows further by platform, and counts what happened in some days', async () => {
  expect((await counts('FLT-SIGNED', { platform: 'quillsearch' })).slice(0, 5)).toEqual([4, 4, 4, 3, 1]);
  expect(await counts('FLT-SIGNED', { platform: 'tessaloop' })).toEqual([0, 0, 0, 0, 0, 0, 0]);
  const { deal, qsid } = await ask();
  const clicked = new Date(time).toISOString().slice(0, 10);
  move(time + 5 * day);
  await qualify(deal, 'Signed');
  move(time + 10 * 60_000);
  await rest();
  const today = new Date(time).toISOString().slice(0, 10);
  const happened = (on: string) => counts('FLT-SIGNED', { from: on, to: on, view: 'happened' });
  expect((await happened(today)).slice(2, 6)).toEqual([0, 0, 1, 1]);
  expect((await happened(clicked))[4]).toBe(1);
  const rows = await list({ hop: 'qualified' }, 'FLT-SIGNED', { from: today, view: 'happened' });
  expect(rows.rows.map(({ clickId }) => clickId)).toEqual([qsid]);
  const csv = [];
  const asked = strandListSchema.parse({ hop: 'qualified' });
  for await (const part of place.services.strands.allStrands(member.business, member.role, choice('FLT-SIGNED'), asked))
    csv.push(...part);
  expect(csv.map(({ clickId }) => clickId)[0]).toBe(qsid);
});
