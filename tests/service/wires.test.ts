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
    key,
  });
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

const event = (key: string, more: Partial<Hit> = {}): Hit =>
  ({
    id: idAt(time, 90_000 + (numbered += 1)),
    at: time,
    release: 1,
    visitor: idAt(time, 95_000 + numbered),
    visit: idAt(time, 95_000 + numbered),
    address: 'http://larkmoor.localhost/fleet',
    referrer: '',
    kept: { works: true, first: null, last: null, clicks: [] },
    ...{
      kind: 'event',
      event: 'dealer_link_followed',
      key,
      cue: 0,
      reads: [{ reading: 'dealer', value: 'York & Co' }],
    },
    ...more,
  }) as Hit;
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
    const { member } = await makeEditor(place.services, larkmoor.id);
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
    await send([event('no', { consent: { measurement: 'no', advertising: 'no' } } as Partial<Hit>)]);
    expect((await tellings()).filter(({ state }) => state === 'held').map(({ reason }) => reason)).toEqual([
      'the visitor did not agree',
    ]);
    await send([event('old', { at: time - 80 * hour } as Partial<Hit>)]);
    expect((await tellings()).filter(({ state }) => state === 'held').map(({ reason }) => reason)).toContain(
      'it is older than the 72 hours that Meterhall takes',
    );
  });
});
