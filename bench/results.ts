import { makeFigures, type CountedSubject } from '../src/core/results/figures';
import { figuresQuerySchema } from '../src/core/results/figures-view';
import { readingOf } from '../src/core/results/reading';
import { makeFiguresStation } from '../src/server/results/figures-station';
import { inTransaction } from '../src/server/db';
import { markMoments } from '../src/server/rollups/marks';
import { makeRollUp } from '../src/server/rollups/roll-up';
import { insertDay, sums as rollUps } from '../src/server/rollups/sums';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';
import { byHand, fillResults, leadsOfDay, touchesOfEach, type Asked } from './lib/results-data';

/*
 * What figures cost: a million touches credited beside one plain pass over them; reports over a million visits, a quarter of a
 * million enquiries and 60,000 orders of 400 days, beside SQL written by hand for the same figures; and the sums of one
 * day, beside the same grouping by hand.
 */

const enquiries = 250_000;
const day = 86_400_000;

const { services, business, plain } = await makeBenchPlace();
const { people, context } = services;
const personId = await people.create('owner@larkmoor.example', 'Owner', 'a long password');
const role = { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true } as const;
await people.grant({ businessId: business, personId, ...role });
const [member] = await people.memberships(personId);
const { content } = await services.releases.live(business);

// One pass that adds up, and nothing else: no order of touches, no shares that add up, no reading of values.
const came = Array.from({ length: 200 }, (_, n) => ({
  ...{ source: `source-${n % 5}`, medium: 'partner', campaign: `campaign-${n % 40}`, content: '', term: '' },
  ...{ platform: '', referrerHost: '', landing: '' },
}));
const subjects = Array.from({ length: enquiries }, (_, n): CountedSubject => {
  const until = Date.now() - (n % 400) * day;
  return {
    id: `${n}`,
    day: new Date(until).toISOString().slice(0, 10),
    until,
    touches: Array.from({ length: touchesOfEach }, (__, i) => ({
      id: `${n} ${i}`,
      at: until - i * day,
      values: came[(n + i) % came.length]!,
    })),
    place: null,
    counts: ['leads'],
    amounts: {},
  };
});
const rateOf = (work: () => void) => {
  const began = performance.now();
  work();
  return Promise.resolve((1000 * enquiries * touchesOfEach) / (performance.now() - began));
};
const sums = { plain: 0, ours: 0 };
const onePass = () =>
  rateOf(() => {
    const rows = new Map<string, number>();
    for (const { touches } of subjects)
      for (const { values } of touches) {
        const key = `${values.source}\n${values.campaign}`;
        rows.set(key, (rows.get(key) ?? 0) + 1000 / touches.length);
      }
    sums.plain = [...rows.values()].reduce((sum, one) => sum + one, 0);
  });
const credited = () =>
  rateOf(() => {
    const figures = makeFigures(['leads'], ['source', 'campaign'], readingOf(content));
    for (const subject of subjects) figures.addSubject(subject, { kind: 'even' });
    sums.ours = figures.rows().reduce((sum, { values }) => sum + values[0]!, 0);
  });
const results = [await compareRates('attribution of a million touches', 0.667, 'touches', onePass, credited)];
if (sums.plain !== sums.ours) throw new Error(`${sums.ours} credited, ${sums.plain} by hand`);
subjects.length = 0;

await fillResults(plain, business, enquiries);
const rollUp = makeRollUp(context);
async function sumUp(days: number): Promise<number> {
  const moments = Array.from({ length: days }, (_, n) => Date.now() - (n + 1) * day);
  await inTransaction(context.db, (transaction) => markMoments(context.db, business, moments, transaction, 0));
  const began = performance.now();
  await rollUp(business);
  return performance.now() - began;
}
await rollUp(business);
console.log(`400 days summed up in ${Math.round((await sumUp(400)) / 1000)} s`);

/** A report as the station gives it, and by hand; both have to say the same. */
async function report(name: string, asked: Asked): Promise<void> {
  const query = figuresQuerySchema.parse({ ...asked.query, against: 'none' });
  const { range } = await services.figures.view(member!, query);
  const said = { bare: '', ours: '' };
  const times: number[] = [];
  async function ours() {
    const began = performance.now();
    // A station of its own each time, since one keeps what took long.
    const station = makeFiguresStation(context, services.releases, services.savedViews, services.dayNotes);
    const { rows } = await station.view(member!, query);
    times.push(performance.now() - began);
    said.ours = JSON.stringify(
      rows.map(({ cells, figures }) => [cells.map(({ text }) => text).join(' '), figures[0]]).sort(),
    );
    return 1000 / times.at(-1)!;
  }
  async function bare() {
    const began = performance.now();
    const rows = await asked.read(plain, business, range);
    said.bare = JSON.stringify(rows.map(({ cells, n }) => [cells, Number(n)]).sort());
    return 1000 / (performance.now() - began);
  }
  results.push(await compareRates(name, 0.769, 'reports', bare, ours));
  console.log(`  ours in ${Math.round(times.sort((a, b) => a - b)[times.length >> 1]!)} ms`);
  if (said.bare !== said.ours) throw new Error(`${name}: ${said.ours}, by hand ${said.bare}`);
}
for (const [name, asked] of Object.entries(byHand)) await report(name, asked);

/** The same rows of a day grouped by hand, and nothing kept of it. */
async function groupedByHand(): Promise<number> {
  const from = Math.floor(Date.now() / day) * day - day;
  const began = performance.now();
  for (const sum of rollUps) {
    const { sql, replacements } = insertDay(sum, business, '', '', from, from + day);
    // Without what numbers and stores them.
    await plain.query(sql.slice(sql.indexOf('FROM (') + 6, sql.lastIndexOf(') AS summed')), replacements.slice(3));
  }
  for (const sql of leadsOfDay) await plain.query(sql, [business, new Date(from), new Date(from)]);
  return 1000 / (performance.now() - began);
}
results.push(await compareRates('sums of a day', 0.4, 'days', groupedByHand, async () => 1000 / (await sumUp(1))));
tell(results);
