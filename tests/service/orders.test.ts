import { beforeEach, describe, expect, it } from 'vitest';
import type { RoleRow } from '../../src/server/db';
import { everything } from '../../src/core/strands/schema';
import { addUp, makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { larkmoor, move, outside, place, rest, time } from './walks';

/* Orders of the shop: said by a page, counted once, told to each platform whose click it was. */

const hour = 3_600_000;
const role = { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true } as RoleRow;

beforeEach(() => move(time + hour));

const steps = async () =>
  [...(await (await outside.wrenwick.app.request('/account')).text()).matchAll(/<td>paid<\/td>/g)].length;
const reportBacks = (number: string) =>
  rowsOf<{ id: string; account: string; state: string; toldAs: string; reason: { code: string } | null }>(
    place.db,
    `SELECT r.id, r.account, r.state, r.told_as AS toldAs, r.reason FROM report_backs r
     JOIN outcomes o ON o.id = r.outcome_id WHERE o.dedupe_key = ? ORDER BY r.account`,
    [`order ${number}`],
  );
const hopsOf = (number: string) =>
  rowsOf<{ hop: string; state: string; evidence: string }>(
    place.db,
    `SELECT h.hop, h.state, h.evidence FROM hops h JOIN orders o ON o.id = h.subject_id WHERE o.number = ? ORDER BY h.hop`,
    [number],
  );

describe('an order after a partner’s click', () => {
  it('is Ordered, and told to the partner network once, also where its page is opened three times', async () => {
    const browser = makeBrowser();
    const before = await steps();
    await browser.lands(await clickOn('wrenwick'));
    for (let times = 0; times < 3; times++) browser.says('LK-1');
    await browser.hands();
    browser.says('LK-1');
    await browser.hands();
    expect((await steps()) - before).toBe(1);
    expect(await reportBacks('LK-1')).toMatchObject([{ account: 'wrenwick', state: 'confirmed', toldAs: 'paid' }]);
    expect(await hopsOf('LK-1')).toEqual([
      // It has no report of its own: its answer is what confirms it, and the hop says so.
      { hop: 'confirmed', state: 'made_it', evidence: 'answer' },
      { hop: 'ordered', state: 'made_it', evidence: 'hit' },
      { hop: 'told', state: 'made_it', evidence: 'answer' },
    ]);
  });

  it('is worth its total less delivery, tax and what the goods cost', async () => {
    const [outcome] = await rowsOf<object>(
      place.db,
      "SELECT code, subject_kind AS subject, amount_minor AS amount, worth_minor AS worth, currency FROM outcomes WHERE dedupe_key = 'order LK-1'",
    );
    expect(outcome).toEqual({ code: 'SHP-PAID', subject: 'order', amount: 12_900, worth: 6000, currency: 'GBP' });
  });

  it('stands on the line of orders, and not on that of enquiries by form', async () => {
    await addUp(place, larkmoor.id);
    const line = (way: 'form' | 'order') =>
      place.services.strands.line(larkmoor.known, role, { range: 'week', way, ...everything });
    const [orders, forms] = [await line('order'), await line('form')];
    const countAt = ({ columns }: typeof orders, hop: string) => columns.find((column) => column.hop === hop)?.count;
    expect(orders.columns.map(({ hop }) => hop)).toEqual(['clicked', 'landed', 'kept', 'ordered', 'told', 'confirmed']);
    expect(countAt(orders, 'confirmed')).toBe(1);
    expect([countAt(forms, 'form_sent'), countAt(forms, 'landed')]).toEqual([0, countAt(orders, 'landed')]);
    expect(orders.ways).toEqual(['form', 'call', 'lead_form', 'order']);
  });
});

describe('an order of the same amounts shortly after another', () => {
  it('waits for a look as probably the same; let go it is told, and one that comes later is another', async () => {
    const { member } = await makeEditor(place.services, larkmoor.id, 'Orla');
    const browser = makeBrowser();
    await browser.lands(await clickOn('wrenwick'));
    browser.says('LK-S1');
    browser.says('LK-S2');
    browser.says('LK-S3', { total: '54.00', delivery: '6.00', tax: '9.00', cost: '20.00' });
    await browser.hands();
    const [held] = await reportBacks('LK-S2');
    expect(held).toMatchObject({ state: 'held', reason: { code: 'probably_same', as: 'LK-S1' } });
    for (const number of ['LK-S1', 'LK-S3']) expect(await reportBacks(number)).toMatchObject([{ state: 'confirmed' }]);
    const act = { act: 'let_go' as const, ids: [held!.id], list: null, isTried: false };
    expect(await place.services.queue.act(member, 'Orla', act)).toMatchObject({ done: 1 });
    await rest();
    expect(await reportBacks('LK-S2')).toMatchObject([{ state: 'confirmed' }]);
    move(time + 2 * hour);
    browser.says('LK-S4');
    await browser.hands();
    expect(await reportBacks('LK-S4')).toMatchObject([{ state: 'confirmed' }]);
  });
});

describe('an order after clicks of two platforms', () => {
  it('is told to both, where the partner’s was the last paid touch', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('quillsearch'));
    await browser.lands(await clickOn('wrenwick'));
    browser.says('LK-2');
    await browser.hands();
    const told = await reportBacks('LK-2');
    expect(told.map(({ account, toldAs }) => [account, toldAs])).toEqual([
      ['quillsearch', 'SHP-PAID'],
      ['wrenwick', 'paid'],
    ]);
    // Each click has come as far as its own platform says.
    expect((await hopsOf('LK-2')).filter(({ hop }) => hop === 'ordered')).toHaveLength(2);
  });

  it('is not told to the partner network where another paid touch came after', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('wrenwick'));
    await browser.lands(await clickOn('quillsearch'));
    browser.says('LK-3');
    await browser.hands();
    expect((await reportBacks('LK-3')).map(({ account }) => account)).toEqual(['quillsearch']);
  });
});

