import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, beforeEach, expect, it } from 'vitest';
import { ownPlatformSchema, type PlatformTelling } from '../../src/core/platforms/schema';
import { openColumns } from '../../src/core/platforms/own/readings';
import { ruleKinds } from '../../src/core/rules';
import { makeEditor, rowsOf } from './place';
import { makeBrowser } from './shop';
import { larkmoor, move, outside, place, rest, time } from './walks';

/* A platform that a business describes itself, told by a postback, by a file over HTTP, and by a file in a folder. */

const hour = 3_600_000;
let member: Awaited<ReturnType<typeof makeEditor>>['member'];
let editor: string;
beforeAll(async () => {
  ({ member, editor } = await makeEditor(place.services, larkmoor.id));
});
beforeEach(() => move(time + hour));

/** Makes Plain Ads a platform that is told of orders in one way, and connects it. */
async function describe(telling: Partial<PlatformTelling>, endpoint = outside.around.originOf('plain-ads')) {
  const { content } = await place.services.releases.live(larkmoor.id);
  const start = ruleKinds.platform.start!({}, []);
  const plain = ownPlatformSchema.parse({
    ...start,
    kind: 'plain-ads',
    words: 'Plain Ads',
    clickParameters: ['pcid'],
    repeats: 'key',
    limits: { ...start.limits, changeWithinDays: 30 },
    telling: { ...start.telling, token: { header: 'x-plain-key', before: '', signs: false }, ...telling },
  });
  const common = { outcome: 'SHP-PAID', platform: 'plain-ads', account: 'plain-ads', as: '', letsItBid: false };
  const [known] = content.telling;
  move(time + 60_000);
  await place.services.releases.make(larkmoor.id, {
    name: 'Plain Ads in another way',
    note: '',
    content: {
      ...content,
      platforms: [plain],
      capture: {
        ...content.capture,
        keep: {
          ...content.capture.keep,
          clickIds: [
            ...content.capture.keep.clickIds.filter(({ platform }) => platform !== 'plain-ads'),
            { platform: 'plain-ads', parameter: 'pcid', days: 90, alsoAs: [], source: '', medium: '' },
          ],
        },
      },
      telling: [
        ...content.telling.filter(({ platform }) => platform !== 'plain-ads'),
        { ...known!, ...common, delayMinutes: 0 },
      ],
    },
  });
  await place.services.context.tables.accounts.destroy({ where: { businessId: larkmoor.id, key: 'plain-ads' } });
  await place.services.connections.connect(member, editor, {
    kind: 'plain-ads',
    name: 'Plain Ads',
    endpoint,
    timeZone: 'Europe/London',
    currency: 'GBP',
    token: outside.around.key('plain-ads key'),
    webhookSecret: '',
    keepClickId: false,
  });
  move(time + 60_000);
}
/** An order after a click on an ad there. */
async function order(number: string, pcid?: string): Promise<void> {
  const landing = new URL((await outside.plainAds.app.request('/out/a1')).headers.get('location')!);
  if (pcid) landing.searchParams.set('pcid', pcid);
  const browser = makeBrowser();
  await browser.lands(landing.href);
  browser.says(number);
  await browser.hands();
}
const states = () =>
  rowsOf<{ number: string; correction: number; state: string; reason: object | null }>(
    place.db,
    `SELECT n.number, r.correction, r.state, r.reason FROM report_backs r JOIN orders n ON n.id = r.subject_id
     WHERE r.account = 'plain-ads' ORDER BY n.number, r.correction`,
  );
const counted = async () => (await outside.plainAds.app.request('/account')).text();

it('by a postback: the address is a template, and a word in its answer says how it is', async () => {
  await describe({
    method: 'GET',
    path: '/heard?visit={click_id}&what={outcome}&no={event_id}&when={happened_at}&sum={worth_text}&cur={currency}&key={token}',
    answer: { rowsAt: '', idAt: '', saysAt: '', taken: ['HEARD'], toldBefore: ['DUPLICATE'] },
  });
  await order('PB-1');
  await order('PB-2', 'p-nobody-clicked');
  expect(await states()).toMatchObject([
    { number: 'PB-1', state: 'confirmed' },
    { number: 'PB-2', state: 'refused', reason: { answer: 'UNKNOWN CLICK' } },
  ]);
  expect(await counted()).toContain('GBP 60.00');
});

