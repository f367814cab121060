import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Hit } from '../../src/core/capture';
import { setClock } from '../../src/server/clock';
import { idAt, makeEditor, makePlace, noon, rowsOf, setUpLarkmoor } from './place';
import { startListener } from './listener';

/* Events told to a place that takes them: each once, in batches, the rest going on past a bad one. */

const hour = 3_600_000;
let listener: Awaited<ReturnType<typeof startListener>>;
let place: Awaited<ReturnType<typeof makePlace>>;
let larkmoor: Awaited<ReturnType<typeof setUpLarkmoor>>;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let time = noon;
let numbered = 0;

beforeAll(async () => {
  listener = await startListener();
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: new URL(listener.url).host });
  const nobody = 'http://nobody.example';
  const key = (name: string) => `${name} of this test`;
  larkmoor = await setUpLarkmoor(place.services, {
    quillsearch: nobody,
    oakledger: nobody,
    meterhall: listener.url,
    tessaloop: listener.url,
    wrenwick: listener.url,
    key,
  });
  ({ member } = await makeEditor(place.services, larkmoor.id));
});
afterAll(async () => {
  listener.end();
  await place.end();
});
const move = (to: number) => {
  time = to;
  setClock(to);
};
const rest = async () => {
  await place.services.spoolWriter.drain();
  await place.services.runner.runToRest(['crm_poll', 'platform_report']);
};

/** A hit of a visitor of its own, with what only its kind says. */
const hit = (own: object, more: object = {}): Hit =>
  ({
    id: idAt(time, 90_000 + (numbered += 1)),
    at: time,
    release: 1,
    visitor: idAt(time, 95_000 + numbered),
    visit: idAt(time, 95_000 + numbered),
    address: 'http://larkmoor.localhost/fleet',
    referrer: '',
    kept: { works: true, first: null, last: null, clicks: [] },
    ...own,
    ...more,
  }) as unknown as Hit;
const event = (key: string, more: object = {}): Hit =>
  hit(
    { kind: 'event', event: 'dealer_link_followed', key, cue: 0, reads: [{ reading: 'dealer', value: 'York & Co' }] },
    more,
  );
const send = async (hits: Hit[]) => {
  expect(await place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits }))).toEqual([]);
  await rest();
};
const tellings = () =>
  rowsOf<{ state: string; reason: string; tries: number }>(
    place.db,
    'SELECT state, reason, tries FROM event_tellings ORDER BY made_at, id',
  );
const states = async () => (await tellings()).map(({ state }) => state).sort();

describe('an event that is wired', () => {
  it('waits for its account, is told once in the form that is wanted, and never again', async () => {
    const account = (await place.services.accounts.byKey(larkmoor.id, 'meterhall'))!;
    const become = (state: 'pause' | 'go on') =>
      place.services.connections.setState(member, member.role.personId, account.id, state);
    await become('pause');
    await send([event('a'), event('b')]);
    expect(await states()).toEqual(['held', 'held']);
    await become('go on');
    listener.answers(({ events }) => ({ said: events.map(({ id }) => ({ id, word: 'counted' })) }));
    await rest();
    expect(await states()).toEqual(['told', 'told']);
    await send([event('a')]);
    expect(listener.got.flatMap(({ events }) => events.map(({ path }) => path))).toEqual([
      'dealer/york-co',
      'dealer/york-co',
    ]);
  });

  it('goes on past one that is refused, and says which and why', async () => {
    listener.answers(({ events }) =>
      events.length > 1 || events[0]!.id.endsWith('.bad') ? null : { said: [{ id: events[0]!.id, word: 'counted' }] },
    );
    await send([event('good'), event('bad'), event('fine')]);
    const all = await tellings();
    expect(all.map(({ state }) => state).sort()).toEqual(['refused', 'told', 'told', 'told', 'told']);
    expect(all.find(({ state }) => state === 'refused')!.reason).toContain('answered 400');
  });

  it('is told again where no answer came, under the same ID', async () => {
    listener.answers(() => 'away');
    await send([event('late')]);
    expect((await tellings()).filter(({ state }) => state === 'waiting')).toMatchObject([{ tries: 1 }]);
    listener.answers(({ events }) => ({ said: events.map(({ id }) => ({ id, word: 'counted before' })) }));
    move(time + hour);
    await rest();
    const ids = listener.got.flatMap(({ events }) => events.map(({ id }) => id)).filter((id) => id.endsWith('.late'));
    expect([new Set(ids).size, ids.length > 1, await states()]).toEqual([
      1,
      true,
      ['refused', ...Array<string>(5).fill('told')],
    ]);
  });

  it('is not told for who said no, nor after its time', async () => {
    await send([event('no', { consent: { measurement: 'no', advertising: 'no' } })]);
    expect((await tellings()).filter(({ state }) => state === 'held').map(({ reason }) => reason)).toEqual([
      'the visitor did not agree',
    ]);
    await send([event('old', { at: time - 80 * hour })]);
    expect((await tellings()).filter(({ state }) => state === 'held').map(({ reason }) => reason)).toContain(
      'it is older than the 72 hours that Meterhall takes',
    );
  });
});

