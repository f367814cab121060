import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { RoleRow, StrandRow } from '../../src/server/db';
import { everything, strandListSchema } from '../../src/core/strands/schema';
import { addUp, idAt, makePlace, noon, setUpLarkmoor, standAt } from './place';

const nowhere = 'http://nowhere.localhost:1';
const role = { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true } as RoleRow;
let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let accountId: string;
let made = 0;

beforeAll(async () => {
  place = await makePlace();
  larkmoor = await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (key) => key });
  accountId = (await place.services.accounts.byKey(larkmoor.id, 'quillsearch'))!.id;
});
afterAll(() => place.end());
beforeEach(async () => {
  for (const table of ['strands', 'click_reports', 'short_clicks']) await place.db.query(`DELETE FROM ${table}`);
});

async function landed(at: number, rest: Partial<StrandRow> = {}): Promise<void> {
  const id = idAt(at, ++made);
  await place.services.context.tables.strands.create({
    businessId: larkmoor.id,
    id,
    kind: 'click',
    platform: 'quillsearch',
    clickId: `Qs${made}`,
    firstAt: new Date(at),
    source: 'quillsearch',
    medium: 'paid-search',
    campaign: 'c1',
    content: '',
    utmId: '',
    visitorId: id,
    marked: '',
    shared: false,
    ...rest,
  } as StrandRow);
  const row = { businessId: larkmoor.id, id, firstAt: new Date(at) };
  await standAt(place, row, { reached: 3, state: 'left', reason: '{"code":"visit_ended"}' });
}
const reported = (day: string, campaign: string, clicks: number, number = '') =>
  place.services.context.db.query(
    `INSERT INTO click_reports (business_id, account_id, day, campaign, campaign_id, source, clicks, read_at)
     VALUES (?,?,?,?,?,'quillsearch',?,?)`,
    { replacements: [larkmoor.id, accountId, day, campaign, number, clicks, new Date(noon)] },
  );
const ownDays = (from: string, to = from) => ({ range: 'own', from, to, way: 'form', ...everything }) as const;
async function arrivals(from = '2027-02-01', to = from, narrowed: { platform?: string; campaign?: string } = {}) {
  await addUp(place, larkmoor.id);
  const line = await place.services.strands.line(larkmoor.known, role, { ...ownDays(from, to), ...narrowed });
  const [clicked, landings] = line.columns;
  return {
    clicked: clicked!.count,
    lost: clicked!.lost,
    landed: landings!.count,
    joined: line.landedUncounted,
    surplus: line.surplus,
  };
}

describe('Clicked and Landed of the line', () => {
  it('are compared in the days of the account, which is in New York', async () => {
    // 21:00 of 31 January there, 02:00 of 1 February here.
    await landed(Date.UTC(2027, 1, 1, 2));
    await landed(noon);
    await landed(Date.UTC(2027, 1, 2, 2));
    await reported('2027-02-01', 'c1', 2);
    expect(await arrivals()).toEqual({ clicked: 2, lost: 0, landed: 2, joined: 0, surplus: 0 });
    await reported('2027-01-31', 'c1', 1);
    expect(await arrivals('2027-01-31')).toMatchObject({ clicked: 1, lost: 0, landed: 0 });
  });

  it('are matched without letter case, by an alias, and by the campaign’s number', async () => {
    await landed(noon, { campaign: 'uk-27q1-fleet' });
    await landed(noon, { campaign: 'anything', utmId: '40318' });
    await reported('2027-02-01', 'UK-27q1-Fleet', 2);
    await reported('2027-02-01', 'Fleet, renamed', 1, '40318');
    expect(await arrivals()).toMatchObject({ clicked: 3, lost: 1, joined: 0 });
  });

  it('belong together by the click ID where the source is missing or another', async () => {
    for (let n = 0; n < 9; n++) await landed(noon, { source: n % 2 ? '' : 'letter' });
    await reported('2027-02-01', 'c1', 10);
    expect(await arrivals()).toMatchObject({ clicked: 10, lost: 1, landed: 9, joined: 0 });
  });

  it('of campaigns without any click count join, and are no loss', async () => {
    await landed(noon);
    await landed(noon, { kind: 'landing', platform: '', clickId: '', source: 'letter', campaign: 'c2' });
    await reported('2027-02-01', 'c1', 1);
    expect(await arrivals()).toEqual({ clicked: 1, lost: 0, landed: 2, joined: 1, surplus: 0 });
  });

  describe('narrowed to a platform or a campaign', () => {
    const of = (narrowed: { platform?: string; campaign?: string }) => arrivals('2027-02-01', '2027-02-01', narrowed);
    const social = { platform: 'tessaloop', source: 'tessaloop' };
    const letter = { kind: 'landing', platform: '', clickId: '', source: 'letter' } as const;
    beforeEach(async () => {
      await landed(noon);
      await landed(noon, { campaign: 'renamed', utmId: '40318' });
      // Its browser took the click ID off; the source is left.
      await landed(noon, { kind: 'landing', platform: '', clickId: '' });
      await landed(noon, { ...social, campaign: 'C1' });
      await landed(noon, { ...letter, campaign: 'c2' });
      await reported('2027-02-01', 'C1', 4);
      await reported('2027-02-01', 'Fleet', 3, '40318');
    });

    it.each([
      [{}, { clicked: 7, lost: 4, landed: 5, joined: 2, surplus: 0 }],
      [{ platform: 'quillsearch' }, { clicked: 7, lost: 4, landed: 3, joined: 0, surplus: 0 }],
      [{ campaign: 'c1' }, { clicked: 4, lost: 2, landed: 3, joined: 1, surplus: 0 }],
      [{ campaign: 'fleet' }, { clicked: 3, lost: 2, landed: 1, joined: 0, surplus: 0 }],
      [
        { campaign: 'c1', platform: 'tessaloop' },
        { clicked: null, lost: 0, landed: 1, joined: 1, surplus: 0 },
      ],
      [{ campaign: 'c2' }, { clicked: null, lost: 0, landed: 1, joined: 1, surplus: 0 }],
      [{ campaign: 'never seen' }, { clicked: null, lost: 0, landed: 0, joined: 0, surplus: 0 }],
    ])('%o', async (narrowed, wanted) => expect(await of(narrowed)).toEqual(wanted));

    it('offers the campaigns of its days, the most clicked first, and opens the rows of one', async () => {
      await addUp(place, larkmoor.id);
      const choice = { ...ownDays('2027-02-01'), campaign: 'c1' };
      const { campaigns, platforms, sentence } = await place.services.strands.line(larkmoor.known, role, choice);
      expect(campaigns.map(({ campaign, strands }) => [campaign, strands])).toEqual([
        ['c1', 3],
        ['c2', 1],
        ['fleet', 1],
      ]);
      expect(platforms).toContainEqual({ id: 'quillsearch', name: 'Quillsearch' });
      expect(sentence.title).toBe('c1: 3 tagged landings, no enquiry with a known paid click yet.');
      const list = await place.services.strands.strands(larkmoor.known, role, choice, strandListSchema.parse({}));
      expect([list.total, list.sentence.title]).toEqual([3, '3 clicks of c1 came to Landed.']);
    });
  });
});
