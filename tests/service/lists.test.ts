import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { LeadFileRow } from '../../src/core/strands';
import { leadListSchema } from '../../src/core/leads/schema';
import { rangeSchema, strandListSchema } from '../../src/core/strands/schema';
import { setClock } from '../../src/server/clock';
import type { RoleRow, StandingRow } from '../../src/server/db';
import { hashMail, hashTelephone } from '../../src/server/secrets';
import { addUp, day, idAt, makePlace, noon, setUpLarkmoor, standAt } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
const role = { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true } as RoleRow;

const companies = ['Zoë’s 100%_Bread', 'anchor cafe', 'Bakery Oriel', 'Émile Fleurs'];

beforeAll(async () => {
  place = await makePlace();
  const nowhere = 'http://nowhere.localhost:1';
  larkmoor = await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (name) => name });
  const { tables, config } = place.services.context;
  const { secretKey } = config;
  const businessId = larkmoor.id;
  const standings: Pick<StandingRow, 'reached' | 'state' | 'reason'>[] = [
    { reached: 8, state: null, reason: null },
    {
      reached: 4,
      state: 'lost',
      reason: '{"code":"crm_field_differs","form":"call-back","sent":"click_ref","read":"click_id"}',
    },
    { reached: 4, state: 'lost', reason: '{"code":"crm_never"}' },
    { reached: 5, state: 'waiting', reason: '{"code":"not_qualified_yet","stage":"Asked"}' },
  ];
  for (const [i, company] of companies.entries()) {
    const at = new Date(noon - i * day);
    const strandId = idAt(noon, 100 + i);
    const leadId = idAt(noon, 200 + i);
    await tables.strands.create({
      businessId,
      id: strandId,
      kind: 'click',
      platform: 'quillsearch',
      clickId: `Qs${i}`,
      firstAt: at,
      source: 'quillsearch',
      medium: 'paid-search',
      campaign: `c${i}`,
      content: '',
      visitorId: idAt(noon, 9),
      shared: false,
    } as never);
    await standAt(place, { businessId, id: strandId, firstAt: at }, standings[i]!);
    await tables.touches.create({
      businessId,
      id: idAt(noon, 400 + i),
      visitorId: idAt(noon, 9),
      at,
      hitId: idAt(noon, 500 + i),
      visitId: idAt(noon, 9),
      because: 'click_id_new',
      pageBecause: 'click_id_new',
      releaseNumber: 1,
      source: 'quillsearch',
      medium: 'paid-search',
      campaign: `c${i}`,
      content: '',
      term: '',
      utmId: '',
      referrer: '',
      landing: 'larkmoor.localhost/fleet',
      platform: 'quillsearch',
      clickId: `Qs${i}`,
    } as never);
    await tables.leads.create({
      businessId,
      id: leadId,
      accountId: idAt(noon, 1),
      crmPerson: `P${i}`,
      name: `Person ${i}`,
      company,
      mailDomain: 'oriel.example',
      madeAt: at,
      personId: leadId,
      joinedBy: '',
    });
    await tables.identities.bulkCreate([
      { businessId, leadId, kind: 'mail', hash: hashMail(secretKey, `p${i}@oriel.example`) },
      { businessId, leadId, kind: 'telephone', hash: hashTelephone(secretKey, `01632 96012${i}`) },
    ]);
    const enquiryId = idAt(noon, 300 + i);
    await tables.deals.create({
      businessId,
      id: enquiryId,
      accountId: idAt(noon, 1),
      number: `D-${i}`,
      enquiryId,
      leadId,
      record: {} as never,
      stage: 'Asked',
      madeAt: at,
      mergedInto: '',
    });
    await tables.enquiries.create({
      businessId,
      id: enquiryId,
      leadId,
      strandId,
      form: 'test-ride',
      page: '',
      sentAt: at,
      fields: [],
      dealId: enquiryId,
      stage: 'Asked',
      releaseNumber: 1,
    } as never);
  }
  setClock(noon);
  await addUp(place, businessId);
});
afterAll(() => place.end());

const leads = async (query: object, as = role) =>
  place.services.leads.page(larkmoor.known, as, leadListSchema.parse(query));
const names = async (query: object) => (await leads(query)).rows.map((row) => row.company);

