import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';
import {
  ask,
  follow,
  home,
  makeOthers,
  open,
  others,
  owner,
  places,
  ready,
  setEvening,
  signIn,
  signInByHand,
  test,
} from './world';

/** Presses a key until it has its effect: a page answers keys only once its script has run. */
async function pressUntil(page: Page, key: string, effect: Locator): Promise<void> {
  await expect(async () => {
    await page.keyboard.press(key);
    await expect(effect).toBeVisible({ timeout: 300 });
  }).toPass();
}

/** A lead whose value died in the CRM. */
let trace = '';
test.beforeAll(async () => {
  await makeOthers();
  const lost = await ask(`${places.avrix}/api/b/larkmoor/strands?hop=in_crm&state=lost`, {
    headers: { cookie: await signInByHand(owner) },
  });
  trace = `/leads/${(JSON.parse(lost.body) as { rows: { enquiryId: string }[] }).rows[0]!.enquiryId}`;
});

test('a wrong password is answered on the page, with the mail address kept', async ({ page }) => {
  await page.goto(`${places.avrix}/b/larkmoor/leads`);
  await page.getByLabel('Email').fill('nobody@larkmoor.example');
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert')).toHaveText('Email and password do not belong together.');
  await expect(page.getByLabel('Email')).toHaveValue('nobody@larkmoor.example');
  await page.getByLabel('Email').fill('owner@larkmoor.example');
  await page.getByLabel('Password').fill(owner.password);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page).toHaveURL(`${home}/leads`);
});

test('the keys lead to the stations, into the list, and to a trace', async ({ page }) => {
  await signIn(page);
  await page.goto(home);
  await pressUntil(page, '?', page.getByRole('dialog', { name: 'Keys' }));
  await page.keyboard.press('Escape');
  await page.keyboard.press('g');
  await page.keyboard.press('5');
  await expect(page).toHaveURL(`${home}/leads`);
  await ready(page);
  await expect(async () => {
    await page.keyboard.press('/');
    await expect(page.getByRole('searchbox')).toBeFocused({ timeout: 300 });
  }).toPass();
  await page.keyboard.press('Tab');
  await page.locator('body').click({ position: { x: 5, y: 780 } });
  // As fast as a key that is held down repeats: both before anything is drawn again.
  await page.evaluate(() => {
    for (let n = 0; n < 2; n++) document.body.dispatchEvent(new KeyboardEvent('keydown', { key: 'j', bubbles: true }));
  });
  await expect(page.locator('[data-row="1"]')).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/leads\/[0-9a-f-]{36}$/);
  await expect(async () => {
    await page.keyboard.press('g');
    await page.keyboard.press('0');
    await expect(page).toHaveURL(home, { timeout: 500 });
  }).toPass();
});

test('the list of leads is found in, sorted and paged by its address, and exported whole', async ({ page }) => {
  await signIn(page);
  await page.goto(`${home}/leads`);
  await expect(async () => {
    await page.getByRole('button', { name: 'Next' }).click();
    await expect(page).toHaveURL(/page=2/, { timeout: 1000 });
  }).toPass();
  await expect(page.getByText(/^51 to 100 of/)).toBeVisible();
  await page.getByRole('button', { name: 'Lead' }).click();
  await expect(page.getByRole('columnheader', { name: 'Lead' })).toHaveAttribute('aria-sort', /ending$/);
  await page.getByRole('searchbox').fill('no such company');
  await expect(page.getByRole('heading', { name: 'No lead matches “no such company”.' })).toBeVisible();
  await page.getByRole('searchbox').fill('');
  await expect(page.getByRole('heading', { name: /^Of [\d,]+ enquiries/ })).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Export CSV' }).click();
  const file = readFileSync((await (await download).path())!, 'utf8');
  const total = Number((await page.getByText(/ of [\d,]+$/).textContent())!.split(' of ')[1]!.replace(',', ''));
  expect(file.trim().split('\n').length).toBe(total + 1);
});

