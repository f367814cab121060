import { createHash } from 'node:crypto';
import { expect } from '@playwright/test';
import { ask, eventsIn, hitsOf, home, openRecorded, places, ready, release, setEvening, signIn, test } from './world';

/* Events on their way to destinations: by page and server, under a name of the destination's form, each counted there once. */

test('an event is told to a place that takes events, under a name of its form, and counted there once', async ({
  browser,
}) => {
  const marketer = await browser.newContext();
  await setEvening(marketer);
  const page = await marketer.newPage();
  await signIn(page);
  await page.goto(`${home}/events?event=call_started`);
  await ready(page);
  await page.getByRole('button', { name: 'Tell Meterhall of it' }).click();
  const wire = page.getByRole('region', { name: 'Telling meterhall' });
  await wire.getByLabel('Name, part 1').fill('Call Started');
  await expect(wire.getByText(/^The name must be up to five steps/)).toBeVisible();
  await wire.getByLabel('Name, part 1').fill('call/from');
  await wire.getByLabel('Add to the name').selectOption({ label: 'a text' });
  await wire.getByLabel('Add to the name').selectOption({ label: 'the page’s path' });
  await wire.getByRole('button', { name: 'Add to draft' }).click();
  await expect(wire.getByText('In the draft,')).toBeVisible();
  await release(page, 'Calls to Meterhall');

  const visitor = await browser.newContext();
  await setEvening(visitor);
  const shop = await visitor.newPage();
  const hits = hitsOf(shop);
  await expect(async () => {
    await shop.goto(`${places.larkmoor}/care`);
    await shop.getByRole('link', { name: '01632 960018' }).click();
    await expect.poll(() => eventsIn(hits), { timeout: 2000 }).toEqual(['call_started /care']);
  }).toPass();
  await shop.getByRole('link', { name: '01632 960018' }).click();
  const counted = async () =>
    (await ask(`${places.meterhall}/account`)).body.match(/call\/from\/care<\/code>\s*<\/td>\s*<td>(\d+)/)?.[1];
  await expect.poll(counted, { timeout: 60_000 }).toBe('1');
  await page.goto(`${home}/events?event=call_started`);
  await expect(page.getByText(/^1 taken, the last/)).toBeVisible();
});

test('a press that leads away is told to Tessaloop by page and server as one, and to Quillsearch under a name made there', async ({
  browser,
}) => {
  const marketer = await browser.newContext();
  await setEvening(marketer);
  const page = await marketer.newPage();
  await signIn(page);
  await page.goto(`${home}/events?event=booking_opened`);
  await ready(page);
  await page.getByRole('button', { name: 'Tell Quillsearch, Larkmoor Cargo Bikes of it' }).click();
  const wire = page.getByRole('region', { name: 'Telling quillsearch' });
  await wire.getByLabel('Name, part 1').fill('flt-qua');
  await expect(wire.getByText('would count none of them')).toBeVisible();
  await expect(wire.getByRole('button', { name: /^Use FLT-QUAL ?, which is there/ })).toBeVisible();
  await wire.getByLabel('Name, part 1').fill('BKG-OPENED');
  await wire.getByRole('button', { name: 'Make it at Quillsearch' }).click();
  await expect(wire.getByText('Quillsearch knows BKG-OPENED')).toBeVisible();
  await wire.getByRole('button', { name: 'Add to draft' }).click();
  await expect(wire.getByText('In the draft,')).toBeVisible();
  await release(page, 'Bookings to Quillsearch');

  // Nobody who brought no click of Tessaloop loads its opener.
  const stranger = await (await browser.newContext()).newPage();
  const asked: string[] = [];
  stranger.on('request', (request) => asked.push(request.url()));
  await setEvening(stranger.context());
  const seen = hitsOf(stranger);
  await openRecorded(stranger, '/fleet/call-back?utm_source=letter');
  await stranger.getByRole('link', { name: 'pick a time yourself' }).click();
  await expect(stranger).toHaveURL(/bellhour/);
  // What a page sent as it went away is not always seen here; unanswered, it goes again with the next page.
  await openRecorded(stranger, '/fleet');
  await expect.poll(() => new Set(eventsIn(seen)).size).toBe(1);
  expect(asked.filter((url) => url.startsWith(places.tessaloop))).toEqual([]);

  const visitor = await browser.newContext();
  await setEvening(visitor);
  const shop = await visitor.newPage();
  const hits = hitsOf(shop);
  await shop.goto(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
  await shop.goto(`${places.tessaloop}/out/rounds-rain`);
  await expect(async () => {
    await shop.goto(`${places.larkmoor}/fleet/call-back`);
    await shop.waitForFunction(() => 'tessaloop' in globalThis, undefined, { timeout: 3000 });
  }).toPass();
  await shop.getByRole('link', { name: 'pick a time yourself' }).click();
  await expect(shop).toHaveURL(/bellhour/);
  await openRecorded(shop, '/fleet');
  const handed = () => [...new Set(hits.flatMap((hit) => (hit.kind === 'handed' ? hit.how : [])))];
  await expect.poll(handed).toEqual(['told']);
  const noted = async () =>
    (await ask(`${places.tessaloop}/account`)).body.match(
      /calendar opened<\/td>\s*<td>[^<]*<\/td>\s*<td>([a-z ]+)/,
    )?.[1];
  await expect
    .poll(async () => ((await noted()) ?? '').split(' and ').sort().join(), { timeout: 60_000 })
    .toBe('page,server');
  expect((await ask(`${places.tessaloop}/account`)).body.match(/calendar opened/g)).toHaveLength(1);
  await expect
    .poll(async () => (await ask(`${places.quillsearch}/account`)).body, { timeout: 60_000 })
    .toContain('BKG-OPENED</code>');
  await page.goto(`${home}/events/told?event=booking_opened`);
  await expect(page.getByRole('row', { name: /page by its opener .* taken/ })).toBeVisible();
  await expect(
    page.getByRole('row', { name: /server calendar opened worth|server calendar opened/ }).first(),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /BKG-OPENED/ })).toContainText('taken');
});

