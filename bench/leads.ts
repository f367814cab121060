import { v7 } from 'uuid';
import { freshCondition, type Condition, type SegmentMeans } from '../src/core/leads/segments/condition';
import { compareRates, tell } from './lib/measure';
import { makeBenchPlace } from './lib/place';

/* A hundred thousand leads: their list, and segments counted while they are written, beside SQL written by hand. */

const leads = 100_000;
const atOnce = 5000;
const asked = 21;
const day = 86_400_000;

const { services, business, plain } = await makeBenchPlace();
const { people } = services;
const personId = await people.create('owner@larkmoor.example', 'Owner', 'a long password');
await people.grant({
  businessId: business,
  personId,
  role: 'owner',
  mayRelease: true,
  seesPeople: true,
  seesMoney: true,
});
const [member] = await people.memberships(personId);

/** Each with a visitor, one to three touches, a person, and a record in the CRM of most. */
async function make(): Promise<void> {
  await plain.query(
    'CREATE TEMPORARY TABLE made (n INT PRIMARY KEY, id UUID, visitor UUID, lead UUID, sent DATETIME(3))',
  );
  for (let from = 0; from < leads; from += atOnce) {
    const rows = Array.from({ length: atOnce }, (_, i) => {
      const n = from + i;
      const at = new Date(Date.now() - (n % 400) * day - n).toISOString().slice(0, 23).replace('T', ' ');
      return `(${n}, '${v7()}', '${v7()}', '${v7()}', '${at}')`;
    });
    await plain.query(`INSERT INTO made VALUES ${rows.join(',')}`);
  }
  const of = `'${business}'`;
  const source = "ELT(1 + n % 5, 'quillsearch', 'wrenwick', 'tessaloop', 'letter', '')";
  await plain.query(
    `INSERT INTO leads (business_id, id, account_id, crm_person, name, company, mail_domain, made_at, person_id, joined_by)
     SELECT ${of}, lead, UUID(), CONCAT('P-', n), CONCAT('Ada ', n), CONCAT('Bakery ', n), '', sent, lead, '' FROM made`,
  );
  for (const step of [0, 1, 2])
    await plain.query(
      `INSERT INTO touches (business_id, id, visitor_id, visit_id, hit_id, at, source, medium, campaign, content, term,
         utm_id, referrer, landing, platform, click_id, because, page_because, is_first, is_last, release_number)
       SELECT ${of}, UUID(), visitor, visitor, visitor, sent - INTERVAL ${9 - step} DAY,
         ${source.replace('n %', `(n + ${step}) %`)}, 'partner', CONCAT('campaign-', n % 40), '', '', '', '', 'larkmoor.example/fleet',
         '', '', 'campaign_values', 'campaign_values', ${step} = 0, ${step} = n % 3, 1 FROM made WHERE n % 3 >= ${step}`,
    );
  await plain.query(
    `INSERT INTO enquiries (business_id, id, lead_id, touch_id, visitor_id, form, page, sent_at, fields, marked, stage,
       release_number, way_in, quality, quality_reason, answered_by, said_quality, said_reason, said_by, said_answered_by)
     SELECT ${of}, m.id, m.lead, (SELECT t.id FROM touches t WHERE t.business_id = ${of} AND t.visitor_id = m.visitor
         ORDER BY t.at DESC LIMIT 1), m.visitor, IF(n % 7 = 0, 'call-back', 'test-ride'), '', sent, '[]', '',
       ELT(1 + n % 6, 'Asked', 'Spoken', 'Fleet assessed', 'Offer', 'Signed', 'Not this time'), 1, 'form',
       ELT(1 + n % 4, 'unanswered', 'answering', 'qualified', 'disqualified'), '', '', '', '', '', '' FROM made m`,
  );
  for (const table of ['leads', 'touches', 'enquiries']) await plain.query(`ANALYZE TABLE ${table}`);
}

/** Half and nineteen in twenty of some answers, in ms. */
async function time(name: string, work: () => Promise<unknown>): Promise<void> {
  const times: number[] = [];
  for (let i = 0; i < asked; i++) {
    const began = performance.now();
    await work();
    times.push(performance.now() - began);
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => Math.round(times[Math.ceil(share * asked) - 1]!);
  console.log(`${name}: p50 ${at(0.5)} ms, p95 ${at(0.95)} ms of ${asked} (aim 300 ms)`);
}

await make();
const all = { find: '', sort: 'sentAt', descending: 'yes', page: 1, quality: '', segment: '' } as const;
const list = (query: Partial<typeof all> | object) => () =>
  services.leads.page(member!.business, member!.role, { ...all, ...query });
await time('leads, the newest', list({}));
await time('leads, page 1,000', list({ page: 1000 }));
await time('leads by company', list({ sort: 'company' }));

const meaning = (...conditions: Partial<Condition>[]): SegmentMeans => ({
  match: 'all',
  conditions: conditions.map((one) => ({ ...freshCondition(one.about), ...one })),
});
const segments: [name: string, means: SegmentMeans][] = [
  ['of a partner by any touch, this month', meaning({ values: ['wrenwick'] }, { about: 'enquired', days: 30 })],
  ['of a partner by any touch', meaning({ values: ['wrenwick'] })],
  ['of a partner by their first touch', meaning({ touch: 'first', values: ['wrenwick'] })],
  ['of no partner', meaning({ test: 'is_not', values: ['wrenwick'] })],
  ['unanswered at a stage', meaning({ about: 'quality' }, { about: 'stage', values: ['Asked', 'Spoken'] })],
];
for (const [name, means] of segments)
  await time(`segment counted, ${name}`, () => services.segments.effect(member!, '', means));

const [, partner] = segments[1]!;
/** What somebody would write for this one segment, and for the newest of it. */
async function plainly(): Promise<number> {
  const began = performance.now();
  const held = `FROM enquiries e WHERE e.business_id = ? AND e.marked = '' AND e.quality <> 'no_enquiry'
    AND EXISTS (SELECT 1 FROM touches t WHERE t.business_id = e.business_id AND t.visitor_id = e.visitor_id
      AND t.source = 'wrenwick')`;
  const [row] = (await plain.query(
    `SELECT COUNT(*) AS n, COUNT(DISTINCT l.person_id) AS people ${held.replace(
      'WHERE',
      `LEFT JOIN leads l
       ON l.business_id = e.business_id AND l.id = e.lead_id WHERE`,
    )}`,
    [business],
  )) as { n: number }[];
  await plain.query(`SELECT e.id ${held} ORDER BY e.sent_at DESC, e.id DESC LIMIT 5`, [business]);
  counts.plain = Number(row!.n);
  return 1000 / (performance.now() - began);
}
const counts = { plain: 0, ours: 0 };
async function ours(): Promise<number> {
  const began = performance.now();
  counts.ours = (await services.segments.effect(member!, '', partner)).enquiries;
  return 1000 / (performance.now() - began);
}
const compared = await compareRates('a segment of 100,000', 0.6, 'counts', plainly, ours);
if (counts.plain !== counts.ours) throw new Error(`${counts.ours} counted, ${counts.plain} by hand`);
tell([compared]);
