import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { expect } from '@playwright/test';
import { build } from 'esbuild';
import fc from 'fast-check';
import { momentArbitrary, readingArbitrary, ruleArbitrary } from '../../src/core/events/events.fixture';
import { judgments } from './event-judgments';
import { ask, eventsIn, hitsOf, home, openRecorded, places, ready, release, setEvening, signIn, test } from './world';

test('events are judged the same in Chromium and in Node, on 10,000 generated page contexts', async ({ page }) => {
  const contexts = fc.sample(fc.tuple(ruleArbitrary, readingArbitrary, momentArbitrary), { numRuns: 10_000, seed: 15 });
  const { outputFiles } = await build({
    entryPoints: ['tests/browser/event-judgments.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'EVENTS',
    target: 'es2021',
  });
  await page.goto('about:blank');
  await page.addScriptTag({ content: outputFiles[0]!.text });
  const there = await page.evaluate(
    (all) => (globalThis as unknown as { EVENTS: { judgments: typeof judgments } }).EVENTS.judgments(all),
    contexts,
  );
  const here = judgments(contexts);
  expect(there).toEqual(here);
  expect(here.filter((one) => one.includes('"went":true')).length).toBeGreaterThan(200);
});

test('a press is told though its link leads away at once, by the middle button and by keyboard too', async ({
  context,
}) => {
  await setEvening(context);
  const page = await context.newPage();
  const hits = hitsOf(page);
  await context.route('https://dealers.example/**', (route) =>
    route.fulfill({ contentType: 'text/html', body: 'A dealer' }),
  );
  const open = () => openRecorded(page, '/dealers');
  await open();
  await page.getByRole('link', { name: 'Ouse Cycles' }).click();
  await expect(page).toHaveURL(/dealers\.example/);
  await open();
  await page.getByRole('link', { name: 'De Bakfiets' }).press('Enter');
  await expect(page).toHaveURL(/dealers\.example/);
  await open();
  await page.getByRole('link', { name: 'Lee Side' }).click({ button: 'middle' });
  await expect
    .poll(() => [...new Set(eventsIn(hits))].sort())
    .toEqual(['dealer_link_followed cork', 'dealer_link_followed delft', 'dealer_link_followed york']);
});

test('an event is written, sees what it would have caught, goes live, and counts a visitor once', async ({
  browser,
}) => {
  const marketer = await browser.newContext();
  await setEvening(marketer);
  const page = await marketer.newPage();
  await signIn(page);
  await page.goto(`${home}/events`);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    '6 events are live; “Loading guide taken” has gone quiet since its page moved.',
  );
  await ready(page);
  await page.keyboard.press('n');
  const kind = page.getByRole('combobox', { name: 'What somebody does, cue 1', exact: true });
  await kind.selectOption({ label: 'arrives at a page whose' });
  await page.getByRole('combobox', { name: 'Text in the address, cue 1' }).fill('/fleet/lease');
  await page.keyboard.press('Escape');
  const effect = page.getByRole('region', { name: 'Effect' });
  await expect(effect.getByRole('heading')).toHaveText(/^Caught \d+ since /);
  const caught = Number(/\d+/.exec((await effect.getByRole('heading').textContent())!)![0]);
  expect(caught).toBeGreaterThan(3);
  await page.getByRole('button', { name: 'and only if …' }).click();
  await page.getByRole('combobox', { name: 'What is looked at, condition 1' }).selectOption({ label: 'the source' });
  await page.getByRole('combobox', { name: 'How it is compared, condition 1' }).selectOption({ label: 'is there' });
  await expect
    .poll(async () => Number(/\d+/.exec((await effect.getByRole('heading').textContent())!)![0]))
    .toBeLessThan(caught);
  await page.getByLabel('Name of the event').fill('Lease Read');
  await page.getByLabel('What people call it').fill('Lease page read');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByRole('alert')).toContainText('must begin with a lower case letter');
  await page.getByLabel('Name of the event').fill('lease_read');
  await page.getByLabel('Take a reading along').selectOption({ label: 'the source' });
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByText('In the draft,')).toBeVisible();
  await release(page, 'Lease page');

  const visitor = await browser.newContext();
  await setEvening(visitor);
  const shop = await visitor.newPage();
  const hits = hitsOf(shop);
  await expect(async () => {
    await shop.goto(`${places.larkmoor}/fleet/lease?utm_source=letter&utm_medium=email`);
    await expect.poll(() => eventsIn(hits), { timeout: 2000 }).toEqual(['lease_read letter']);
  }).toPass();
  await shop.reload();
  await shop.goto(`${places.larkmoor}/fleet`);
  await shop.goBack();
  await shop.goto(`${places.larkmoor}/fleet/lease`);
  await expect.poll(() => hits.filter(({ kind }) => kind === 'arrived').length).toBeGreaterThanOrEqual(4);
  expect(eventsIn(hits)).toEqual(['lease_read letter']);
  await expect(async () => {
    await page.goto(`${home}/events?event=lease_read`);
    await expect(page.getByText('Lease page read · last counted')).toBeVisible({ timeout: 1000 });
  }).toPass();
  await expect(page.getByRole('cell', { name: 'letter', exact: true })).toBeVisible();
});

