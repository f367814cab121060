import { createHmac } from 'node:crypto';
import { createServer, type Server } from 'node:http';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { freePorts } from '../../scripts/lib/ports.mjs';
import type { OwnCrm } from '../../src/core/crms/schema';
import { AvrixError } from '../../src/core/errors';
import { freshRoutine, freshStep } from '../../src/core/leads/routines/routine';
import { nothingRead } from '../../src/core/rules/own-crm';
import { setClock } from '../../src/server/clock';
import type { Membership, SignedIn } from '../../src/server/people/people';
import { clickStrandId, enquiryIdOf } from '../../src/core/strands';
import { idAt, makePlace, noon, rowsOf, pollCrm } from './place';

/* Records of a CRM that a business describes itself: sent, listed and in files. */

let place: Awaited<ReturnType<typeof makePlace>>;
let server: Server;
let port = 0;
let maud: SignedIn;
const members: Membership[] = [];
const accounts: { id: string; secret: string }[] = [];
/** What the list answers, by its path. */
let pages: Record<string, unknown> = {};
const asked: string[] = [];
/** What was sent to it, besides questions. */
const written: { line: string; body: unknown }[] = [];

const described: OwnCrm = {
  kind: 'harbour',
  words: 'Harbour',
  token: { header: 'x-key', before: '' },
  webhook: { proof: 'hmac', header: 'x-seal', recordsAt: '/record' },
  list: { path: '/list', since: { name: 'since', as: 'seconds' }, recordsAt: '/items', nextAt: '/more' },
  reads: {
    ...nothingRead,
    number: '/no',
    stage: '/stage',
    changedAt: '/at',
    mail: '/who/mail',
    company: '/firm',
    amounts: [{ name: 'value', at: '/value' }],
    fields: [{ name: 'click_id', at: '/extra/click' }],
  },
  columns: {
    ...nothingRead,
    number: '/number',
    stage: '/stage',
    company: '/company name',
    fields: [{ name: 'click_id', at: '/click id' }],
  },
  writes: null,
};
const record = (no: number, stage: string, minutes: number, more: object = {}) => ({
  no,
  stage,
  at: new Date(noon + minutes * 60_000).toISOString(),
  who: { mail: `p${no}@bakery.example` },
  firm: `Firm ${no}`,
  value: '1,249.50',
  extra: { click: 'SameClick' },
  ...more,
});

async function makeBusiness(name: string, host: string): Promise<void> {
  const key = await place.services.businessMaking.make(maud, members, {
    name,
    website: `https://${host}`,
    timeZone: 'UTC',
    currency: 'GBP',
  });
  members.push((await place.services.people.memberships(maud.id)).find(({ business }) => business.key === key)!);
}
const release = async (member: Membership) => {
  const { draft, releasing } = place.services;
  const { changes } = await draft.view(member);
  await releasing.release(member, maud.id, {
    name: 'Own CRM',
    seen: changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt })),
  });
};

beforeAll(async () => {
  port = await freePorts(5300 + 100 * Number(process.env.VITEST_POOL_ID ?? 0), 1);
  server = createServer(async (request, response) => {
    asked.push(request.url!);
    const chunks: Buffer[] = [];
    for await (const chunk of request) chunks.push(chunk as Buffer);
    if (request.method !== 'GET')
      written.push({ line: `${request.method} ${request.url}`, body: JSON.parse(Buffer.concat(chunks).toString()) });
    const [path] = request.url!.split('?');
    response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(pages[path!] ?? { items: [] }));
  });
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve));
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: `harbour.localhost:${port}` });
  setClock(noon);
  const id = await place.services.people.create('maud@bakery.example', 'Maud', 'a long password');
  maud = { id, sessionId: id, name: 'Maud', mail: '', preferences: { theme: 'system', singleKeys: true } };
  for (const [name, host] of [
    ['One', 'one.example'],
    ['Two', 'two.example'],
  ] as const)
    await makeBusiness(name, host);
  for (const member of members) {
    await place.services.draft.change(member, maud.id, [
      { kind: 'own_crm', id: 'harbour', value: described, from: null },
    ]);
    const made = await place.services.connections.connect(member, maud.id, {
      kind: 'harbour',
      name: 'Harbour',
      endpoint: `http://harbour.localhost:${port}`,
      timeZone: 'UTC',
      currency: 'GBP',
      token: 'k',
      webhookSecret: '',
      keepClickId: false,
    });
    accounts.push({ id: made.id, secret: made.webhookSecret });
  }
});
afterAll(async () => {
  await place.end();
  server.close();
});