describe('the list of leads', () => {
  it('is newest first, and sorted by name without regard to case and accents where that is asked for', async () => {
    expect(await names({})).toEqual(companies);
    expect(await names({ sort: 'company', descending: 'no' })).toEqual([
      'anchor cafe',
      'Bakery Oriel',
      'Émile Fleurs',
      'Zoë’s 100%_Bread',
    ]);
  });

  it('finds by company, name, click ID, campaign and CRM number, whatever the case of a name', async () => {
    expect(await names({ find: 'emile' })).toEqual(['Émile Fleurs']);
    expect(await names({ find: 'person 2' })).toEqual(['Bakery Oriel']);
    expect(await names({ find: 'Qs1' })).toEqual(['anchor cafe']);
    expect(await names({ find: 'D-0' })).toEqual(['Zoë’s 100%_Bread']);
  });

  it('finds by what it shows in words, by email and by telephone however they are written, and with doubled spaces', async () => {
    expect(await names({ find: 'paid  search on quillsearch' })).toEqual(companies);
    expect(await names({ find: 'Ask for a test  ride' })).toEqual(companies);
    expect(await names({ find: 'bakery   oriel' })).toEqual(['Bakery Oriel']);
    expect(await names({ find: ' P3@Oriel.example' })).toEqual(['Émile Fleurs']);
    expect(await names({ find: '+44 1632 960121' })).toEqual(['anchor cafe']);
    expect(await names({ find: '(01632) 960-121' })).toEqual(['anchor cafe']);
    expect(await names({ find: 'asked' })).toEqual(companies);
    expect(await names({ find: 'nowhere to be found' })).toEqual([]);
    const blind = { ...role, seesPeople: false };
    expect((await leads({ find: 'p3@oriel.example' }, blind)).rows).toEqual([]);
    expect((await leads({ find: '01632 960121' }, blind)).rows).toEqual([]);
  });

  it('takes what is a pattern to the database as plain text', async () => {
    expect(await names({ find: '100%_' })).toEqual(['Zoë’s 100%_Bread']);
    expect(await names({ find: '%' })).toEqual(['Zoë’s 100%_Bread']);
    expect(await names({ find: "' OR 1=1 --" })).toEqual([]);
    expect(await names({ find: '\\' })).toEqual([]);
  });

  it('goes into a file with its campaign, click ID and CRM number', async () => {
    const { value: rows } = await place.services.leads.all(larkmoor.known, role, leadListSchema.parse({})).next();
    expect((rows as LeadFileRow[])[1]).toMatchObject({
      company: 'anchor cafe',
      campaign: 'c1',
      clickId: 'Qs1',
      crmDeal: 'D-1',
    });
  });

  it('sorts stages as the pipeline has them, not by the alphabet', async () => {
    const { tables } = place.services.context;
    const stages = ['Offer', 'Not this time', 'Asked', 'Spoken'];
    const setStage = (i: number, stage: string) =>
      tables.enquiries.update({ stage }, { where: { businessId: larkmoor.id, id: idAt(noon, 300 + i) } });
    await Promise.all(stages.map((stage, i) => setStage(i, stage)));
    const sorted = (await leads({ sort: 'stage', descending: 'no' })).rows.map(({ stage }) => stage);
    await Promise.all(stages.map((_, i) => setStage(i, 'Asked')));
    expect(sorted).toEqual(['Asked', 'Spoken', 'Offer', 'Not this time']);
  });

  it('opens with how many lost their value', async () => {
    expect((await leads({})).sentence.title).toBe('Of 4 enquiries, 2 lost their value on the way.');
    expect((await leads({ find: 'oriel' })).sentence.title).toBe('1 enquiry matches “oriel”.');
  });

  it('hides people from who does not see them, and does not find by them either', async () => {
    const blind = { ...role, seesPeople: false };
    expect((await leads({ find: 'oriel' }, blind)).rows).toEqual([]);
    const { rows } = await leads({}, blind);
    expect(rows).toHaveLength(4);
    expect(new Set(rows.map((row) => row.company))).toEqual(new Set(['name hidden']));
    expect(rows.every((row) => row.name === '')).toBe(true);
    expect((await leads({ find: 'Qs2' }, blind)).rows).toHaveLength(1);
  });

  it('shows no order of people to who does not see them', async () => {
    const blind = { ...role, seesPeople: false };
    for (const descending of ['yes', 'no']) {
      const ids = async (sort: string) => (await leads({ sort, descending }, blind)).rows.map(({ id }) => id);
      expect(await ids('company')).toEqual(await ids('sentAt'));
      const strandIds = async (sort: string) => {
        const query = strandListSchema.parse({ hop: 'landed', sort, descending });
        const range = rangeSchema.parse({});
        return (await place.services.strands.strands(larkmoor.known, blind, range, query)).rows.map(({ id }) => id);
      };
      expect(await strandIds('company')).toEqual(await strandIds('first_at'));
    }
    const found = strandListSchema.parse({ hop: 'landed', find: 'oriel' });
    expect((await place.services.strands.strands(larkmoor.known, blind, rangeSchema.parse({}), found)).rows).toEqual(
      [],
    );
  });

  it('takes nonsense in its address for the usual', async () => {
    expect(await names({ sort: 'password', page: '-1', descending: 'maybe' })).toEqual(companies);
    expect((await leads({ page: 9 })).rows).toEqual([]);
  });
});