test('an email address is told only hashed, to the destination that takes it so, and not of who does not agree', async ({
  browser,
}) => {
  const marketer = await browser.newContext();
  await setEvening(marketer);
  const page = await marketer.newPage();
  await signIn(page);
  await page.goto(`${home}/events/readings?new=yes`);
  await ready(page);
  await page.getByRole('textbox', { name: 'What people call it' }).fill('Email');
  await page.getByRole('textbox', { name: 'Short name' }).fill('mail');
  const field = page.getByRole('combobox', { name: 'Its name there' });
  await field.fill('mail');
  await field.press('Enter');
  await page.getByRole('combobox', { name: 'As', exact: true }).selectOption('a hashed email address');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByText('In the draft,')).toBeVisible();
  await page.goto(`${home}/events?event=enquiry_sent`);
  await ready(page);
  const taken = page.getByRole('combobox', { name: 'Take a reading along' });
  await expect(taken.getByRole('option', { name: 'Dealer' })).toHaveCount(1);
  await expect(taken.getByRole('option', { name: 'Email' })).toHaveCount(0);
  await page.getByRole('button', { name: /^Tell Tessaloop/ }).click();
  const wire = page.getByRole('region', { name: 'Telling tessaloop' });
  await wire.getByRole('combobox', { name: 'Send a reading along' }).selectOption('Email');
  await expect(wire.getByRole('combobox', { name: 'Field 1' })).toHaveValue('mail_hash');
  await wire.getByRole('button', { name: 'Add to draft' }).click();
  await expect(wire.getByText('In the draft,')).toBeVisible();
  await release(page, 'Email to Tessaloop, hashed');

  const mail = 'Ash.Baker@Crumb.example';
  const hash = createHash('sha256').update(mail.toLowerCase()).digest('hex');
  const sendForm = async (advertising: 'yes' | 'no') => {
    const visitor = await browser.newContext();
    await setEvening(visitor);
    const shop = await visitor.newPage();
    const bodies: string[] = [];
    shop.on('request', (request) => request.url().includes('/c/') && bodies.push(request.postData() ?? ''));
    const hits = hitsOf(shop);
    await shop.goto(`${places.tessaloop}/out/rounds-rain`);
    await openRecorded(shop, '/fleet');
    const consent = { measurement: 'yes', advertising };
    await shop.evaluate((detail) => document.dispatchEvent(new CustomEvent('avrix:consent', { detail })), consent);
    await shop.getByLabel('Email').first().fill(mail);
    await shop.getByLabel('Your name').first().fill('Ash');
    await shop.getByLabel('Business').first().fill('Crumb');
    await shop.getByRole('button', { name: 'Ask for a test ride' }).click();
    await openRecorded(shop, '/shop');
    const asked = () => hits.flatMap((hit) => (hit.kind === 'event' && hit.event === 'enquiry_sent' ? [hit] : []));
    await expect.poll(() => asked().length).toBeGreaterThan(0);
    expect(bodies.join().toLowerCase()).not.toContain(mail.toLowerCase());
    return asked()[0]!.reads.find(({ reading }) => reading === 'mail')?.value;
  };
  expect(await sendForm('no')).toBe('');
  expect(await sendForm('yes')).toBe(hash);
  const account = async () => (await ask(`${places.tessaloop}/account`)).body;
  await expect.poll(account, { timeout: 60_000 }).toContain(hash);
});

test('a place that takes events is tried from its connection, and says what it took', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await page.goto(`${home}/connections`);
  await ready(page);
  await page.getByRole('link', { name: /^Meterhall/ }).click();
  await page.getByRole('button', { name: 'Try Meterhall' }).click();
  await expect(page.getByText('It took the pretend event. Take it out there if it counts it.')).toBeVisible();
  await expect(page.getByText(/"path": "fleet\/ask\/longtail"/)).toBeVisible();
});