const accountOf = async (n: number) => (await place.services.accounts.byId(members[n]!.business.id, accounts[n]!.id))!;
async function send(n: number, body: unknown, secret = accounts[n]!.secret): Promise<string> {
  const text = JSON.stringify(body);
  const seal = createHmac('sha256', secret).update(text).digest('hex');
  return place.services.crmEvents
    .take(await accountOf(n), text, (name) => (name === 'x-seal' ? seal : ''))
    .then(
      () => 'taken',
      (error: unknown) => (error instanceof AvrixError ? error.code : String(error)),
    );
}
const rest = () => place.services.runner.runToRest();
const known = (n: number) =>
  rowsOf<{ deal: string; stage: string; moves: string[]; amount: string }>(
    place.db,
    `SELECT number AS deal, stage, JSON_EXTRACT(record, '$.stageChanges[*].stage') AS moves,
       JSON_VALUE(record, '$.amounts.value.minor') AS amount
     FROM deals WHERE business_id = ? ORDER BY CAST(number AS INT)`,
    [members[n]!.business.id],
  );
const arrived = (n: number) => place.services.ownCrmArrivals.view(members[n]!, accounts[n]!.id);

describe('a record that is sent', () => {
  it('before its rule is live is kept as an example, and read once it is', async () => {
    expect(await send(0, { record: record(7, 'New', 0) })).toBe('taken');
    expect(await known(0)).toEqual([]);
    const { arrivals } = await arrived(0);
    expect(arrivals).toMatchObject([{ cameBy: 'webhook', problem: expect.stringContaining('not live yet') }]);
    expect(arrivals[0]!.parts).toContainEqual({ words: 'company', at: '/firm', value: 'Firm 7' });
    for (const member of members) await release(member);
    expect(await place.services.ownCrmArrivals.again(members[0]!, accounts[0]!.id)).toEqual({ taken: 1 });
    expect(await known(0)).toMatchObject([{ deal: '7', stage: 'New', amount: '124950' }]);
  });

  it('is refused without the right seal', async () => {
    expect(await send(0, { record: record(8, 'New', 0) }, 'another')).toBe('AVX_SEAL_WRONG');
    expect(await send(0, { record: record(8, 'New', 0) }, accounts[1]!.secret)).toBe('AVX_SEAL_WRONG');
  });

  it('again at another stage adds a move; one that comes late or twice changes nothing', async () => {
    await send(0, { record: record(7, 'Measured', 30) });
    await send(0, { record: record(7, 'Measured', 30) });
    await send(0, { record: record(7, 'New', 5) });
    expect(await known(0)).toMatchObject([{ deal: '7', stage: 'Measured', moves: ['New', 'Measured'] }]);
  });

  it('that cannot be read is answered and shown with what it lacks', async () => {
    expect(await send(0, { record: { ...record(9, 'New', 0), no: undefined } })).toBe('AVX_RECORD_UNREAD');
    expect(await send(0, { other: 1 })).toBe('AVX_RECORD_UNREAD');
    const problems = (await arrived(0)).arrivals.map(({ problem }) => problem);
    expect(problems.slice(0, 2)).toEqual([
      'there is no record at /record',
      expect.stringContaining('it has no value at /no, where the record’s number is read'),
    ]);
  });

  it('with the same number and click ID as another business’s stays with its own', async () => {
    await send(1, { record: record(7, 'Other', 40) });
    await rest();
    expect([await known(0), await known(1)]).toMatchObject([[{ stage: 'Measured' }], [{ stage: 'Other' }]]);
    const shared = await rowsOf(
      place.db,
      'SELECT id FROM enquiries GROUP BY id HAVING COUNT(DISTINCT business_id) > 1',
    );
    expect(shared).toEqual([]);
  });

  it('is kept as it came among the newest ten only', async () => {
    for (let n = 100; n < 115; n++) await send(1, { record: record(n, 'New', 0) });
    expect((await arrived(1)).arrivals).toHaveLength(10);
    const [{ n } = { n: 0 }] = await rowsOf<{ n: number }>(
      place.db,
      'SELECT COUNT(*) AS n FROM crm_arrivals WHERE business_id = ?',
      [members[1]!.business.id],
    );
    expect(n).toBe(10);
  });

  it('shows nobody who may not see people what is in it', async () => {
    const blind = { ...members[0]!, role: { ...members[0]!.role, seesPeople: false } };
    const { arrivals } = await place.services.ownCrmArrivals.view(blind, accounts[0]!.id);
    expect(arrivals.every(({ record: shown, parts }) => shown === null && parts.length === 0)).toBe(true);
  });
});

