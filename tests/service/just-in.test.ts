import { beforeAll, expect, it } from 'vitest';
import { justInQuerySchema, type JustInView } from '../../src/core/results/just-in-view';
import { makeEditor } from './place';
import { ask, larkmoor, move, place, qualify, rest, time } from './walks';

/* What comes in is listed as it comes, by whatever process it was stored. */

let member: Awaited<ReturnType<typeof makeEditor>>['member'];
beforeAll(async () => {
  ({ member } = await makeEditor(place.services, larkmoor.id));
});
const view = (query: Record<string, string> = {}): Promise<JustInView> =>
  place.services.justIn.view(member, justInQuerySchema.parse(query));
const whats = ({ rows }: JustInView) => rows.map(({ kind, what }) => `${kind}: ${what}`);

it('from the page to what the platform answered, the newest first, each with its page and where it opens', async () => {
  expect((await view()).sentence.title).toBe('No page has reported yet.');
  const { deal, visitor } = await ask();
  const shown = await view();
  expect(shown.sentence.title).toMatch(/^\d hits,? .*1 lead came in during the last 15 minutes\.$/);
  expect(shown.sentence.under).toMatch(/^All of these hits came under release \d/);
  expect(whats(shown)).toEqual(
    expect.arrayContaining([
      expect.stringMatching(/^hit: Opened `\/fleet.*Starts a touch, because its click ID is new here\.$/),
      expect.stringMatching(/^hit: Sent the form /),
      expect.stringMatching(/^lead: .+: the form /),
    ]),
  );
  expect(shown.rows.map(({ at }) => at)).toEqual(
    shown.rows
      .map(({ at }) => at)
      .sort()
      .reverse(),
  );
  move(time + 3_600_000);
  await qualify(deal);
  await rest();
  const { rows } = await view({ kinds: 'answer' });
  expect(rows.map(({ what }) => what)).toContainEqual(
    expect.stringMatching(/^Quillsearch.* on .+ \(`FLT-QUAL`\): taken\.$/),
  );
  expect(rows[0]!.path).toMatch(/^\/report-backs\/queue\/[0-9a-f-]{36}$/);
  expect(rows.every(({ browser }) => browser === visitor)).toBe(true);
  expect((await view()).sentence.title).toMatch(/^Nothing came in during the last 15 minutes; the newest hit is from /);
});

it('one browser is followed alone, also to its lead and to what was told of it', async () => {
  const { visitor } = await ask();
  const all = await view();
  const own = await view({ whose: 'browser', browser: visitor });
  expect(own.rows.length).toBeGreaterThan(1);
  expect(own.rows.length).toBeLessThan(all.rows.length);
  expect(own.rows.map(({ id }) => id)).toEqual(
    all.rows.filter(({ browser }) => browser === visitor).map(({ id }) => id),
  );
  expect((await view({ whose: 'browser' })).rows).toEqual([]);
});

it('what is looked for is found in pages, forms and accounts; what is no wildcard finds itself only', async () => {
  const found = await view({ find: 'quillsearch' });
  expect(found.rows.some(({ kind }) => kind === 'answer')).toBe(true);
  expect(found.rows.some(({ kind }) => kind === 'hit')).toBe(false);
  expect((await view({ find: '%' })).rows).toEqual([]);
  expect((await view({ whose: 'marked' })).rows).toEqual([]);
});

it('a stream sends all that is listed, then only what is new', async () => {
  const stream = place.services.justIn.follow(member, justInQuerySchema.parse({ kinds: 'lead' }));
  const next = async () => (await stream.next()).value as JustInView | null;
  const first = (await next())!;
  expect(first.rows).toHaveLength(2);
  expect(await next()).toBeNull();
  await ask();
  const more = (await next())!;
  expect(more.rows.filter(({ id }) => first.rows.some((row) => row.id === id))).toEqual([]);
  expect(more.rows).toHaveLength(1);
  await stream.return(undefined);
  expect((await stream.next()).done).toBe(true);
});
