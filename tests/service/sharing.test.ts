import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { larkmoorWork } from '../../demo/setup/work';
import type { GridRow } from '../../src/core/links';
import { planColumns, writePlanRows } from '../../src/core/plan/plan-rows';
import type { Membership } from '../../src/server/people/people';
import { files } from '../../src/server/files/tables';
import { tableResponse } from '../../src/server/files/write-table';
import { setupSchema } from '../../src/server/setup';
import { makePlace, rowsOf } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let owner: Membership;

beforeAll(async () => {
  place = await makePlace();
  const { people, setUpBusiness } = place.services;
  const id = await people.create('owner@larkmoor.example', 'Owner', 'a long password');
  const { larkmoorSetup } = await import('../../demo/setup/business');
  const nowhere = 'http://nowhere.localhost:1';
  await setUpBusiness(
    setupSchema.parse({
      ...larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (name) => name }),
      ...larkmoorWork('http://larkmoor.localhost'),
    }),
  );
  owner = (await people.memberships(id))[0]!;
});
afterAll(() => place.end());

const asRequest = async (response: Response): Promise<Request> =>
  new Request('http://avrix.localhost/', { method: 'POST', body: await response.arrayBuffer() });

describe('a business that is set up with its work', () => {
  it('has its campaigns, tag sets, links and short links as their owner made them', async () => {
    const { campaigns, making, links, shortLinks } = place.services;
    expect((await campaigns.view(owner)).rows).toHaveLength(8);
    const view = await making.view(owner);
    expect(view.tagSets.map(({ name }) => name)).toEqual(['Cargo fair', 'Letter, top and foot']);
    expect(view.campaigns.find(({ name }) => name === 'uk-27q1-fleet-letter')!.medium).toBe('email');
    expect(view.usual).toMatchObject({ email: 'larkmoor-letter', fair: 'cargo-fair' });
    const list = await links.list(owner, {
      find: '',
      sort: 'url',
      descending: 'no',
      page: 1,
      show: 'used',
    });
    // One is its fault, the other a campaign that nobody has pulled from the CRM yet.
    expect(list.rows.flatMap(({ problems }) => problems)).toEqual([
      'Baker Weekly goes with `partner`, not with `paid-social`.',
      'Campaign `uk-27q2-fleet-cargo-fair`: it is not in the campaign register.',
    ]);
    expect((await shortLinks.view(owner)).rows.map(({ path }) => path).sort()).toEqual(['bakery', 'cargo-fair']);
  });

  it('offers each campaign with the medium that its type in the CRM stands for', async () => {
    const { campaigns } = await place.services.making.view(owner);
    expect(Object.fromEntries(campaigns.map(({ name, medium }) => [name, medium]))).toMatchObject({
      'uk-27q1-fleet-winterproof': 'paid-search',
      'uk-27q1-fleet-baker-weekly': 'partner',
    });
  });
});

