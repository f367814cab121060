import { beforeAll, expect, it } from 'vitest';
import type { OutcomeRule } from '../../src/core/outcomes';
import { outcomeNamed } from '../../src/core/outcomes/goals';
import type { WireRule } from '../../src/core/events/schema';
import { makeEditor, rowsOf } from './place';
import { clickOn, makeBrowser } from './shop';
import { ask, connectMeterhall, larkmoor, move, outside, place, qualify, rest, time } from './walks';

/* Outcomes that Meterhall is offered as goals, and what Meterhall counts taken as an outcome: under names that cannot differ. */

let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let release = 1;
const wire: WireRule = {
  event: 'dealer_link_followed',
  account: 'meterhall',
  kind: 'meterhall',
  named: [
    { text: 'dealer/', reading: '' },
    { text: '', reading: 'dealer' },
  ],
  fields: [],
  by: 'server',
  purpose: 'measurement',
  how: 'told',
  from: '',
};
const followed: OutcomeRule = {
  ...outcomeNamed('dealer_link_followed', 'meterhall', 'dealer/york-co'),
  code: 'DLR-YORK',
  words: 'Opened the dealer of York',
  countedOnceFor: 'conversion',
};

beforeAll(async () => {
  let editor: string;
  ({ member, editor } = await makeEditor(place.services, larkmoor.id));
  await connectMeterhall(member, editor);
  const { content } = await place.services.releases.live(larkmoor.id);
  move(time + 60_000);
  release = await place.services.releases.make(larkmoor.id, {
    name: 'Goals',
    note: '',
    content: {
      ...content,
      events: { ...content.events, wires: [...content.events.wires, wire] },
      outcomes: [...content.outcomes, followed],
      goals: [{ outcome: 'FLT-QUAL', account: 'meterhall', kind: 'meterhall', purpose: 'measurement' }],
    },
  });
  move(time + 60_000);
});

const atMeterhall = async () => {
  const page = await (await outside.meterhall.app.request('/account')).text();
  return [...page.matchAll(/<td><code>([^<]+)<\/code><\/td>\s*<td>(\d+)<\/td>/g)].map(([, path, times]) => [
    path,
    Number(times),
  ]);
};

it('an outcome is offered once as a goal by its own code, with what it is worth, where people agreed to measurement', async () => {
  const { deal } = await ask({ release });
  await qualify(deal);
  await qualify(deal, 'Asked');
  await qualify(deal);
  expect(await atMeterhall()).toEqual([['goal/flt-qual', 1]]);
  expect(await (await outside.meterhall.app.request('/account')).text()).toContain('worth=135.00');
  const { deal: another } = await ask({ release, advertising: 'no' });
  await qualify(another);
  expect(await atMeterhall()).toEqual([['goal/flt-qual', 2]]);
  const told = await place.services.toldEvents.page(member, {
    ...{ page: 1, find: '', sort: '', descending: '', event: 'FLT-QUAL', account: '', state: '' },
  } as never);
  expect(told.rows).toMatchObject([
    { state: 'told', sent: ['goal/flt-qual', 'worth=135.00', 'currency=GBP'] },
    { state: 'told' },
  ]);
});

it('one whose account is paused waits, says why, and is told once it goes on', async () => {
  const account = (await place.services.accounts.byKey(larkmoor.id, 'meterhall'))!;
  await place.services.connections.setState(member, member.role.personId, account.id, 'pause');
  const { deal } = await ask({ release });
  await qualify(deal);
  const states = () =>
    rowsOf<{ state: string; reason: string }>(
      place.db,
      "SELECT state, reason FROM event_tellings WHERE event = 'FLT-QUAL' ORDER BY made_at DESC LIMIT 1",
    );
  expect(await states()).toEqual([{ state: 'held', reason: 'its account is paused or not connected' }]);
  await place.services.connections.setState(member, member.role.personId, account.id, 'go on');
  await rest();
  expect(await states()).toEqual([{ state: 'told', reason: '' }]);
});

it('what Meterhall counts under a name is an outcome, as it is named there, and nothing of another name', async () => {
  for (const dealer of ['York & Co', 'Leeds', 'york   co']) {
    const browser = makeBrowser();
    await browser.lands(await clickOn('quillsearch'));
    browser.does('dealer_link_followed', { dealer }, release);
    await browser.hands();
  }
  const counts = new Map((await atMeterhall()) as [string, number][]);
  expect([counts.get('dealer/york-co'), counts.get('dealer/leeds')]).toEqual([2, 1]);
  const [counted] = await rowsOf<{ n: number }>(place.db, "SELECT COUNT(*) AS n FROM outcomes WHERE code = 'DLR-YORK'");
  expect(Number(counted!.n)).toBe(2);
  expect(await place.services.outcomesStation.namesTold(member)).toMatchObject([
    { event: 'dealer_link_followed', name: 'dealer/york-co', times: 2 },
    { event: 'dealer_link_followed', name: 'dealer/leeds', times: 1 },
  ]);
  const effect = await place.services.outcomeEffect(member, followed);
  expect(effect.written).toBe(2);
});
