import { beforeAll, expect, it } from 'vitest';
import { figuresQuerySchema, type FiguresView } from '../../src/core/results/figures-view';
import type { Progress } from '../../src/core/results/progress';
import { runReporting } from '../../src/server/pool';
import { makeAsked } from '../../src/server/results/asked';
import { addUp, makeEditor } from './place';
import { larkmoor, place, time } from './walks';

/* Figures of many thousand leads: they say how far they are, and are worked out once for whoever asks meanwhile. */

const many = 12_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
const query = figuresQuerySchema.parse({ count: 'leads', by: 'source', credit: 'position.40.40', range: 'weeks4' });

beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
  const at = new Date(time - 3_600_000);
  const made = { replacements: [larkmoor.id, at] };
  await place.db.query(
    `INSERT INTO enquiries (business_id, id, visitor_id, form, page, sent_at, fields, marked, release_number, way_in, quality,
       quality_reason, answered_by, said_quality, said_reason, said_by, said_answered_by)
     SELECT ?, UUID(), UUID(), 'test-ride', '', ?, '[]', '', 1, 'form', 'unanswered', '', '', '', '', '', '' FROM seq_1_to_${many}`,
    made,
  );
  await place.db.query(
    `INSERT INTO touches (business_id, id, visitor_id, visit_id, hit_id, at, source, medium, campaign, content, term, utm_id,
       referrer, landing, platform, click_id, because, page_because, is_first, is_last, release_number)
     SELECT business_id, UUID(), visitor_id, visitor_id, visitor_id, sent_at, 'letter', 'email', '', '', '', '', '', '', '', '',
       'campaign_values', 'campaign_values', 1, 1, 1 FROM enquiries`,
  );
  await addUp(place, larkmoor.id);
});

/** All that is told until the figures are there. */
async function follow(): Promise<{ progress: Progress[]; answer: FiguresView }> {
  const progress: Progress[] = [];
  for await (const told of place.services.figures.follow(member, query)) {
    if ('answer' in told) return { progress, answer: told.answer };
    progress.push(told.progress);
  }
  throw new Error('It ended without an answer.');
}

it('says how far it is, and gives everybody who asks meanwhile the same figures', async () => {
  const [one, other] = await Promise.all([follow(), follow()]);
  expect(one.answer.rows.map(({ cells, figures }) => [cells[0]!.text, figures])).toEqual([['letter', [many * 1000]]]);
  expect(other.answer).toEqual(one.answer);
  expect(one.answer.working).toBeNull();
  for (const { done, of } of one.progress) expect(done <= of && (of === 0 || of === many)).toBe(true);

  // Another order or page of the same is not worked out anew; other figures are.
  await place.db.query("UPDATE enquiries SET quality = 'no_enquiry' LIMIT 1000");
  expect((await place.services.figures.view(member, { ...query, sort: 'leads' })).sums.figures).toEqual([many * 1000]);
  await addUp(place, larkmoor.id);
  const last = await place.services.figures.view(
    member,
    figuresQuerySchema.parse({ ...query, count: 'leads', by: 'source', credit: 'last' }),
  );
  expect(last.sums.figures).toEqual([(many - 1000) * 1000]);
});

it('is told by the thread itself how far that is, from nothing on and never back', async () => {
  const { releases, context } = place.services;
  const { askedOf, daysOf } = makeAsked(context, releases);
  const release = await releases.live(larkmoor.id);
  const { days } = await daysOf(member, release, query);
  const told: Progress[] = [];
  const asked = await askedOf(member, release, ['leads'], [{ by: ['source'], days }], query);
  const [found] = await runReporting('workOutFigures', asked, 60_000, (progress) => told.push(progress));
  expect(found!.rows).toEqual([{ cells: ['letter'], values: [(many - 1000) * 1000] }]);
  expect(told[0]).toEqual({ done: 0, of: many - 1000 });
  expect(told.length).toBeGreaterThan(2);
  for (const [i, { done, of }] of told.entries()) {
    expect(of).toBe(many - 1000);
    if (i > 0) expect(done).toBeGreaterThan(told[i - 1]!.done);
  }
});

it('opens a page with what is there by then, or says that it goes on', async () => {
  const open = await place.services.figures.open(
    member,
    figuresQuerySchema.parse({ count: 'leads', credit: 'decay.3' }),
  );
  expect(open.working === null ? open.sums.figures[0] : open.rows).toEqual(
    open.working === null ? (many - 1000) * 1000 : [],
  );
  expect(open.sentence.title).toMatch(open.working === null ? /^11,000 leads/ : /take a while/);
});