test('an event whose page moved is named, and takes the new page', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await page.goto(`${home}/events?event=guide_taken`);
  await ready(page);
  await expect(page.getByText('waits for /guide/thanks; visitors now reach /guide/ready.')).toBeVisible();
  const effect = page.getByRole('region', { name: 'Effect' });
  await page.getByRole('button', { name: 'Use the new page' }).click();
  await expect(effect.getByText(/^Brass: the \d+ days that gain by this change$/)).toBeVisible();
});

test('what does not fit is named before a release: a page that moved, and a name that is spelt otherwise outside', async ({
  page,
}) => {
  await setEvening(page.context());
  await signIn(page);
  await page.goto(`${home}/events?event=enquiry_sent`);
  await ready(page);
  await page.getByRole('button', { name: 'Tell Quillsearch, Larkmoor Cargo Bikes of it' }).click();
  const wire = page.getByRole('region', { name: 'Telling quillsearch' });
  await wire.getByLabel('Name, part 1').fill('flt-qual');
  await wire.getByRole('button', { name: 'Add to draft' }).click();
  await expect(wire.getByText('In the draft,')).toBeVisible();
  await page.goto(`${home}/not-live`);
  const named = page.getByRole('region', { name: 'Before you release' });
  await expect(named).toContainText('guide_taken waits for /guide/thanks, and visitors now reach /guide/ready.');
  await expect(named).toContainText('Quillsearch does not know flt-qual');
  await expect(named).toContainText('Use FLT-QUAL, which is there');
  await page.getByRole('button', { name: 'Drop it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Everything is live');
});

test('what is wrong with an event is said where it stands, and a reading in use does not vanish', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await page.goto(`${home}/events?event=order_paid`);
  await ready(page);
  await page.getByRole('button', { name: 'or …' }).click();
  await page.getByRole('combobox', { name: 'How it is compared, cue 2' }).selectOption({ label: 'fits the pattern' });
  await page.getByRole('combobox', { name: 'Text in the address, cue 2' }).fill('(a+)+$');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  const wrong = page.getByRole('alert');
  await expect(wrong).toContainText('a repeat in it is repeated itself');
  await expect(wrong).toContainText('only an order has an order number');
  await page.getByRole('button', { name: 'Take out cue 2' }).click();
  await page.goto(`${home}/events/readings?reading=dealer`);
  await ready(page);
  await page.getByRole('button', { name: 'Take the rule out' }).click();
  await expect(page.getByText('needs the reading “Dealer”')).toBeVisible();
});

test('a button is pointed at on the website, which counts nothing of it, and its link works once', async ({
  context,
  browser,
}) => {
  await setEvening(context);
  const page = await context.newPage();
  await signIn(page);
  await page.goto(`${home}/events?new=yes`);
  await ready(page);
  await page.getByRole('button', { name: 'Point at it on the website' }).click();
  await page.getByRole('combobox', { name: 'The page where it is' }).fill('/fleet/call-back');
  await page.keyboard.press('Escape');
  const opened = context.waitForEvent('page');
  const begun = context.waitForEvent('request', (request) => request.url().includes('avx_try='));
  await page.getByRole('button', { name: 'Open it and point' }).click();
  const site = await opened;
  const hits = hitsOf(site);
  const link = (await begun).url();
  const panel = site.getByRole('dialog', { name: 'Point at what is to count' });
  await expect(panel).toContainText('Press a link, a button or a form');
  expect(site.url()).not.toContain('avx_try');
  // Of a frame of another origin it says so.
  await site.goto(`${places.larkmoor}/care/fitting`);
  await expect(panel).toContainText('nothing can be pointed at');
  await site.goto(`${places.larkmoor}/fleet/call-back`);
  // On another page it goes on pointing, once links work again.
  await panel.getByRole('button', { name: 'Go to another page' }).click();
  await site.getByRole('link', { name: 'Fleet' }).click();
  await expect(site).toHaveURL(/\/fleet$/);
  await panel.getByRole('button', { name: 'Go to another page' }).click();
  await site.getByRole('link', { name: 'Call back' }).click();
  await expect(panel).toContainText('Press a link, a button or a form');
  await site.getByRole('link', { name: 'pick a time yourself' }).focus();
  await site.keyboard.press('Enter');
  await expect(panel).toContainText('Chosen. Go back to Avrix.');
  expect([hits.length, site.url()]).toEqual([0, `${places.larkmoor}/fleet/call-back`]);

  const ways = page.getByRole('list', { name: 'Ways to say it' });
  await expect(ways.getByRole('listitem').first()).toContainText('follows a link to bellhour.localhost');
  await expect(ways.getByRole('listitem').first()).toContainText('taken');
  await expect(page.getByRole('region', { name: 'Effect' }).getByRole('heading')).toHaveText(/^Caught \d+ since/);
  // What was begun and written is there after a reload, and nothing is taken twice.
  await page.reload();
  await expect(ways.getByRole('listitem').first()).toContainText('taken');
  await expect(page.getByRole('button', { name: /^Take out cue/ })).toHaveCount(0);
  const body = JSON.stringify({ says: 'begin', token: 'x' });
  const said = async (origin: string) =>
    (await ask(`${places.firstParty}/point/larkmoor`, { method: 'POST', headers: { origin }, body })).body;
  expect(await said('https://elsewhere.example')).toContain('website of the business');
  expect(await said(places.larkmoor)).toContain('tab that points');
  const stranger = await (await browser.newContext()).newPage();
  await setEvening(stranger.context());
  const told = hitsOf(stranger);
  await stranger.goto(link);
  await expect.poll(() => told.filter(({ kind }) => kind === 'arrived').length).toBe(1);
  await expect(stranger.getByRole('dialog')).toHaveCount(0);
});

