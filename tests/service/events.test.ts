import { describe, expect, it } from 'vitest';
import type { Hit } from '../../src/core/capture';
import { freshCue, freshEvent } from '../../src/core/events/words';
import type { BusinessRow, RoleRow } from '../../src/server/db';
import { addUp, idAt, rowsOf } from './place';
import { larkmoor, move, place, rest, time } from './walks';

/* Events that pages tell: each once for its key, judged again against what is recorded. */

const hour = 3_600_000;
const role = { role: 'owner', mayRelease: true, seesPeople: true, seesMoney: true } as RoleRow;
let numbered = 0;

/** What a browser tells, one hit after another. */
function makeBrowser() {
  const visitor = idAt(time, 70_000 + (numbered += 1));
  const common = (path: string) => ({
    id: idAt(time, 80_000 + (numbered += 1)),
    at: time,
    release: 1,
    visitor,
    visit: visitor,
    address: `http://larkmoor.localhost${path}`,
    referrer: '',
    kept: { works: true, first: null, last: null, clicks: [] },
  });
  return {
    arrived: (path: string, referrer = ''): Hit => ({
      ...common(path),
      referrer,
      kind: 'arrived',
      navigation: 'navigate',
      why: 'no_referrer',
    }),
    pressed: (link: string, text: string): Hit => ({
      ...common('/dealers'),
      kind: 'pressed',
      press: { tag: 'a', id: '', name: '', link, text, data: [['dealer', 'york']] },
    }),
    event: (event: string, key: string, reads: [string, string][] = []): Hit => ({
      ...common('/fleet'),
      kind: 'event',
      event,
      key,
      cue: 0,
      reads: reads.map(([reading, value]) => ({ reading, value })),
    }),
  };
}
const send = (hits: Hit[], agent?: string) =>
  place.services.collect(larkmoor.known, JSON.stringify({ clock: time, hits }), agent ? { agent } : {});
const eventsOf = (name: string) =>
  rowsOf<{ eventId: string; readings: string; marked: string }>(
    place.db,
    'SELECT event_id AS eventId, readings, marked FROM events WHERE name = ? ORDER BY event_id',
    [name],
  );
const membership = () => ({ business: { id: larkmoor.id, timeZone: 'Europe/London' } as BusinessRow, role });
const view = () => place.services.eventsStation.view(membership());

describe('an event that a page tells', () => {
  it('counts once for its key, in whatever browser and however often it is told', async () => {
    const [one, other] = [makeBrowser(), makeBrowser()];
    for (let times = 0; times < 3; times++) await send([one.event('order_paid', 'LK-7', [['order_number', 'LK-7']])]);
    await rest();
    move(time + hour);
    await send([other.event('order_paid', 'LK-7'), other.event('order_paid', 'LK-8')]);
    await rest();
    const rows = await eventsOf('order_paid');
    expect(rows.map(({ eventId }) => eventId)).toEqual(['order_paid.LK-7', 'order_paid.LK-8']);
    expect(JSON.stringify(rows[0]!.readings)).toContain('LK-7');
  });

  it('is none where its release knows no event of that name', async () => {
    await send([makeBrowser().event('made_up', 'x')]);
    await rest();
    expect(await eventsOf('made_up')).toEqual([]);
  });

  it('says nothing of who somebody is, nor does what was pressed', async () => {
    const browser = makeBrowser();
    await send([
      browser.event('call_started', 'k1', [['path', 'mail anna@bakery.example']]),
      browser.pressed('https://dealers.example/york?email=anna@bakery.example', 'anna@bakery.example'),
      browser.pressed('tel:+441632960018', 'Ring us'),
    ]);
    await rest();
    const bodies = await rowsOf<{ body: string }>(place.db, "SELECT body FROM hits WHERE kind IN ('event', 'pressed')");
    expect(JSON.stringify(bodies)).not.toContain('anna');
    expect(JSON.stringify(bodies)).toContain('tel:+441632960018');
  });

  it('is kept and not counted where a bot sent it', async () => {
    const before = (await view()).evidence.dealer_link_followed;
    await send(
      [makeBrowser().event('dealer_link_followed', 'b1')],
      'LinkLantern/1.2 (+bot; https://linklantern.example)',
    );
    await rest();
    expect((await eventsOf('dealer_link_followed')).map(({ marked }) => marked)).toEqual(['bot']);
    expect((await view()).evidence.dealer_link_followed).toBe(before);
  });

  it('is refused with its field where it is none', async () => {
    const event = { ...makeBrowser().event('order_paid', 'x'), key: '' };
    expect(await send([event as Hit])).toMatchObject([{ field: 'key', fix: expect.stringContaining('1 to 300') }]);
  });
});

describe('the station', () => {
  it('offers what the website already does, and says how each event is counted', async () => {
    const browser = makeBrowser();
    await send(Array.from({ length: 6 }, () => browser.pressed('https://parts.example/locks', 'Locks')));
    await rest();
    const { starters, offers, evidence, lately } = await view();
    expect(starters.map(({ rule, why }) => `${rule.name}: ${why}`)).toContain(
      'parts_opened: its links were pressed 6 times',
    );
    expect(offers.links).toContain('parts.example');
    expect(offers.elements).toContain('[data-dealer="york"]');
    expect(evidence.order_paid).toMatch(/^last counted /);
    expect(evidence.guide_taken).toMatch(/^none yet, live /);
    expect(lately['order_paid order_number']).toMatchObject({
      values: ['LK-7'],
      empty: 0,
      pages: [{ of: 1, empty: 0 }],
    });
  });

  it('counts what an event as it is written would have caught', async () => {
    const [one, other] = [makeBrowser(), makeBrowser()];
    await send([one.arrived('/fleet/lease'), one.arrived('/fleet/leases'), other.arrived('/fleet/lease')]);
    await rest();
    await addUp(place, larkmoor.id);
    const rule = {
      ...freshEvent(),
      name: 'lease_read',
      words: 'Lease page read',
      cues: [{ ...freshCue('arrives'), test: 'equals' as const, text: '/fleet/lease' }],
      onceFor: 'visitor' as const,
    };
    const effect = await place.services.eventEffect(membership(), rule);
    expect(effect).toMatchObject({ written: 2, live: null, unknown: 0, unjudged: [] });
    expect(effect.missed).toMatchObject([{ words: expect.stringContaining('/fleet/leases'), count: 1 }]);
    expect(effect.days.at(-1)).toMatchObject({ count: 2 });
    const stays = await place.services.eventEffect(membership(), { ...rule, cues: [{ ...freshCue('stays') }] });
    expect(stays).toMatchObject({ written: 0, unjudged: ['stays for 30 seconds'] });
  });

  it('names the page that visitors reach since the one of a quiet event moved', async () => {
    const from = 'http://larkmoor.localhost/guide';
    for (let days = 0; days < 8; days++) {
      const browser = makeBrowser();
      await send([browser.arrived('/guide/thanks', from), browser.event('guide_taken', `v${days}`)]);
      move(time + 24 * hour);
    }
    for (let days = 0; days < 8; days++) {
      await send([makeBrowser().arrived('/guide/ready', from)]);
      move(time + 24 * hour);
    }
    await rest();
    await addUp(place, larkmoor.id);
    const { moved, sentence } = await view();
    expect(moved.guide_taken).toMatchObject({ was: '/guide/thanks', now: '/guide/ready', from: '/guide', count: 8 });
    expect(sentence.title).toContain('has gone quiet since its page moved.');
    expect(await place.services.eventsStation.quietCount(larkmoor.id)).toBeGreaterThan(0);
  });
});
