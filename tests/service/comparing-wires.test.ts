import { beforeAll, expect, it } from 'vitest';
import type { WireRule } from '../../src/core/events/schema';
import { sumsOf } from '../../src/core/reportbacks/compare';
import type { CompareQuery } from '../../src/core/reportbacks/compare-schema';
import { makeEditor, rowsOf } from './place';
import { makeBrowser } from './shop';
import { connectMeterhall, larkmoor, move, outside, place, rest, time } from './walks';

/* Something else tells Meterhall of an event still: Avrix works out what it would tell, and is switched over. */

const key = 'guide_taken meterhall';
const byReport: CompareQuery = { of: key, against: '', as: '' };
const hour = 3_600_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let editor: string;
let release = 1;

beforeAll(async () => {
  ({ member, editor } = await makeEditor(place.services, larkmoor.id));
  await connectMeterhall(member, editor);
  const { content } = await place.services.releases.live(larkmoor.id);
  const wire: WireRule = {
    event: 'guide_taken',
    account: 'meterhall',
    kind: 'meterhall',
    named: [{ text: 'guide/taken', reading: '' }],
    fields: [],
    by: 'server',
    purpose: 'measurement',
    how: 'worked out',
    from: '',
  };
  move(time + 60_000);
  release = await place.services.releases.make(larkmoor.id, {
    name: 'The guide is only worked out',
    note: '',
    content: { ...content, events: { ...content.events, wires: [...content.events.wires, wire] } },
  });
  move(time + 60_000);
});

const take = async (times: number) => {
  for (let n = 0; n < times; n += 1) {
    const browser = makeBrowser();
    await browser.lands('http://larkmoor.localhost/guide');
    browser.does('guide_taken', {}, release);
    await browser.hands();
  }
};
let told = 0;
/** What something else tells Meterhall. */
const oldWay = async (times: number) => {
  const events = Array.from({ length: times }, () => ({
    id: `old ${(told += 1)}`,
    path: 'guide/taken',
    moment: new Date(time).toISOString(),
    with: {},
  }));
  const { status } = await outside.meterhall.app.request('/intake', {
    method: 'POST',
    headers: { authorization: `Bearer ${outside.around.key('meterhall key')}` },
    body: JSON.stringify({ events }),
  });
  expect(status).toBe(200);
};
const states = async () =>
  (await rowsOf<{ state: string }>(place.db, 'SELECT state FROM event_tellings ORDER BY happened_at')).map(
    ({ state }) => state,
  );
/** Whoever looks has the report read; the next look shows it. */
const look = async () => {
  await place.services.comparing.view(member, byReport);
  await rest();
  return place.services.comparing.view(member, byReport);
};

it('what is only worked out is told to nobody, and compared by day with what the place itself counted', async () => {
  await take(3);
  await oldWay(2);
  expect(await states()).toEqual(['worked out', 'worked out', 'worked out']);
  const view = await look();
  expect(view.tellings).toMatchObject([{ key, of: 'event', isLive: true }]);
  expect([view.against, view.takesFiles, view.reported, view.as]).toEqual([
    'report',
    false,
    ['guide/taken'],
    'guide/taken',
  ]);
  expect(sumsOf(view.days)).toEqual({ ours: 3, old: 2, same: 2 });
  expect(view.sentence.title).toBe('Avrix would tell 3 of guide_taken, the other way counts 2.');
  expect(await (await outside.meterhall.app.request('/account')).text()).toContain('2 events counted');
});

it('switched over at a stated time, it is told of what happens from then on, and what it is told is not the other way’s', async () => {
  const from = Math.ceil(time / hour) * hour + hour;
  await place.services.comparing.switchOver(member, editor, key, new Date(from).toISOString().slice(0, 16));
  const { changes } = await place.services.draft.view(member);
  release = await place.services.releasing.release(member, editor, {
    name: 'Switch over',
    seen: changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt })),
  });
  move(time + 60_000);
  await take(1);
  move(from + 60_000);
  await take(2);
  expect(await states()).toEqual([...Array<string>(4).fill('worked out'), 'told', 'told']);
  const view = await look();
  // Of Avrix the four that it worked out, and the two that it tells since.
  expect(sumsOf(view.days)).toEqual({ ours: 6, old: 2, same: 2 });
  expect(await (await outside.meterhall.app.request('/account')).text()).toContain('4 events counted');
});

it('only whole days are compared, so that none is of one way alone', async () => {
  // Later in the day, four weeks after the last of them was told.
  move(time + 28 * 24 * hour + hour);
  const view = await look();
  expect([sumsOf(view.days), view.days]).toEqual([{ ours: 0, old: 0, same: 0 }, []]);
});