test('somebody sees through the page: what went off and why not, what is kept and filled, beside what it is about', async ({
  context,
}) => {
  await setEvening(context);
  const page = await context.newPage();
  await signIn(page);
  await page.goto(`${home}/try`);
  await ready(page);
  await page.getByRole('button', { name: 'See through by what is live' }).click();
  await page.getByRole('combobox', { name: 'The page to begin at' }).fill(`${places.larkmoor}/fleet/call-back`);
  await page.keyboard.press('Escape');
  const link = (await page.getByRole('link', { name: 'Open it' }).getAttribute('href'))!;
  const site = await context.newPage();
  // The website from another port of its host, with a policy that lets in no styles but its own.
  const edge = 'http://t.larkmoor.localhost:* http://avrix-edge.localhost:*';
  const policy = `default-src 'self'; script-src 'self' ${edge}; connect-src 'self' ${edge}; style-src 'self'`;
  const strict = createServer((request, response) => {
    void ask(places.larkmoor + request.url).then(({ body, headers }) => {
      response.writeHead(200, { 'content-type': headers['content-type'], 'content-security-policy': policy });
      response.end(body);
    });
  });
  await new Promise<void>((resolve) => strict.listen(0, '127.0.0.1', resolve));
  const { port } = strict.address() as AddressInfo;
  const hits = hitsOf(site);
  await site.goto(link.replace(/:\d+/, `:${port}`));
  const panel = site.getByRole('dialog', { name: 'What Avrix sees and does here' });
  await expect(panel).toContainText('Avrix here, by what is live');
  await expect(panel).toContainText('guide_taken stayed quiet, because /fleet/call-back is not /guide/thanks.');
  await expect(panel).toContainText('the source: ');
  expect(await panel.evaluate((element) => getComputedStyle(element).backgroundColor)).toBe('rgb(16, 35, 31)');
  const notes = site.locator('[data-avrix-shown] aside');
  await expect(notes.filter({ hasText: 'Form call-back, an enquiry' })).toContainText('click_ref = Try');
  await site.getByRole('link', { name: 'pick a time yourself' }).scrollIntoViewIfNeeded();
  await expect(notes.filter({ hasText: 'Pressed, it sets off booking_opened' })).toBeVisible();
  await site.evaluate(() => addEventListener('click', (event) => event.preventDefault()));
  await site.getByRole('link', { name: '01632 960018' }).press('Enter');
  await expect(panel).toContainText('call_started went off, because someone follows a link to tel:.');
  await site.getByRole('link', { name: '01632 960018' }).press('Enter');
  await expect(panel).toContainText('call_started stayed quiet, because it was counted for this visit already.');
  // What is pressed of Avrix's own is no press of the page.
  await panel.getByRole('button', { name: 'Other corner' }).click();
  await expect(panel.getByText('nothing does not begin')).toHaveCount(0);
  await panel.getByRole('button', { name: 'Hide' }).press('Enter');
  await expect(notes.filter({ hasText: 'booking_opened' })).toBeHidden();
  // Nothing of it is counted: what it told went to the trial's own door.
  expect(hits.every(({ release }) => release > 0)).toBe(true);
  const other = await context.newPage();
  await other.goto(link);
  await expect(other.getByRole('dialog')).toHaveCount(0);
  strict.close();
});