const byFile = {
  writes: 'csv',
  method: 'PUT',
  path: '/files/{file}.csv',
  fields: openColumns.map(([at, reading]) => ({ at, reading, text: '' })),
} as const satisfies Partial<PlatformTelling>;

it('by a file at each full hour: what came until then is in one', async () => {
  await describe({ ...byFile, fields: [...byFile.fields], files: { every: 'hour', at: '06:00' } });
  move(Math.ceil(time / hour) * hour + 5 * 60_000);
  for (const number of ['FI-1', 'FI-2']) await order(number);
  expect((await states()).filter(({ number }) => number.startsWith('FI'))).toMatchObject([
    { number: 'FI-1', state: 'waiting' },
    { number: 'FI-2', state: 'waiting' },
  ]);
  move(Math.ceil(time / hour) * hour + 1000);
  await rest();
  expect((await states()).filter(({ state }) => state === 'confirmed')).toHaveLength(3);
  expect(await counted()).toMatch(/of which there were 1\./);
  expect(await counted()).toContain('GBP 180.00');
});

it('by a file in a folder of its own: whole once it is there, in the open form, listed and read by its business alone', async () => {
  await describe({ ...byFile, fields: [...byFile.fields], files: { every: 'due', at: '06:00' } }, 'folder:partner');
  await order('FO-1');
  const folder = join(place.services.config.exportsDir, larkmoor.id, 'partner');
  const [name, ...others] = readdirSync(folder);
  expect(others).toEqual([]);
  const [heading, row, end] = readFileSync(join(folder, name!), 'utf8').split('\r\n');
  expect(heading).toBe('click_id,outcome,happened_at,amount,currency,order_id,change');
  expect(row).toMatch(/^p[0-9a-f]{16},SHP-PAID,2027-\d\d-\d\dT[\d:.]+Z,60\.00,GBP,[0-9a-f-]{36},new$/);
  expect(end).toBeUndefined();
  expect((await states()).at(0)).toMatchObject({ number: 'FI-1' });
  expect((await states()).find(({ number }) => number === 'FO-1')).toMatchObject({ state: 'confirmed' });
  const view = await place.services.filed.list(member);
  expect(view.written).toMatchObject([{ folder: 'partner', name }]);
  const download = await place.services.filed.written(member, 'partner', name!);
  expect(await download.text()).toContain(row);
  const poor = { ...member, role: { ...member.role, seesMoney: false } };
  await expect(place.services.filed.written(poor, 'partner', name!)).rejects.toMatchObject({
    code: 'AVX_ROLE_TOO_SMALL',
  });
  for (const wrong of ['../partner', '..', '.hidden'])
    await expect(place.services.filed.written(member, wrong, name!)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
});

it('a folder is no address of what is told by calls', async () => {
  const wanted = { kind: 'quillsearch', name: 'Q', timeZone: 'UTC', currency: 'GBP', token: 'x', webhookSecret: '' };
  await expect(
    place.services.connections.connect(member, editor, { ...wanted, endpoint: 'folder:partner', keepClickId: false }),
  ).rejects.toMatchObject({ code: 'AVX_FIELD_WRONG' });
});

it('what platforms took can be exported in the open form by who may see money, without what they refused', async () => {
  const rows = [];
  for await (const part of place.services.queue.conversions(member, {
    ...{
      page: 1,
      find: '',
      sort: 'madeAt',
      descending: true,
      state: '',
      outcome: '',
      account: 'plain-ads',
      reason: '',
    },
  } as never))
    rows.push(...part);
  // PB-1, FI-1, FI-2 and FO-1; PB-2 was refused.
  expect(rows).toHaveLength(4);
  expect(rows.every(({ change, amount }) => change === 'new' && amount === '60.00')).toBe(true);
});