describe('the strands behind a number', () => {
  const strands = async (query: object, range: object = {}) =>
    place.services.strands.strands(larkmoor.known, role, rangeSchema.parse(range), strandListSchema.parse(query));
  const clicks = async (query: object, range: object = {}) =>
    (await strands(query, range)).rows.map((row) => row.clickId);

  it('are those that made a hop, or stopped before it, by state and reason', async () => {
    expect(await clicks({ hop: 'form_sent', state: 'made_it' })).toEqual(['Qs0', 'Qs1', 'Qs2', 'Qs3']);
    expect(await clicks({ hop: 'confirmed', state: 'made_it' })).toEqual(['Qs0']);
    expect(await clicks({ hop: 'in_crm', state: 'lost' })).toEqual(['Qs1', 'Qs2']);
    expect(await clicks({ hop: 'in_crm', state: 'lost', reason: 'crm_never' })).toEqual(['Qs2']);
    expect(await clicks({ hop: 'qualified', state: 'waiting' })).toEqual(['Qs3']);
  });

  it('are found as leads are: by what is shown, by email and telephone, and not by who may not see people', async () => {
    const at = { hop: 'form_sent', state: 'made_it' };
    expect(await clicks({ ...at, find: 'paid search on quillsearch' })).toEqual(['Qs0', 'Qs1', 'Qs2', 'Qs3']);
    expect(await clicks({ ...at, find: ' P3@Oriel.example' })).toEqual(['Qs3']);
    expect(await clicks({ ...at, find: '(01632) 960-121' })).toEqual(['Qs1']);
    expect(await clicks({ ...at, find: 'bakery   oriel' })).toEqual(['Qs2']);
    const blind = { ...role, seesPeople: false };
    const query = strandListSchema.parse({ ...at, find: 'p3@oriel.example' });
    const range = rangeSchema.parse({});
    expect((await place.services.strands.strands(larkmoor.known, blind, range, query)).total).toBe(0);
  });

  it('are of the days of the range only', async () => {
    expect(await clicks({ hop: 'landed' }, { range: 'own', from: '2027-01-30', to: '2027-01-31' })).toEqual([
      'Qs1',
      'Qs2',
    ]);
  });

  it('agree with the number on the line, and say what they have in common', async () => {
    const line = await place.services.strands.line(larkmoor.known, role, rangeSchema.parse({}));
    const lost = line.losses.reduce((sum, loss) => sum + (loss.to === 'in_crm' ? loss.strands : 0), 0);
    const { total, sentence } = await strands({ hop: 'in_crm', state: 'lost' });
    expect([total, lost]).toEqual([2, 2]);
    expect(sentence.title).toBe('2 clicks were lost between Form sent and In CRM.');
    expect((await strands({ hop: 'in_crm', state: 'lost', reason: 'crm_never' })).sentence.title).toBe(
      '1 click was lost between Form sent and In CRM: never reached the CRM.',
    );
  });

  it('give the stations of the strip their counts', async () => {
    expect(await place.services.strands.losses(larkmoor.known)).toEqual({ Leads: 2 });
  });
});
