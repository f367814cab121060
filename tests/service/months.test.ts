import { beforeAll, expect, it } from 'vitest';
import { monthsQuerySchema, type MonthsView } from '../../src/core/results/months-view';
import { addUp, makeEditor, rowsOf } from './place';
import { ask, larkmoor, move, place, rest, time } from './walks';

/* Months by funnel stage and channel: closed, a month stays as it was, and what changed since stands apart. */

const day = 86_400_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
const view = (given: Record<string, string> = {}): Promise<MonthsView> =>
  place.services.months.view(member, monthsQuerySchema.parse(given));
const close = (month: string, closed: boolean, who = member) =>
  place.services.months.close(who, 'Ines', { month, closed });
/** The month that the tests begin in. */
let first = '';
const of = async (month: string, given: Record<string, string> = {}) => {
  const { periods, sums } = await view(given);
  const at = periods.findIndex(({ key }) => key === month);
  return { figure: sums.figures[at], ...periods[at]! };
};

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  first = new Date(time).toISOString().slice(0, 7);
  for (let i = 0; i < 3; i++) await ask();
  await place.services.context.tables.campaigns.create({
    ...{ businessId: larkmoor.id, id: larkmoor.id, name: 'UK-27q1-fleet-winterproof', friendly: 'Winterproof' },
    ...{ stage: 'asking', startsOn: null, endsOn: null, budgetMinor: null, currency: 'GBP', owner: '', note: '' },
    ...{
      crmAccount: null,
      crmId: null,
      crmType: '',
      madeAt: new Date(time),
      changedAt: new Date(time),
      retiredAt: null,
    },
  } as never);
  await addUp(place, larkmoor.id);
});

it('stand by what their campaigns are there for, then by channel, and the one that runs cannot be closed', async () => {
  const { stages, periods, sentence } = await view({ months: '2' });
  expect(periods.map(({ key, isOver }) => [key, isOver])).toEqual([
    [expect.any(String), true],
    [first, false],
  ]);
  expect(stages).toMatchObject([
    {
      stage: { text: 'win enquiries', isValue: false },
      figures: [0, 3000],
      channels: [{ channel: { text: 'Paid search' }, figures: [0, 3000] }],
    },
  ]);
  expect(sentence.title).toMatch(/^0 leads in /);
  await expect(close(first, true)).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
});

it('closed, a month stays as it was, also by who came first; what changed since stands apart, until it is opened again', async () => {
  move(time + 31 * day);
  await rest();
  await close(first, true);
  expect(await of(first)).toMatchObject({ figure: 3000, closed: { by: 'Ines' }, since: 0 });
  await expect(close(first, true)).rejects.toThrow(/closed already/);
  // One of them turns out to be none.
  await place.db.query("UPDATE enquiries SET quality = 'no_enquiry' ORDER BY id LIMIT 1");
  await addUp(place, larkmoor.id);
  expect(await of(first)).toMatchObject({ figure: 3000, since: -1000 });
  expect(await of(first, { credit: 'first' })).toMatchObject({ figure: 3000, since: -1000 });
  const quarter = `${first.slice(0, 4)}-Q${Math.ceil(Number(first.slice(5)) / 3)}`;
  expect(await of(quarter, { each: 'quarter', months: '1' })).toMatchObject({ closed: null });
  expect(await of(first, { count: 'leads_per_visit' })).toMatchObject({ figure: 1, since: null });
  const table = await place.services.months.table(member, monthsQuerySchema.parse({ months: '2' }));
  expect(table[0]!.slice(0, 3)).toEqual(['funnel stage', 'channel', first]);
  expect(table.at(-1)).toEqual(['all together', '', '3', '0', '3']);

  await close(first, false);
  expect(await of(first)).toMatchObject({ figure: 2000, closed: null, since: null });
  await close(first, false);
  const log = await rowsOf<{ became: string }>(
    place.db,
    'SELECT became FROM change_log WHERE subject = ? ORDER BY id',
    [`Month ${first}`],
  );
  expect(log.map(({ became }) => became)).toEqual(['closed', 'open']);
});

it('are closed by who may change something, with amounts also where that person sees none', async () => {
  const reader = { ...member, role: { ...member.role, role: 'reader' as const } };
  await expect(close(first, true, reader)).rejects.toThrow(/right to change/);
  const blind = { ...member, role: { ...member.role, seesMoney: false } };
  await close(first, true, blind);
  expect(await of(first, { count: 'profit' })).toMatchObject({ figure: 0, since: 0 });
  const hidden = await place.services.months.view(blind, monthsQuerySchema.parse({ count: 'profit' }));
  expect(hidden.asked.count).toBe('leads');
});
