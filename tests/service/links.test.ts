import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { linkListSchema } from '../../src/core/links/list-schema';
import { newLinkSchema, type NewLink } from '../../src/core/links/schema';
import { shortLinkSchema } from '../../src/core/links/short-link';
import { setClock } from '../../src/server/clock';
import type { SpooledClick } from '../../src/server/links/clicks';
import type { Membership } from '../../src/server/people/people';
import { addUp, makePlace, noon, rowsOf, setUpLarkmoor } from './place';

let place: Awaited<ReturnType<typeof makePlace>>;
let editor: Membership;
let anna: string;
let site: Server;
let pages: string;

/** A website that redirects, loses queries, answers late, and carries the snippet as often as it is asked to. */
const answers: Record<string, (query: string) => { status: number; to?: string; body?: string }> = {
  '/good': () => ({ status: 200, body: '<script src="/b/larkmoor.js"></script>' }),
  '/b/larkmoor.js': () => ({ status: 200, body: "s.src='http://edge.example/r/larkmoor/4.js'" }),
  '/moved': (query) => ({ status: 301, to: `/good${query}` }),
  '/loses': () => ({ status: 302, to: '/good' }),
  '/round': () => ({ status: 302, to: '/round' }),
  '/strict': () => ({ status: 200, body: '<script src="/b/larkmoor.js"></script>' }),
  '/bare': () => ({ status: 200, body: '<p>no line</p>' }),
};

beforeAll(async () => {
  site = createServer((request, response) => {
    const [path = '', query] = (request.url ?? '').split('?');
    const answer = answers[path]?.(query ? `?${query}` : '') ?? { status: 404 };
    const headers: Record<string, string> = { 'content-type': 'text/html' };
    if (answer.to) headers.location = answer.to;
    if (path === '/strict') headers['content-security-policy'] = "default-src 'self'; connect-src 'none'";
    response.writeHead(answer.status, headers);
    response.end(answer.body);
  });
  await new Promise<void>((resolve) => site.listen(0, '127.0.0.1', resolve));
  const { port } = site.address() as AddressInfo;
  pages = `http://pages.localhost:${port}`;
  place = await makePlace({ AVRIX_PRIVATE_HOSTS: `pages.localhost:${port}` });
  const nowhere = 'http://nowhere.localhost:1';
  const { id } = await setUpLarkmoor(place.services, { quillsearch: nowhere, oakledger: nowhere, key: (name) => name });
  anna = await place.services.people.create('anna@larkmoor.example', 'Anna', 'a long password');
  await place.services.people.grant({
    businessId: id,
    personId: anna,
    role: 'editor',
    mayRelease: false,
    seesPeople: true,
    seesMoney: true,
  });
  editor = (await place.services.people.memberships(anna))[0]!;
});
afterAll(async () => {
  site.close();
  site.closeAllConnections();
  await place.end();
});

const link = (path: string, content = ''): NewLink =>
  newLinkSchema.parse({
    landing: `larkmoor.localhost${path}`,
    tags: {
      utm_source: 'larkmoor-letter',
      utm_medium: 'email',
      utm_campaign: 'uk-27q1-fleet-letter',
      ...(content ? { utm_content: content } : {}),
    },
    owner: 'Priya',
  });
const list = (query: object = {}) => place.services.links.list(editor, linkListSchema.parse(query));
/** The paths of pages that were checked, once for each check. */
const checkedPages = async () =>
  (await place.services.pageChecks.view(editor)).rows.map(({ url }) => new URL(url).pathname);
const urls = async (query: object = {}) => (await list(query)).rows.map(({ url }) => url).sort();