describe('an order', () => {
  it('without any known click stands alone: what was before it is not known, nothing is told', async () => {
    const browser = makeBrowser();
    await browser.lands('http://larkmoor.localhost/shop');
    browser.says('LK-4');
    await browser.hands();
    expect(await reportBacks('LK-4')).toEqual([]);
    const [strand] = await rowsOf<{ kind: string; hops: string }>(
      place.db,
      `SELECT s.kind, GROUP_CONCAT(h.state ORDER BY h.hop) AS hops FROM strands s JOIN hops h ON h.strand_id = s.id
       WHERE s.kind = 'order' GROUP BY s.id`,
    );
    // Clicked, Kept, Landed, Ordered, Told.
    expect(strand).toEqual({ kind: 'order', hops: 'unknown,unknown,unknown,made_it,left' });
  });

  it('that a second browser says too stays with the first, and counts once', async () => {
    const [first, second] = [makeBrowser(), makeBrowser()];
    await first.lands(await clickOn('wrenwick'));
    first.says('LK-5');
    await first.hands();
    await second.lands(await clickOn('wrenwick'));
    second.says('LK-5');
    await second.hands();
    expect(await reportBacks('LK-5')).toHaveLength(1);
    expect((await hopsOf('LK-5')).filter(({ hop }) => hop === 'ordered')).toHaveLength(1);
  });

  it('of somebody who said no to advertising is counted, and told to nobody', async () => {
    const browser = makeBrowser('no');
    await browser.lands(await clickOn('wrenwick'));
    browser.says('LK-6');
    await browser.hands();
    expect(await reportBacks('LK-6')).toMatchObject([{ state: 'held', reason: { code: 'no_consent' } }]);
  });

  it('whose amounts are none is counted and held, since nothing says what it is worth', async () => {
    const browser = makeBrowser();
    await browser.lands(await clickOn('wrenwick'));
    browser.says('LK-7', { total: 'free' });
    await browser.hands();
    expect(await reportBacks('LK-7')).toMatchObject([{ state: 'held', reason: { code: 'no_worth', field: 'total' } }]);
  });
});

describe('an account', () => {
  it('that is connected later takes up what waited for it, under the same ID', async () => {
    const { tables } = place.services.context;
    const where = { businessId: larkmoor.id, key: 'wrenwick' };
    const account = (await tables.accounts.findOne({ where }))!.get({ plain: true });
    await tables.accounts.destroy({ where });
    const browser = makeBrowser();
    await browser.lands(await clickOn('wrenwick'));
    browser.says('LK-8');
    await browser.hands();
    const [held] = await reportBacks('LK-8');
    expect(held).toMatchObject({ state: 'held', reason: { code: 'no_account' } });
    const before = await steps();
    await place.services.accounts.connect(larkmoor.id, account);
    await rest();
    move(time + 60_000);
    await rest();
    expect(await reportBacks('LK-8')).toMatchObject([{ id: held!.id, state: 'confirmed' }]);
    expect((await steps()) - before).toBe(1);
  });
});

describe('a newer release', () => {
  it('judges what happens from then on, and nothing that happened before', async () => {
    const { releases } = place.services;
    const before = makeBrowser();
    await before.lands(await clickOn('wrenwick'));
    before.says('LK-9');
    const { content } = await releases.live(larkmoor.id);
    const outcomes = content.outcomes.map((rule) =>
      rule.code === 'SHP-PAID'
        ? { ...rule, version: 2, worth: { kind: 'fixed' as const, amount: { minor: 100, currency: 'GBP' } } }
        : rule,
    );
    await releases.make(larkmoor.id, { name: 'Fixed worth', note: '', content: { ...content, outcomes } });
    move(time + 60_000);
    const after = makeBrowser();
    await after.lands(await clickOn('wrenwick'));
    after.says('LK-10');
    // What happened before arrives after it.
    await before.hands();
    await after.hands();
    const counted = await rowsOf<{ key: string }>(
      place.db,
      `SELECT dedupe_key AS \`key\`, version, worth_minor AS worth, release_number AS number FROM outcomes
       WHERE dedupe_key IN ('order LK-9', 'order LK-10') ORDER BY happened_at`,
    );
    expect(counted).toEqual([
      { key: 'order LK-9', version: 1, worth: 6000, number: 1 },
      { key: 'order LK-10', version: 2, worth: 100, number: 2 },
    ]);
  });
});

describe('an account that is paused', () => {
  it('is told nothing; what waits is held with that reason, and told once it goes on', async () => {
    const { accounts, connections, people } = place.services;
    const account = (await accounts.byKey(larkmoor.id, 'wrenwick'))!;
    const id = await people.create('maud@larkmoor.example', 'Maud', 'a long password');
    await people.grant({ ...role, role: 'editor', businessId: larkmoor.id, personId: id });
    const [member] = await people.memberships(id);
    await connections.setState(member!, id, account.id, 'pause');
    const browser = makeBrowser();
    const before = await steps();
    await browser.lands(await clickOn('wrenwick'));
    browser.says('LK-PAUSED');
    await browser.hands();
    expect(await reportBacks('LK-PAUSED')).toMatchObject([
      { state: 'held', reason: { code: 'account_off', how: 'paused' } },
    ]);
    expect(await steps()).toBe(before);
    await connections.setState(member!, id, account.id, 'go on');
    await rest();
    move(time + 60_000);
    await rest();
    expect(await reportBacks('LK-PAUSED')).toMatchObject([{ state: 'confirmed' }]);
    expect(await steps()).toBe(before + 1);
  });
});