describe('the plan as a file', () => {
  it.each(['json', 'csv', 'xlsx'] as const)('of %s, read back, changes nothing', async (format) => {
    const request = await asRequest(await place.services.planShare.file(owner, format));
    expect(await place.services.planShare.compare(owner, request)).toEqual({ changes: [], problems: [] });
  });

  it('that was changed says which sentences would be otherwise, and stores none of it', async () => {
    const { content } = await place.services.releases.live(owner.business.id);
    const rows = writePlanRows(content)
      .map((row) => [...row])
      .filter(([rule, name]) => !(rule === 'channel' && name === 'print'));
    rows.find(([, name, field]) => name === 'utm_content' && field === 'required')![3] = 'true';
    rows.push(['alias', 'utm_medium=ppc', 'tag', 'utm_medium', '']);
    rows.push(['alias', 'utm_medium=ppc', 'value', 'ppc', '']);
    rows.push(['alias', 'utm_medium=ppc', 'means', 'paid-search', '']);
    const request = await asRequest(await tableResponse('plan', 'xlsx', [planColumns, ...rows]));
    const { changes, problems } = await place.services.planShare.compare(owner, request);
    expect(problems).toEqual([]);
    expect(changes).toMatchObject([
      {
        was: expect.stringMatching(/A link may go without it, for example/),
        will: expect.stringMatching(/Every link has it, for example/),
      },
      { was: null, will: '`ppc` in `utm_medium` is read as `paid-search`.' },
      { was: expect.stringMatching(/^`print` is Print in results/), will: null },
    ]);
    expect(await place.services.draft.count(owner.business.id)).toBe(0);
  });

  it('with rows that cannot be read names them and offers the rest', async () => {
    const text =
      'rule,name,field,value,label\nreferrer,a.example,host,a.example\nreferrer,a.example,channel,\ntea,x,y,z\n';
    const request = new Request('http://avrix.localhost/', { method: 'POST', body: text });
    const { problems } = await place.services.planShare.compare(owner, request);
    expect(problems.map(({ row, was }) => `${row}: ${was}`)).toEqual([
      'row 4: “tea” is no kind of rule',
      'row 2, referrer a.example: channel must say the channel',
    ]);
  });

  it('that is none is refused with what is wrong', async () => {
    const send = (body: string) =>
      place.services.planShare.compare(owner, new Request('http://avrix.localhost/', { method: 'POST', body }));
    await expect(send('{"tag": ')).rejects.toMatchObject({ code: 'AVX_BODY_NOT_JSON' });
    await expect(send('a,b\n1,2')).rejects.toThrow(
      'The file has no column “rule”, “name”, “field”, “value”; it has a, b.',
    );
  });

  it('shows which hidden fields carry each value and which of them the CRM does not read', async () => {
    const { flow, tagSets } = await place.services.planShare.view(owner);
    expect(flow[0]).toEqual({
      words: 'click ID',
      link: 'qsid, wwk',
      kept: '90 days, 45 days',
      field: 'click_id',
      unread: 'click_ref',
      crm: 'click_id',
    });
    expect(flow.slice(1).map(({ link, field, crm }) => [link, field, crm])).toEqual(
      ['source', 'medium', 'campaign', 'content'].map((name) => [`utm_${name}`, name, name]),
    );
    expect(tagSets).toHaveLength(2);
  });
});

describe('the grid as a file', () => {
  const rows: GridRow[] = [
    { landing: 'larkmoor.localhost/fleet', tags: { utm_source: 'larkmoor-letter', utm_medium: 'email' } },
    { landing: 'larkmoor.localhost/=shop', tags: { utm_content: '@top' } },
  ];
  it.each(['csv', 'xlsx'] as const)('of %s has the columns that were wanted and is read back', async (format) => {
    const plan = await place.services.linkPlanOf(owner.business.id);
    const wanted = ['utm_content as Place', 'landing', 'utm_source', 'utm_medium', 'utm_content', 'link as Address'];
    const response = await files.writeLinks(format, plan, rows, wanted);
    expect(response.headers.get('content-disposition')).toBe(`attachment; filename="links.${format}"`);
    const back = await files.readLinks(await asRequest(response), plan);
    expect(back.problems).toEqual([]);
    expect(back.rows.map(({ landing, tags }) => [landing, tags.utm_source, tags.utm_content])).toEqual([
      ['larkmoor.localhost/fleet', 'larkmoor-letter', ''],
      ['larkmoor.localhost/=shop', '', '@top'],
    ]);
  });
});

describe('campaigns as a file', () => {
  it('come back as they are, and what is new is told before it is taken', async () => {
    const { campaigns } = place.services;
    const { rows } = await campaigns.view(owner);
    const request = await asRequest(await files.writeCampaigns('xlsx', rows));
    const back = await files.readCampaigns(request, 'GBP');
    expect(await campaigns.compare(owner, back.rows)).toMatchObject({ fresh: [], changed: [], refused: [], same: 8 });
    const text = 'name,friendly,budget\nuk-27q2-shop-locks,Locks,1200.50\n';
    const more = await files.readCampaigns(new Request('http://a.example/', { method: 'POST', body: text }), 'EUR');
    const { fresh } = await campaigns.compare(owner, more.rows);
    expect(fresh).toMatchObject([
      { campaign: { name: 'uk-27q2-shop-locks', budget: '1200.50', currency: 'EUR', stage: 'asking' } },
    ]);
    const [stored] = await rowsOf<{ n: number }>(place.db, 'SELECT COUNT(*) AS n FROM campaigns');
    expect(Number(stored!.n)).toBe(8);
  });
});