describe('the register of links', () => {
  it('takes each link once, whatever the order of its tags', async () => {
    const { links } = place.services;
    expect(await links.add(editor, [link('/a'), link('/b'), link('/a')])).toEqual({ added: 2, known: 1 });
    const turned = { ...link('/a'), tags: Object.fromEntries(Object.entries(link('/a').tags).reverse()) };
    expect(await links.add(editor, [turned])).toEqual({ added: 0, known: 1 });
    expect((await urls())[0]).toBe(
      'https://larkmoor.localhost/a?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter',
    );
  });

  it('takes none where one cannot be read, and names it', async () => {
    await expect(
      place.services.links.add(editor, [link('/c'), { ...link('/d'), landing: 'fleet' }]),
    ).rejects.toMatchObject({
      code: 'AVX_FIELD_WRONG',
      fields: [{ field: 'links.1.landing', was: '“fleet” is no host' }],
    });
    expect(await urls({ find: '/c' })).toEqual([]);
  });

  it('keeps what is taken out of use, and finds by link, place and owner', async () => {
    const [row] = (await list({ find: '/b' })).rows;
    await place.services.links.retire(editor, [row!.id], true);
    expect(await urls()).toHaveLength(1);
    expect(await urls({ show: 'retired', find: 'priya' })).toEqual([row!.url]);
    await place.services.links.retire(editor, [row!.id], false);
    expect(await urls()).toHaveLength(2);
  });

  it('says of many where they are used, and finds them by it', async () => {
    const { rows } = await list();
    await place.services.links.use(editor, {
      links: rows.map(({ id }) => id),
      usedIn: 'print',
      place: 'van doors',
      owner: 'Declan',
    });
    expect((await list({ find: 'VAN doors' })).rows.map(({ usedIn, owner }) => [usedIn, owner])).toEqual(
      rows.map(() => ['print', 'Declan']),
    );
  });

  it('finds and replaces in many, leaves what would be doubled, and takes it back', async () => {
    const { links } = place.services;
    await links.add(editor, [link('/old/x'), link('/old/y'), link('/new/y')]);
    const before = await urls();
    const wanted = { find: '/old/', put: '/new/' };
    expect((await links.previewReplace(editor, wanted)).map(({ wrong }) => wrong)).toEqual(['', '']);
    const done = await links.replace(editor, anna, wanted);
    expect([done.changed, done.left]).toEqual([1, 1]);
    await place.services.runner.runToRest();
    expect(await checkedPages()).toContain('/new/x');
    expect((await list({ find: '/new/x' })).rows[0]).toMatchObject({ landing: 'https://larkmoor.localhost/new/x' });
    expect(await links.undoReplace(editor, done.change)).toBe(1);
    expect(await urls()).toEqual(before);
    await expect(links.undoReplace(editor, done.change)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
  });

  it('has its pages checked by itself: when one is saved, and each week as long as it is in use', async () => {
    const { links } = place.services;
    await links.add(editor, [link('/weekly')]);
    /** Hours from now. */
    const due = () =>
      rowsOf<{ due: Date }>(place.db, "SELECT due_at due FROM work WHERE kind = 'link_check' AND subject = ?", [
        id,
      ]).then((rows) => rows.map((row) => Math.round((row.due.getTime() - noon) / 3_600_000)));
    const { id } = (await list({ find: '/weekly' })).rows[0]!;
    expect(await due()).toEqual([0]);
    await place.services.runner.runToRest();
    expect(await checkedPages()).toContain('/weekly');
    expect(await due()).toEqual([7 * 24]);
    await links.retire(editor, [id], true);
    setClock(noon + 8 * 86_400_000);
    const before = (await checkedPages()).length;
    await place.services.runner.runToRest();
    setClock(noon);
    expect((await checkedPages()).filter((page) => page === '/weekly')).toHaveLength(1);
    expect((await checkedPages()).length).toBeGreaterThan(before);
    expect(await due()).toEqual([]);
  });

  it('knows the visits that came by a link', async () => {
    const touch = `INSERT INTO touches (business_id, id, visitor_id, visit_id, hit_id, at, source, medium, campaign,
      content, term, utm_id, referrer, landing, platform, click_id, because, page_because, release_number)
      VALUES (?, UUID(), UUID(), UUID(), UUID(), ?, 'larkmoor-letter', 'email', 'uk-27q1-fleet-letter', '', '', '', '',
      'larkmoor.localhost/a', '', '', 'campaign_values', 'campaign_values', 1)`;
    for (const hours of [1, 5])
      await place.db.query(touch, { replacements: [editor.business.id, new Date(noon + hours * 3_600_000)] });
    await addUp(place, editor.business.id);
    expect((await list({ find: 'localhost/a?' })).rows[0]).toMatchObject({
      arrivals: 2,
      firstAt: '2027-02-01T13:00:00.000Z',
      lastAt: '2027-02-01T17:00:00.000Z',
    });
  });

  it('offers what making links needs: the plan, sets of tags, the source that mostly comes with a medium', async () => {
    const { making } = place.services;
    const tags = { utm_source: ['larkmoor-letter'], utm_content: ['top', 'foot'] };
    await making.saveTagSet(editor, { name: 'Letter', tags, usedIn: 'mail' });
    const printed = { name: 'Letter', tags: { utm_source: ['printed'] }, usedIn: 'print' as const };
    await expect(making.saveTagSet(editor, printed)).rejects.toMatchObject({ fields: [{ field: 'name' }] });
    const { id } = (await making.view(editor)).tagSets[0]!;
    await making.saveTagSet(editor, { ...printed, id });
    const view = await making.view(editor);
    expect(view.tagSets).toMatchObject([{ name: 'Letter', tags: { utm_source: ['printed'] }, usedIn: 'print' }]);
    expect(view.usual).toEqual({ email: 'larkmoor-letter' });
    expect(view.landings).toContain('https://larkmoor.localhost/a');
  });
});

describe('a short link', () => {
  const shown = async () => (await place.services.shortLinks.view(editor)).rows[0]!;
  const write = (id: string | null, change: object) =>
    place.services.shortLinks.save(
      editor,
      anna,
      id,
      shortLinkSchema.parse({ path: 'fair', destination: pages, ...change }),
    );
  const save = async (change: object) => write((await shown()).id, change);

  it('keeps where it led, with who changed it', async () => {
    await write(null, {});
    setClock(noon + 60_000);
    await save({ destination: `${pages}/good` });
    await save({ destination: `${pages}/good`, wins: 'visitor' });
    const { history } = await shown();
    expect(history.map(({ destination, by }) => [destination, by])).toEqual([
      [`${pages}/good`, 'Anna'],
      [`${pages}/`, 'Anna'],
    ]);
    expect(history[0]!.since).toMatch(/^2027-02-01T12:01:/);
    expect(await shown()).toMatchObject({ url: 'http://t.larkmoor.localhost:4300/go/fair', wins: 'visitor' });
  });

  it('is never taken over by a new one of its path, nor does it change its path', async () => {
    await expect(write(null, { destination: `${pages}/bare` })).rejects.toMatchObject({
      fields: [{ field: 'path', was: `fair is taken: it leads to ${pages}/good` }],
    });
    await save({ path: 'other', destination: `${pages}/good`, wins: 'visitor' });
    expect(await shown()).toMatchObject({ path: 'fair', destination: `${pages}/good` });
    await expect(write('019bc41a-0c43-73b6-aa70-6ce7ae64bc50', {})).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
  });

  it('leads to no short link, to nothing but web pages, and to no address with somebody’s in it', async () => {
    const personal = `${pages}/good?reader=anna%40bakery.example`;
    for (const destination of ['http://t.larkmoor.localhost:4300/go/other', 'javascript:alert(1)', personal])
      await expect(save({ destination })).rejects.toMatchObject({ fields: [{ field: 'destination' }] });
  });

  it('is named where it leads off plan, and handed out under one of the business’s own hosts', async () => {
    expect((await shown()).problems).toEqual(['It has no UTM tags: its clicks will count by their referrer.']);
    const { hosts } = await place.services.shortLinks.view(editor);
    expect(hosts).toEqual(['t.larkmoor.localhost:4300', 't.larkmoor-fleet.localhost:4300']);
    await save({ destination: `${pages}/good`, host: hosts[1] });
    expect((await shown()).url).toBe('http://t.larkmoor-fleet.localhost:4300/go/fair');
    await expect(save({ host: 'elsewhere.example' })).rejects.toMatchObject({ fields: [{ field: 'host' }] });
    await save({ destination: `${pages}/good`, wins: 'visitor' });
  });

  it('of a finished link is made in its own words, once', async () => {
    const { shortLinks } = place.services;
    const finished = `${pages}/good?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter&utm_content=Top`;
    const made = await shortLinks.shorten(editor, anna, finished);
    expect(made).toEqual({ path: 'letter-top', url: 'http://t.larkmoor.localhost:4300/go/letter-top' });
    expect(await shortLinks.shorten(editor, anna, finished)).toEqual(made);
    expect((await shortLinks.shorten(editor, anna, `${finished}#form`)).path).toBe('letter-top-2');
    for (const { id, path } of (await shortLinks.view(editor)).rows)
      if (path !== 'fair') await place.db.query('DELETE FROM short_links WHERE id = ?', { replacements: [id] });
  });

  it('keeps its password only as a hash, until it is taken away', async () => {
    await save({ password: 'wholesale' });
    expect((await shown()).hasPassword).toBe(true);
    expect(JSON.stringify(await rowsOf(place.db, 'SELECT * FROM short_links'))).not.toContain('wholesale');
    await save({});
    expect((await shown()).hasPassword).toBe(true);
    await save({ password: '' });
    expect((await shown()).hasPassword).toBe(false);
  });

  it('counts each click once, with the day of the business and where it came from', async () => {
    const { id } = await shown();
    const click: SpooledClick = {
      business: editor.business.id,
      click: '01a20000-0000-7000-8000-000000000001',
      shortLink: id,
      bot: false,
      at: Date.parse('2027-07-01T23:30:00Z'),
      timeZone: 'Europe/London',
      referrer: 'https://bakery.example/x?y=1',
      location: `${pages}/good?utm_source=Cargo-Fair&utm_medium=fair`,
    };
    await place.services.spool.append(JSON.stringify(click));
    await place.services.spool.append(JSON.stringify(click));
    await place.services.spool.append(
      JSON.stringify({ ...click, click: '01a20000-0000-7000-8000-000000000002', bot: true }),
    );
    await place.services.spoolWriter.drain();
    expect(await shown()).toMatchObject({ clicks: 1, bots: 1 });
    const [row] = await rowsOf<object>(place.db, 'SELECT day, source, medium, referrer FROM short_clicks LIMIT 1');
    expect(row).toEqual({ day: '2027-07-02', source: 'cargo-fair', medium: 'fair', referrer: 'bakery.example/x' });
  });

  it('is exported as a redirect list while it is open', async () => {
    await save({ destination: `${pages}/good` });
    expect(await place.services.shortLinks.redirectList(editor)).toBe(`Redirect 302 /go/fair ${pages}/good\n`);
    await save({ destination: `${pages}/good`, expiresAt: '2027-01-31T00:00:00Z' });
    expect((await shown()).state).toBe('expired');
    expect(await place.services.shortLinks.redirectList(editor)).toBe('');
  });

  it('is known to every process soon after it was changed, whatever their clocks say', async () => {
    const { shortLinkBook } = place.services;
    setClock(noon - 86_400_000);
    await place.services.shortLinks.save(
      editor,
      anna,
      null,
      shortLinkSchema.parse({ path: 'late', destination: `${pages}/bare` }),
    );
    expect((await shortLinkBook.find(editor.business.id, 'late'))!.destination).toBe(`${pages}/bare`);
    setClock(noon);
  });
});

describe('a page check', () => {
  const check = async (path: string) => {
    const [id] = await place.services.pageChecks.ask(editor, [pages + path]);
    await place.services.pageChecks.run(editor.business.id, id!);
    return (await place.services.pageChecks.view(editor)).rows.find((row) => row.id === id)!;
  };

  it('follows each redirect and asks the snippet for its release', async () => {
    const found = await check('/moved?utm_source=letter');
    expect(found).toMatchObject({ state: 'good', snippets: 1, release: 4 });
    expect(found.steps.map(({ status, to }) => [status, to])).toEqual([
      ...[
        [301, `${pages}/good?utm_source=letter`],
        [200, ''],
      ],
    ]);
  });

  it.each([
    ['/loses?utm_source=letter', /^`utm_source` lost where `.*\/loses\?utm_source=letter` sends on\.$/],
    ['/round', /^It is sent on more than 10 times\.$/],
    ['/bare', /^The page has no snippet; nobody who lands there is seen\.$/],
    ['/nowhere', /^The page answers 404\.$/],
    [
      '/strict',
      /^The page’s content policy stops the snippet: its `connect-src` does not name `http:\/\/pages\.localhost:\d+`\.$/,
    ],
  ])('%s: %s', async (path, words) => {
    expect((await check(path)).words.join(' ')).toMatch(words);
  });

  it('asks nothing inside the network that the operator did not list', async () => {
    const [id] = await place.services.pageChecks.ask(editor, ['http://127.0.0.1:1/']);
    await place.services.pageChecks.run(editor.business.id, id!);
    const [row] = (await place.services.pageChecks.view(editor)).rows.filter((one) => one.id === id);
    expect(row!.words.join(' ')).toBe(
      'The page did not answer: 127.0.0.1:1 lies inside the network and is not listed.',
    );
  });

  it('names an address that is none, and checks nothing then', async () => {
    const before = (await place.services.pageChecks.view(editor)).rows.length;
    await expect(place.services.pageChecks.ask(editor, [pages, 'ftp://x'])).rejects.toMatchObject({
      fields: [{ field: 'urls.1', was: 'it begins with ftp:' }],
    });
    expect((await place.services.pageChecks.view(editor)).rows).toHaveLength(before);
  });
});