test('the range of the line changes its days, and the line its sentence', async ({ page }) => {
  await signIn(page);
  await page.goto(home);
  const landed = async () =>
    Number(
      (await page
        .getByRole('row', { name: /^Landed/ })
        .getByRole('cell')
        .first()
        .textContent())!.replace(',', ''),
    );
  const month = await landed();
  await follow(page, page.getByRole('navigation', { name: 'Days' }).getByRole('link', { name: '1 week' }));
  await expect(page).toHaveURL(/range=week/);
  expect(await landed()).toBeLessThan(month);
  await page.getByRole('button', { name: 'Choose dates' }).click();
  await page.getByLabel('from').fill('2025-01-01');
  await page.getByLabel('to').fill('2025-01-31');
  await page.getByRole('button', { name: 'Show' }).click();
  await expect(page.getByRole('heading', { name: 'Nothing has arrived in these days.' })).toBeVisible();
});

test('the theme a person chose is kept', async ({ page }) => {
  await signIn(page, others.reader);
  await page.goto(`${home}/you`);
  await page.getByLabel('Night').check();
  await page.getByRole('button', { name: 'Keep these' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'avrix-night');
  await page.goto(home);
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'avrix-night');
});

test('single-letter keys that a person switched off do nothing, in lists and on traces too', async ({ page }) => {
  await signIn(page, others.blind);
  await page.goto(`${home}/leads`);
  await pressUntil(page, 'j', page.locator('[data-row="0"][aria-selected="true"]'));
  await page.goto(`${home}/you`);
  await page.getByLabel(/Single-letter keys/).uncheck();
  await page.getByRole('button', { name: 'Keep these' }).click();
  await page.goto(`${home}/leads`);
  // Sorting works only once the page's script has run; from then on its keys would, too.
  await expect(async () => {
    await page.getByRole('button', { name: 'Stage' }).click();
    await expect(page).toHaveURL(/sort=stage/, { timeout: 500 });
  }).toPass();
  await page.locator('body').click({ position: { x: 5, y: 780 } });
  for (const key of ['j', '?', 'g', '0']) await page.keyboard.press(key);
  await expect(page.locator('[aria-selected="true"]')).toHaveCount(0);
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();
  await expect(page).toHaveURL(/\/leads\?/);
});

test('an empty business says what comes next', async ({ page }) => {
  await signIn(page, others.stranger);
  await page.goto(places.avrix);
  await expect(page.getByRole('heading', { name: 'Nothing has arrived yet: paste the snippet first.' })).toBeVisible();
  await page.goto(`${places.avrix}/b/otherby/leads`);
  await expect(page.getByRole('heading', { name: 'No lead yet.' })).toBeVisible();
});

test('a page that cannot be read anew says so, goes on showing what it had, and tries again', async ({ page }) => {
  await signIn(page);
  await open(page, '/leads');
  await page.route('**/api/b/larkmoor/leads?*', (route) => route.abort());
  await page.getByRole('searchbox').fill('a');
  const alert = page.getByRole('alert');
  await expect(alert).toContainText('could not be read anew');
  await expect(page.locator('[data-row="0"]')).toBeVisible();
  await page.unroute('**/api/b/larkmoor/leads?*');
  await page.getByRole('searchbox').fill('no such company');
  await expect(page.getByRole('heading', { name: 'No lead matches “no such company”.' })).toBeVisible();
  await expect(alert).toHaveCount(0);
});

test('an address without a page says so', async ({ page }) => {
  await signIn(page);
  const answer = await page.goto(`${home}/leads/00000000-0000-4000-8000-000000000000`);
  expect(answer!.status()).toBe(404);
  await expect(page.getByRole('heading', { name: 'There is no enquiry at this address.' })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeVisible();
  for (const path of [`${home}/no-such-page`, `${places.avrix}/no-such-page`]) {
    expect((await page.goto(path))!.status()).toBe(404);
    await expect(page.getByRole('heading', { name: 'There is no page at this address.' })).toBeVisible();
    await page.getByRole('navigation', { name: 'Stations' }).getByRole('link', { name: 'Leads' }).click();
    await expect(page).toHaveURL(`${home}/leads`);
  }
  const { status, body } = await ask(`${places.avrix}/api/no-such-endpoint`);
  expect([status, body]).toEqual([404, expect.stringContaining('AVX_NOT_FOUND')]);
});

test('what sales reads is copied with one key', async ({ browser }) => {
  const context = await browser.newContext({ permissions: ['clipboard-read', 'clipboard-write'] });
  await setEvening(context);
  const page = await context.newPage();
  await signIn(page);
  await page.goto(home + trace);
  await pressUntil(page, 'c', page.getByRole('button', { name: 'Copied' }));
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('Came from: Paid search on Quillsearch');
});