describe('a list of what changed', () => {
  const poll = async () => {
    setClock(noon + 3_600_000);
    return pollCrm(place.services, members[0]!.business.id, accounts[0]!.id);
  };

  it('is read page by page, from where it was left', async () => {
    asked.length = 0;
    pages = {
      '/list': { items: [record(21, 'New', 1)], more: '/page-2?x=1' },
      '/page-2': { items: [record(22, 'New', 2)], more: null },
    };
    await poll();
    expect(asked[0]).toMatch(/^\/list\?since=\d{10}$/);
    expect(asked[1]).toBe('/page-2?x=1');
    expect((await known(0)).map(({ deal }) => deal)).toEqual(['7', '21', '22']);
  });

  it('whose next page leads to another host is not followed: the key goes nowhere else', async () => {
    pages = { '/list': { items: [], more: 'https://evil.example/next' } };
    await expect(poll()).rejects.toThrow(/names https:\/\/evil\.example\/next as its next page, which is not below/);
    pages = { '/list': { nothing: true } };
    await expect(poll()).rejects.toThrow(/has no list at \/items/);
  });
});

describe('a file of records', () => {
  const file = (text: string) =>
    place.services.ownCrmArrivals.readFile(
      members[0]!,
      accounts[0]!.id,
      new Request('http://avrix.example/', { method: 'POST', body: text }),
    );

  it('is read by its remembered columns; rows that cannot be read are named and the rest goes on', async () => {
    const read = await file(
      'Number,Stage,Company name,Click ID\n31,New,Reed,c1\n,New,Nobody,c2\n32,Talking,Sedge,c3\n',
    );
    expect(read).toMatchObject({
      taken: 2,
      refused: [{ row: 'row 3', was: expect.stringContaining('no value at /number') }],
    });
    expect((await known(0)).map(({ deal }) => deal)).toContain('32');
  });

  it('without the column of its number is another file', async () => {
    await expect(file('Name,Stage\nx,New\n')).rejects.toThrow(/The file has no column “number”/);
  });
});

