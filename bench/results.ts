import { v7 } from 'uuid';
import { makeFigures, type CountedSubject } from '../src/core/results/figures';
import { figuresQuerySchema } from '../src/core/results/figures-view';
import { readingOf } from '../src/core/results/reading';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

/*
 * What figures cost: a million touches credited beside one plain pass over them, and leads by source of 92 days, read from
 * a quarter of a million enquiries, beside SQL written by hand.
 */

const enquiries = 250_000;
const touchesOfEach = 4;
const atOnce = 5000;
const day = 86_400_000;
const sources = ['quillsearch', 'wrenwick', 'tessaloop', 'larkmoor-letter', 'baker-weekly'];

const { services, business, plain } = await makeBenchPlace();
const { people } = services;
const personId = await people.create('owner@larkmoor.example', 'Owner', 'a long password');
const role = { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true } as const;
await people.grant({ businessId: business, personId, ...role });
const [member] = await people.memberships(personId);
const { content } = await services.releases.live(business);

// One pass that adds up, and nothing else: no order of touches, no shares that add up, no reading of values.
const subjects = Array.from({ length: enquiries }, (_, n): CountedSubject => {
  const until = Date.now() - (n % 400) * day;
  return {
    id: `${n}`,
    day: new Date(until).toISOString().slice(0, 10),
    until,
    touches: Array.from({ length: touchesOfEach }, (__, i) => ({
      id: `${n} ${i}`,
      at: until - i * day,
      values: {
        ...{ source: sources[(n + i) % sources.length]!, medium: 'partner', campaign: `campaign-${(n + i) % 40}` },
        ...{ content: '', term: '', platform: '', referrerHost: '', landing: '' },
      },
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
const attribution = await compareRates('attribution of a million touches', 1 / 1.5, 'touches', onePass, credited);
if (sums.plain !== sums.ours) throw new Error(`${sums.ours} credited, ${sums.plain} by hand`);

await plain.query('CREATE TEMPORARY TABLE made (n INT PRIMARY KEY, id UUID, visitor UUID, sent DATETIME(3))');
for (let from = 0; from < enquiries; from += atOnce) {
  const rows = Array.from({ length: atOnce }, (_, i) => {
    const n = from + i;
    const at = new Date(Date.now() - (n % 400) * day - n).toISOString().slice(0, 23).replace('T', ' ');
    return `(${n}, '${v7()}', '${v7()}', '${at}')`;
  });
  await plain.query(`INSERT INTO made VALUES ${rows.join(',')}`);
}
const of = `'${business}'`;
for (let step = 0; step < touchesOfEach; step++)
  await plain.query(
    `INSERT INTO touches (business_id, id, visitor_id, visit_id, hit_id, at, source, medium, campaign, content, term,
       utm_id, referrer, landing, platform, click_id, because, page_because, is_first, is_last, release_number)
     SELECT ${of}, UUID(), visitor, visitor, visitor, sent - INTERVAL ${9 - step} DAY,
       ELT(1 + (n + ${step}) % 5, ${sources.map((one) => `'${one}'`).join(',')}), 'partner', CONCAT('campaign-', n % 40), '', '',
       '', '', 'larkmoor.example/fleet', '', '', 'campaign_values', 'campaign_values', 0, 0, 1 FROM made`,
  );
await plain.query(
  `INSERT INTO enquiries (business_id, id, visitor_id, form, page, sent_at, fields, marked, release_number, way_in, quality,
     quality_reason, answered_by, said_quality, said_reason, said_by, said_answered_by)
   SELECT ${of}, id, visitor, 'test-ride', '', sent, '[]', '', 1, 'form', 'unanswered', '', '', '', '', '', '' FROM made`,
);
for (const table of ['touches', 'enquiries']) await plain.query(`ANALYZE TABLE ${table}`);

const query = figuresQuerySchema.parse({ count: 'leads', by: 'source', range: 'weeks13', against: 'none' });
const counts = { plain: '', ours: '' };
async function ours(): Promise<number> {
  const began = performance.now();
  const { rows } = await services.figures.view(member!, query);
  counts.ours = JSON.stringify(rows.map(({ cells, figures }) => [cells[0]!.text, figures[0]! / 1000]).sort());
  return 1000 / (performance.now() - began);
}
const { range } = await services.figures.view(member!, query);
/** The last touch before each enquiry, counted by source. */
async function byHand(): Promise<number> {
  const began = performance.now();
  const rows = (await plain.query(
    `SELECT t.source, COUNT(*) AS n FROM enquiries e JOIN touches t ON t.business_id = e.business_id AND t.id = (
       SELECT o.id FROM touches o WHERE o.business_id = e.business_id AND o.visitor_id = e.visitor_id AND o.at <= e.sent_at
       ORDER BY o.at DESC, o.id DESC LIMIT 1)
     WHERE e.business_id = ? AND e.sent_at >= ? AND e.sent_at < ? + INTERVAL 1 DAY AND e.marked = ''
       AND e.quality <> 'no_enquiry' GROUP BY t.source`,
    [business, range.firstDay, range.lastDay],
  )) as { source: string; n: number }[];
  counts.plain = JSON.stringify(rows.map(({ source, n }) => [source, Number(n)]).sort());
  return 1000 / (performance.now() - began);
}
const report = await compareRates('leads by source, 92 days', 1 / 1.3, 'reports', byHand, ours);
if (counts.plain !== counts.ours) throw new Error(`${counts.ours} counted, ${counts.plain} by hand`);
tell([attribution, report]);
