import { beforeAll, expect, it } from 'vitest';
import { behindQuerySchema, figuresQuerySchema, type FiguresView } from '../../src/core/results/figures-view';
import { dayIn } from '../../src/server/days';
import { addUp, idAt, makeEditor } from './place';
import { clickOn, makeBrowser } from './shop';
import { larkmoor, move, place, rest, time } from './walks';

/* What buyers and subscriptions are worth: who bought before, what a visitor brings in 30 days, what a subscription brings in its life. */

const day = 86_400_000;
const zone = 'Europe/London';
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let began = '';
let visitor = '';

const view = (query: Record<string, string>): Promise<FiguresView> =>
  place.services.figures.view(member, figuresQuerySchema.parse({ against: 'none', range: 'weeks13', ...query }));
const of = async (source: string, query: Record<string, string>) => {
  const { rows } = await view({ by: 'source', ...query });
  return rows.find(({ cells }) => cells[0]!.text === source)?.figures;
};

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const buyer = makeBrowser();
  ({ visitor } = buyer);
  began = dayIn(zone, time);
  await buyer.lands(await clickOn('quillsearch'));
  // Each order brings £60.00: £129.00 less delivery, tax and what the goods cost.
  buyer.says('WO-1');
  await buyer.hands();
  for (const [number, later] of [
    ['WO-2', 5],
    ['WO-3', 40],
  ] as const) {
    move(time + later * day);
    buyer.says(number);
    await buyer.hands();
  }
  const other = makeBrowser();
  await other.lands(await clickOn('wrenwick'));
  other.says('WO-4');
  await other.hands();
  await addUp(place, larkmoor.id);
});

it('who bought before is a returning buyer, by whatever the orders are credited to', async () => {
  const counted = { count: 'won,new_buyers,returning_buyers' };
  expect(await of('quillsearch', counted)).toEqual([3000, 1000, 2000]);
  expect(await of('wrenwick', counted)).toEqual([1000, 1000, 0]);
  // That it bought before these days counts too.
  const last = { range: 'own', from: dayIn(zone, time - day), to: dayIn(zone, time) };
  expect(await of('quillsearch', { ...counted, ...last })).toEqual([1000, 0, 1000]);
  const behind = await place.services.behindFigures.view(
    member,
    figuresQuerySchema.parse({ range: 'weeks13', by: 'source' }),
    behindQuerySchema.parse({ of: 'returning_buyers', row: '["quillsearch"]' }),
  );
  expect(behind.rows.map(({ name }) => name)).toEqual(['WO-3', 'WO-2']);
});

it('a visitor is worth what it brought within 30 days of its first visit, where that came from', async () => {
  const query = { count: 'visitors,profit_30_per_visitor', range: 'own', from: began, to: began };
  expect(await of('quillsearch', query)).toEqual([1, 12_000]);
  const shown = await view({ ...query, by: 'source' });
  expect(shown.sums.figures).toEqual([1, 12_000]);
  expect(shown.notes).toContain('Profit in 30 days is that of each visitor’s first 30 days.');
  const behind = await place.services.behindFigures.view(
    member,
    figuresQuerySchema.parse({ ...query, by: 'source' }),
    behindQuerySchema.parse({ of: 'profit_30_per_visitor', row: '["quillsearch"]' }),
  );
  expect(behind.rows.map(({ name, credited }) => [name, credited])).toEqual([
    ['WO-2', 6000],
    ['WO-1', 6000],
  ]);
  expect((await view({ count: 'profit_30_per_visitor' })).notes.join()).toContain('are not over yet');
  const blind = { ...member, role: { ...member.role, seesMoney: false } };
  const asked = figuresQuerySchema.parse({ count: 'profit_30_per_visitor,lifetime,new_buyers' });
  expect((await place.services.figures.view(blind, asked)).counted).toEqual(['new_buyers']);
});

it('a subscription is worth all that it brought until today, by what led to its sign-up', async () => {
  const { tables } = place.services.context;
  const id = idAt(time, 91_001);
  const token = idAt(time, 91_002);
  const businessId = larkmoor.id;
  await tables.signUps.create({
    ...{ businessId, id: token, leadToken: token, visitorId: visitor, hitId: token, form: 'care-start', page: '/care' },
    ...{ at: new Date(time), visitNumber: 1, strands: [], lastPaid: null, marked: '', consent: null, releaseNumber: 1 },
  } as never);
  await tables.subscriptions.create({
    ...{ businessId, id, number: 'C-1', leadToken: token, clickId: '', firstAt: new Date(time) },
    ...{ strands: [], marked: '', paidAt: null },
  } as never);
  const pays = (n: number, at: number, worth: number, corrected: number | null) =>
    tables.outcomes.create({
      ...{ businessId, id: idAt(at, 91_010 + n), code: 'SHP-PAID', version: 1, dedupeKey: `payment C-1-${n}` },
      ...{ subjectKind: 'subscription', subjectId: id, happenedAt: new Date(at), evidence: { kind: 'order' } },
      ...{ amountMinor: String(worth), worthMinor: String(worth), currency: 'GBP', winRateWon: null, winRateOf: null },
      ...{ correctedMinor: corrected === null ? null : String(corrected), worthChange: '', changeCause: '' },
      ...{ changedAt: null, countedAt: new Date(at), releaseNumber: 1 },
    } as never);
  await pays(1, time, 2500, null);
  // Renewed twice after the days that are looked at; of the second a part was given back.
  await pays(2, time + 30 * day, 2500, null);
  await pays(3, time + 60 * day, 2500, 1000);
  const [from, to] = [dayIn(zone, time), dayIn(zone, time)];
  move(time + 70 * day);
  await rest();
  const query = { count: 'subscribers,lifetime,lifetime_per_subscriber', range: 'own', from, to, credit: 'first' };
  expect(await of('quillsearch', query)).toEqual([1000, 6000, 6000]);
  const shown = await view(query);
  expect(shown.notes).toContain(
    'Life-time profit is what subscriptions that began in these days have brought until today.',
  );
  const behind = await place.services.behindFigures.view(
    member,
    figuresQuerySchema.parse({ ...query, by: 'source' }),
    behindQuerySchema.parse({ of: 'lifetime' }),
  );
  expect(behind.rows).toMatchObject([{ name: 'C-1', what: 'subscribed', whole: 6000 }]);
});