describe('an event that a page and the server tell as twins', () => {
  let visitor = '';
  /** A visitor who came by a click of Tessaloop, and opened the calendar. */
  const opened = (key: string): Hit[] => {
    visitor = idAt(time, 80_000 + (numbered += 1));
    const own = { visitor, visit: visitor };
    const address = 'http://larkmoor.localhost/fleet?tsl=tl-1';
    const reads: unknown[] = [];
    return [
      hit({ kind: 'arrived', navigation: 'navigate', why: 'click_id_new', address }, own),
      hit({ kind: 'event', event: 'booking_opened', key, cue: 0, reads, at: time + 1 }, own),
    ];
  };
  const handed = (key: string, how: string): Hit =>
    hit({ kind: 'handed', event: 'booking_opened', key, account: 'tessaloop', how, at: time + 2, visitor });
  /** What became of it, as the server told it and as the page did. */
  const ofTessaloop = (key: string) =>
    rowsOf<{ told_by: string; state: string; reason: string; click_id: string }>(
      place.db,
      `SELECT told_by, event_tellings.state, reason, click_id FROM event_tellings
       JOIN events ON events.id = event_row_id AND event_id = 'booking_opened.${key}'
       WHERE account = 'tessaloop' ORDER BY told_by DESC`,
    );

  it('is told by the server with its click, and by the page as the page says', async () => {
    listener.answers(() => ({ word: 'noted' }));
    await send(opened('v1'));
    expect(await ofTessaloop('v1')).toMatchObject([
      { told_by: 'server', state: 'told', click_id: 'tl-1' },
      { told_by: 'page', state: 'unsure', reason: 'the page has not said whether it told it' },
    ]);
    await send([handed('v1', 'told')]);
    expect((await ofTessaloop('v1'))[1]).toMatchObject({ told_by: 'page', state: 'told', reason: '' });
    expect(listener.got.at(-1)).toMatchObject({ ref: 'booking_opened.v1', who: { tsl: 'tl-1' } });
  });

  it('is told by the server where the page could not load the opener', async () => {
    await send([...opened('v2'), handed('v2', 'no_opener')]);
    const [server, page] = await ofTessaloop('v2');
    expect(server).toMatchObject({ state: 'told' });
    expect(page!.reason).toContain('could not load its opener');
  });

  it('is held where the page told it and the two would not be joined any more', async () => {
    const account = (await place.services.accounts.byKey(larkmoor.id, 'tessaloop'))!;
    const become = (state: 'pause' | 'go on') =>
      place.services.connections.setState(member, member.role.personId, account.id, state);
    await become('pause');
    await send([...opened('v3'), handed('v3', 'told')]);
    move(time + 37 * hour);
    await become('go on');
    await rest();
    expect((await ofTessaloop('v3'))[0]).toMatchObject({ state: 'held' });
    expect((await ofTessaloop('v3'))[0]!.reason).toContain('joins what a server tells only within 36 hours');
  });

  it('concerns nobody who came without its click', async () => {
    await send([event('v4', { event: 'booking_opened', reads: [] })]);
    expect(await ofTessaloop('v4')).toEqual([]);
  });

  it('is unsure where no answer came and it would be counted again, and is told again by hand', async () => {
    listener.answers(() => 'away');
    await send(opened('v5'));
    move(time + 37 * hour);
    await rest();
    const [row] = await ofTessaloop('v5');
    expect(row).toMatchObject({ state: 'unsure', reason: 'Tessaloop may have counted it: no answer came.' });
    listener.answers(() => ({ word: 'noted' }));
    const query = {
      event: 'booking_opened',
      account: 'tessaloop',
      state: 'unsure',
      find: '',
      descending: 'yes',
      page: 1,
    };
    const { rows } = await place.services.toldEvents.page(member, query as never);
    const [unsure] = rows.filter(({ by }) => by === 'server');
    expect(unsure).toMatchObject({ mayTellAgain: true, eventId: 'booking_opened.v5' });
    await place.services.toldEvents.again(member, [unsure!.id]);
    await rest();
    expect((await ofTessaloop('v5'))[0]).toMatchObject({ state: 'told' });
  });
});
