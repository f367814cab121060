import { createHmac } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { crmKinds, type ReadRecord } from '../../src/core/crms';
import type { Question } from '../../src/core/outgoing';
import { noon, openWorld, type Service, type World } from './world';

/* Every kind of CRM is held to the same rules, against the service it is a contract with. */

let world: World;
beforeAll(async () => {
  world = await openWorld();
});
afterAll(() => world.end());

describe.each(crmKinds.map((contract) => [contract.kind, contract] as const))('%s', (kind, contract) => {
  let there: Service;
  let deal = '';
  const ask = async <T>({ request, read }: Question<T>) => read(JSON.parse((await there.ask(request)).body));
  const readDeal = async (number: string) => (await ask(contract.record(number))) as ReadRecord;
  beforeAll(async () => {
    there = world.crms[kind]!;
    const made = await there.ask({
      method: 'POST',
      path: '/api/deals',
      body: {
        person: {
          name: 'Anna Pell',
          mail: 'anna@bakery.example',
          telephone: '+44 1632 960 001',
          company: 'Bakery Oriel',
        },
        fields: { click_id: 'QsAb12', source: 'quillsearch', campaign: 'uk-27q1-fleet-winterproof' },
        amounts: { lease_profit: { amount: '540', currency: 'GBP' } },
      },
    });
    deal = (JSON.parse(made.body) as { id: string }).id;
  });

  it('a record is read with its person apart, its moves and its amounts', async () => {
    const { record, mail, telephone } = await readDeal(deal);
    expect([mail, telephone]).toEqual(['anna@bakery.example', '+44 1632 960 001']);
    expect(record).toMatchObject({
      deal,
      personName: 'Anna Pell',
      company: 'Bakery Oriel',
      amounts: { lease_profit: { minor: 54_000, currency: 'GBP' } },
    });
    expect(record.fields.click_id).toBe('QsAb12');
    expect(record.stageChanges[0]).toEqual({ stage: record.stage, at: record.madeAt });
  });

  it('what changed is listed from a moment on, and nothing that changed before', async () => {
    const { changes, more } = await ask(contract.changes(noon));
    expect([changes.map((change) => change.deal), more]).toEqual([[deal], false]);
    expect((await ask(contract.changes(noon + 60_000))).changes).toEqual([]);
  });

  it('its fields are listed with their lengths, and the stages in order with those that end a deal', async () => {
    const fields = await ask(contract.fields);
    const { record } = await readDeal(deal);
    for (const name of Object.keys(record.fields)) expect(fields.map((field) => field.name)).toContain(name);
    const cut = fields.find(({ name }) => name === 'campaign')!;
    expect(record.fields.campaign).toHaveLength(cut.length!);
    const { inOrder, ended } = await ask(contract.stages);
    expect(inOrder[0]).toBe(record.stage);
    expect(ended.length).toBeGreaterThan(0);
  });

  it('writes what it is given into its fields, leaves the others, and names those that it does not have', async () => {
    expect(await ask(contract.write(deal, { source: 'written', 'no such field': 'x' }))).toEqual(['no such field']);
    const { record } = await readDeal(deal);
    expect([record.fields.source, record.fields.click_id]).toEqual(['written', 'QsAb12']);
  });

  it('adds a note, once however often it is asked', async () => {
    if (!contract.note) return;
    for (let i = 0; i < 2; i++) await there.ask(contract.note(deal, 'Came from: paid search', 'note-1'));
    const { body } = await there.ask(contract.record(deal).request);
    expect(body.split('Came from: paid search')).toHaveLength(2);
  });

  it('its campaigns are read, and their links written', async () => {
    const { all, types, one, writeLinks } = contract.campaigns!;
    const [first] = await ask(all);
    expect(await ask(types)).toContain(first!.type);
    await there.ask(writeLinks(first!.id, ['https://larkmoor.example/fleet']));
    expect((await ask(one(first!.id))).links).toEqual(['https://larkmoor.example/fleet']);
  });

  it('a webhook is read by its schema, and sealed over more than its body', () => {
    const { body, sealed } = contract.webhook;
    const given = { event: 'E-1', kind: 'deal moved', deal, at: new Date(noon).toISOString() };
    expect(body.parse(given)).toEqual({ ...given, at: noon });
    expect(body.safeParse({ ...given, at: 'soon' }).success).toBe(false);
    const seal = (sent: string) => createHmac('sha256', 'key').update(sealed('{}', sent)).digest('hex');
    // Recorded and sent again later it has another seal.
    expect(seal('1')).not.toBe(seal('2'));
  });

  const makeDeal = async (name: string, mail: string) => {
    const person = { name, mail, telephone: '', company: 'Reed Parcel' };
    const made = await there.ask({ method: 'POST', path: '/api/deals', body: { person, fields: {}, amounts: {} } });
    return (JSON.parse(made.body) as { id: string }).id;
  };

  it('says of a merged record which one it was merged into, and of that one what it took in', async () => {
    const [gone, stays] = [await makeDeal('Bo Reed', 'bo@reed.example'), await makeDeal('B. Reed', 'b@reed.example')];
    const [person, into] = [(await readDeal(gone)).record.person, (await readDeal(stays)).record.person];
    expect(person).not.toBe(into);
    await there.ask({ method: 'POST', path: `/api/people/${person}/merge`, body: { into } });
    expect((await readDeal(gone)).record.person).toBe(into);
    expect((await readDeal(stays)).merged).toEqual({ people: [person], records: [] });
    await there.ask({ method: 'POST', path: `/api/deals/${gone}/merge`, body: { into: stays } });
    expect(await ask(contract.record(gone))).toEqual({ mergedInto: stays });
    expect((await readDeal(stays)).merged.records).toEqual([gone]);
    const listed = (await ask(contract.changes(noon))).changes.map((change) => change.deal);
    expect(listed).toEqual(expect.arrayContaining([gone, stays]));
  });

  it('names the company of a record by a number that two records of it share', async () => {
    const [one, other] = [await makeDeal('Cy Reed', 'cy@reed.example'), await makeDeal('Di Reed', 'di@reed.example')];
    const numbers = [(await readDeal(one)).companyNumber, (await readDeal(other)).companyNumber];
    expect([numbers[0] !== '', new Set(numbers).size]).toEqual([true, 1]);
  });

  it('takes a record out for good, and goes on counting where it was', async () => {
    const make = async () => {
      const person = { name: 'Bo Reed', mail: 'bo@reed.example', telephone: '', company: 'Reed Parcel' };
      const made = await there.ask({ method: 'POST', path: '/api/deals', body: { person, fields: {}, amounts: {} } });
      return (JSON.parse(made.body) as { id: string }).id;
    };
    const first = await make();
    expect((await there.ask(contract.remove!(first))).status).toBe(204);
    expect((await there.ask(contract.record(first).request)).status).toBe(404);
    expect((await there.ask(contract.remove!(first))).status).toBe(404);
    expect(await make()).not.toBe(first);
  });

  it('an answer that is none of its own is an error, not an empty record', () => {
    for (const question of [contract.record(deal), contract.changes(noon), contract.fields, contract.stages])
      for (const body of [null, {}, [], 'text', { id: 7 }]) expect(() => question.read(body)).toThrow();
  });
});
