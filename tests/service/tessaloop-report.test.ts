import { beforeAll, expect, it } from 'vitest';
import { costQuerySchema } from '../../src/core/results/cost-view';
import { threeCountsQuerySchema } from '../../src/core/results/three-counts-view';
import { makeReadReport } from '../../src/server/platforms/report';
import { makeEditor, rowsOf } from './place';
import { larkmoor, move, outside, place, rest, time } from './walks';

/* A platform that counts by the day something happened on, and counts some without us: its report confirms nothing. */

const day = 86_400_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
const get = (path: string) =>
  outside.tessaloop.app.request(path, { headers: { authorization: `Bearer ${outside.around.key('tessaloop key')}` } });
const read = async () => {
  const account = (await place.services.accounts.byKey(larkmoor.id, 'tessaloop'))!;
  return makeReadReport(
    place.services.context,
    place.services.accounts,
    place.services.releases,
  )(larkmoor.id, account.id);
};

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  for (let n = 0; n < 3; n++) await get('/out/rounds-rain');
  move(time + day);
  await rest();
});

it('what its ads cost stands beside other accounts’, and no clicks are missing of which it says nothing', async () => {
  expect(await read()).not.toBeNull();
  const { rows } = await place.services.cost.view(member, costQuerySchema.parse({ range: 'weeks4' }));
  const answer = await get('/report/spent?from=2027-01-01&to=2027-12-31');
  const [spent] = ((await answer.json()) as { rows: { pence: number; presses: number }[] }).rows;
  expect(rows.find(({ account }) => account === 'tessaloop')).toMatchObject({
    ...{ campaign: 'uk-27q1-brand-rounds', clicks: spent!.presses, amount: spent!.pence },
    own: { amount: spent!.pence, currency: 'GBP' },
  });
  const clicks = await rowsOf(place.db, "SELECT 1 FROM click_reports WHERE source = 'tessaloop'");
  expect(clicks).toEqual([]);
});

it('what it counts without us is said beside what it took, and confirms none that waits', async () => {
  const { tables } = place.services.context;
  const account = (await place.services.accounts.byKey(larkmoor.id, 'tessaloop'))!;
  const today = new Date(time).toISOString().slice(0, 10);
  await tables.outcomeReports.create({
    ...{ businessId: larkmoor.id, accountId: account.id, day: today, outcome: 'Fleet assessed' },
    ...{ counted: 3, readAt: new Date(time) },
  });
  const shown = await place.services.threeCounts.view(
    member,
    threeCountsQuerySchema.parse({ start: 'at:tessaloop', end: 'website', axis: 'outcome' }),
  );
  expect([shown.start.count, shown.start.why, shown.end.count]).toEqual([3, 'by outcome day, its own rules', 0]);
  expect(shown.steps.map(({ key, count }) => [key, count])).toEqual([
    ['without_us', -3],
    ['unexplained', 0],
  ]);
  expect(shown.sentence.title).toBe('Tessaloop counts 3, the website counts 0; every step between is known.');
});
