import { afterAll, beforeAll, expect, it } from 'vitest';
import { leadListSchema } from '../../src/core/leads/schema';
import { figuresQuerySchema } from '../../src/core/results/figures-view';
import { threeCountsQuerySchema } from '../../src/core/results/three-counts-view';
import { visitsQuerySchema } from '../../src/core/results/visits-view';
import { day, idAt, makeEditor, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

/* Results are read from a replica, where there is one; everything else from the database itself. */

const nowhere = 'http://nowhere.localhost:1';
let replica: Awaited<ReturnType<typeof makePlace>>;
let place: Awaited<ReturnType<typeof makePlace>>;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];

beforeAll(async () => {
  replica = await makePlace();
  place = await makePlace({ AVRIX_RESULTS_DATABASE_URL: replica.url });
  const places = { quillsearch: nowhere, oakledger: nowhere, key: (key: string) => key };
  const { id: businessId } = await setUpLarkmoor(place.services, places);
  ({ member } = await makeEditor(place.services, businessId));
  // A replica has what the database has; what only it has shows who is asked.
  const { touches, visits, enquiries } = replica.services.context.tables;
  const [id, at] = [idAt(noon - day, 1), new Date(noon - day)];
  const own = { businessId, id, visitorId: id };
  await touches.create({
    ...{ ...own, visitId: id, hitId: id, at, source: 'letter', medium: 'email', campaign: '', content: '', term: '' },
    ...{ utmId: '', referrer: '', landing: '', platform: '', clickId: '', because: 'campaign_values' },
    ...{ pageBecause: 'campaign_values', isFirst: true, isLast: true, releaseNumber: 1 },
  } as never);
  await visits.create({
    ...{ ...own, startedAt: at, endedAt: at, pages: 1, forms: 1, touchId: id, browser: '', gapHours: null },
    ...{ previousOn: null, marked: '' },
  } as never);
  await enquiries.create({
    ...{
      ...own,
      form: 'test-ride',
      page: '',
      sentAt: at,
      fields: [],
      marked: '',
      quality: 'unanswered',
      wayIn: 'form',
    },
    ...{ releaseNumber: 1, qualityReason: '', answeredBy: '', saidQuality: '', saidReason: '', saidBy: '' },
    ...{ saidAnsweredBy: '' },
  } as never);
});
afterAll(async () => {
  await place.services.context.resultsDb.close();
  await place.end();
  await replica.end();
});

it('reads figures, visits and three counts there, and leads, views that are kept and everything else here', async () => {
  const asked = figuresQuerySchema.parse({ count: 'leads', by: 'source', credit: 'decay.7', against: 'none' });
  const { rows } = await place.services.figures.view(member, asked);
  expect(rows.map(({ cells, figures }) => [cells[0]!.text, figures])).toEqual([['letter', [1000]]]);
  expect((await place.services.visits.view(member, visitsQuerySchema.parse({}))).total).toBe(1);
  const counts = await place.services.threeCounts.view(member, threeCountsQuerySchema.parse({}));
  expect(counts.asked.outcome).toBe('FLT-QUAL');

  await place.services.savedViews.save(member, 'Ines', { kind: 'figures', name: 'By source', query: 'by=source' });
  const kept = 'SELECT name FROM figure_views';
  expect(await rowsOf(place.db, kept)).toEqual([{ name: 'By source' }]);
  expect(await rowsOf(replica.db, kept)).toEqual([]);
  expect((await place.services.figures.view(member, asked)).saved).toHaveLength(1);
  expect((await place.services.leads.page(member.business, member.role, leadListSchema.parse({}))).total).toBe(0);
});