describe('a record of a CRM that says how it is written to', () => {
  it('gets what a rule says, and back what it lacks, by its own description', async () => {
    const member = members[0]!;
    const businessId = member.business.id;
    const own = {
      ...described,
      reads: { ...described.reads, fields: [...described.reads.fields, { name: 'lead_token', at: '/extra/token' }] },
      writes: {
        method: 'PATCH',
        before: '/records/',
        after: '',
        fields: [
          { name: 'click_id', at: '/extra/click' },
          { name: 'words', at: '/extra/words' },
        ],
      },
    };
    const { crm } = (await place.services.draft.content(businessId)).draft;
    const stages = { inOrder: ['New', 'Measured'], ended: [] };
    const reads = { account: 'harbour', stages, leadTokenField: 'lead_token', fields: { click_id: 'click_id' } };
    const says = { id: 'words', part: 'source', touch: 'enquiry', swap: '', fields: ['words'], when: 'empty' };
    await place.services.draft.change(member, maud.id, [
      { kind: 'own_crm', id: 'harbour', value: own },
      { kind: 'crm', id: '', value: reads, from: crm },
      { kind: 'crm_write', id: 'words', value: says, from: null },
    ]);
    await release(member);
    const token = await cameByClick(businessId);
    await send(0, { record: record(60, 'New', 60, { extra: { click: '', token } }) });
    await rest();
    expect(written.at(-1)).toEqual({ line: 'PATCH /records/60', body: { extra: { words: 'harbour-news' } } });
    expect(await place.services.repair.view(member)).toMatchObject({ records: 1 });
    expect(await place.services.repair.repair(member, 'Maud')).toEqual({ records: 1 });
    await rest();
    expect(written.at(-1)).toEqual({ line: 'PATCH /records/60', body: { extra: { click: 'H-click' } } });
    expect(await place.services.repair.view(member)).toMatchObject({ records: 0 });
  });

  /** A form that somebody sent who came by a click of a platform. @returns its lead token */
  async function cameByClick(businessId: string): Promise<string> {
    const { tables } = place.services.context;
    const { number } = await place.services.releases.live(businessId);
    const [visitorId, touchId, hitId, leadToken] = [1, 2, 3, 4].map((n) => idAt(noon, n)) as [
      string,
      string,
      string,
      string,
    ];
    const at = new Date(noon);
    const strandId = clickStrandId(businessId, 'quillsearch', 'H-click');
    const from = { source: 'harbour-news', medium: '', campaign: '', content: '', utmId: '' };
    await tables.strands.create({
      ...{
        businessId,
        id: strandId,
        kind: 'click',
        platform: 'quillsearch',
        clickId: 'H-click',
        firstAt: at,
        visitorId,
      },
      ...from,
    } as never);
    await tables.touches.create({
      businessId,
      id: touchId,
      visitorId,
      visitId: visitorId,
      hitId,
      at,
      ...from,
      term: '',
      referrer: '',
      landing: 'one.example/',
      platform: 'quillsearch',
      clickId: 'H-click',
      because: 'click_id_new',
      pageBecause: 'click_id_new',
      releaseNumber: number,
    } as never);
    await tables.enquiries.create({
      businessId,
      id: enquiryIdOf(businessId, leadToken),
      leadToken,
      strandId,
      touchId,
      visitorId,
      hitId,
      form: 'ask',
      page: '',
      sentAt: at,
      fields: [],
      marked: '',
      releaseNumber: number,
    } as never);
    return leadToken;
  }
});

describe('a routine', () => {
  it('writes to whom a record named, whose address is kept only while a routine is in use', async () => {
    const member = members[1]!;
    const { mailTemplates, routines } = place.services;
    const kept = () => rowsOf<{ n: number }>(place.db, 'SELECT COUNT(*) AS n FROM lead_addresses');
    await send(1, { record: record(70, 'New', 50) });
    await rest();
    expect(await kept()).toEqual([{ n: 0 }]);
    const given = { name: 'Hello', subject: 'Hello', text: 'Hello {{ company }}', html: '', id: '', seen: '' };
    const { id: mail } = await mailTemplates.save(member, given);
    const stepId = idAt(noon, 1);
    const means = { ...freshRoutine(stepId), steps: [{ ...freshStep(stepId), mail }] };
    const { id } = await routines.save(member, { id: '', name: 'Hello', means, seen: '' });
    await send(1, { record: record(71, 'New', 55) });
    await rest();
    const tried = await routines.tryOn(member, { means, enquiry: 'p71@bakery.example' });
    expect(tried.steps[0]!.mail).toMatchObject({ to: 'p71@bakery.example', text: expect.stringContaining('Firm 71') });
    // No text of the address is in the database.
    const [row] = await rowsOf<{ mail: Buffer }>(place.db, 'SELECT mail FROM lead_addresses');
    expect(row!.mail.toString('latin1')).not.toContain('p71');
    await routines.act(member, { id, what: 'retire', those: false });
    expect(await kept()).toEqual([{ n: 0 }]);
  });
});
