import { expect, type Page } from '@playwright/test';
import { ask, avrixDoor, open, places, ready, setEvening, signIn, test } from './world';

const person = 'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0 Safari/537.36';

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
});

/** Pastes as a person does: the text is on the clipboard, the key is pressed. */
async function paste(page: Page, text: string): Promise<void> {
  await page.evaluate((copied) => navigator.clipboard.writeText(copied), text);
  await page.keyboard.press('ControlOrMeta+v');
}
const copied = (page: Page) => page.evaluate(() => navigator.clipboard.readText());

test('any link pasted on the screen is read back into its parts, with what is wrong and the repair', async ({
  page,
}) => {
  await open(page, '/links');
  await page.locator('h1').click();
  await paste(
    page,
    'larkmoor.localhost/fleet?x=1&utm_source=larkmoor-letter&utm_medium=E-Mail&utm_campaign=uk-27q1-fleet-letter&email=a%40b.example#top',
  );
  await expect(page.getByText('What you pasted: email contains personal data.')).toBeVisible();
  await expect(page.getByText('Medium E-Mail: it is no planned medium.')).toBeVisible();
  await page.getByRole('button', { name: 'Use email' }).click();
  await expect(page.getByTestId('link')).toHaveText(
    'https://larkmoor.localhost/fleet?x=1&email=a%40b.example&utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter#top',
  );
  await expect(page.getByText(/^On plan\. \d+ characters\.$/)).toBeVisible();
});

test('twelve links for a send: cells are pasted, a tag set picked, all copied, in few keys', async ({ page }) => {
  await open(page, '/links/many');
  const pages = Array.from({ length: 6 }, (_, i) => `larkmoor.localhost/fleet?bike=${i + 1}`);
  await page.getByRole('combobox', { name: 'Tag set' }).selectOption({ label: 'Letter, top and foot' });
  await page.getByLabel('Pages, one a line').focus();
  let keys = 0;
  await paste(page, pages.join('\n'));
  keys += 1;
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  keys += 3;
  await expect(page.getByRole('heading', { name: '12 links, all on plan.' })).toBeVisible();
  await page.locator('h1').click();
  await page.keyboard.press('c');
  keys += 1;
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  const links = (await copied(page)).split('\n');
  expect(links).toHaveLength(12);
  expect(links[1]).toBe(
    'https://larkmoor.localhost/fleet?bike=1&utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter&utm_content=foot',
  );
  expect(keys).toBeLessThanOrEqual(6);
});

test('forty links are pasted, repaired, kept, exported and read back without loss', async ({ page }) => {
  await open(page, '/links/many');
  const cell = page.getByLabel('Landing page, row 1', { exact: true });
  const heading = 'landing\tutm_source\tutm_medium\tutm_campaign\tutm_content';
  const lines = Array.from(
    { length: 40 },
    (_, i) =>
      `larkmoor.localhost/fleet?n=${i}\tlarkmoor-letter\t${i % 4 === 0 ? 'E-Mail' : 'email'}\tuk-27q1-fleet-letter\t${i === 7 ? '@top' : `place-${i}`}`,
  );
  await cell.focus();
  await paste(page, [heading, ...lines].join('\n'));
  await expect(page.getByRole('heading', { name: '40 links, 10 with something wrong.' })).toBeVisible();
  await page.getByRole('button', { name: 'Repair 10' }).click();
  await expect(page.getByRole('heading', { name: '40 links, all on plan.' })).toBeVisible();
  await page.getByRole('button', { name: 'Save 40' }).click();
  await expect(page.getByText('40 saved')).toBeVisible();

  for (const format of ['CSV', 'XLSX']) {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: `Export ${format}` }).click(),
    ]);
    const again = await page.context().newPage();
    await open(again, '/links/many');
    await again.getByLabel('Import').setInputFiles(
      await download.path().then(async (path) => ({
        name: `links.${format.toLowerCase()}`,
        mimeType: 'application/octet-stream',
        buffer: await import('node:fs/promises').then(({ readFile }) => readFile(path)),
      })),
    );
    await expect(again.getByRole('heading', { name: '40 links, all on plan.' })).toBeVisible();
    await again.locator('h1').click();
    await again.keyboard.press('c');
    await expect(again.getByRole('button', { name: 'Copied' })).toBeVisible();
    const links = (await copied(again)).split('\n');
    expect([links.length, links[0], links[7]]).toEqual([
      40,
      'https://larkmoor.localhost/fleet?n=0&utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter&utm_content=place-0',
      'https://larkmoor.localhost/fleet?n=7&utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter&utm_content=%40top',
    ]);
    await again.close();
  }
});

test('a grid of 5,000 rows takes a key without a long wait, and draws only what is in sight', async ({ page }) => {
  await open(page, '/links/many');
  await page.getByLabel('Landing page, row 1', { exact: true }).focus();
  const lines = Array.from(
    { length: 5000 },
    (_, i) => `larkmoor.localhost/fleet?n=${i}\tprinted\tprint\tuk-27q1-fleet-letter`,
  );
  await paste(page, lines.join('\n'));
  await expect(page.getByRole('heading', { name: '5,000 links, all on plan.' })).toBeVisible({ timeout: 15_000 });
  expect(await page.getByRole('row').count()).toBeLessThan(60);
  await page.getByLabel('Medium, row 1', { exact: true }).fill('fax');
  await expect(page.getByRole('heading', { name: '5,000 links, 1 with something wrong.' })).toBeVisible();
  await page.getByLabel('Medium, row 1', { exact: true }).press('ControlOrMeta+z');
  await expect(page.getByRole('heading', { name: '5,000 links, all on plan.' })).toBeVisible();
});

test('a text is replaced in many links after a look, and taken back by one press', async ({ page }) => {
  await open(page, '/links/made?find=uk-27q1-brand-rounds');
  await page.getByLabel('The old text').fill('brand-rounds');
  await page.getByLabel('The new text').fill('brand-circles');
  await page.getByRole('button', { name: 'Show what changes' }).click();
  await page.getByRole('button', { name: 'Change 1' }).click();
  await expect(page.getByText('1 link is changed; its page is being checked.')).toBeVisible();
  await expect(page.getByRole('heading', { name: '0 links in use with “uk-27q1-brand-rounds”.' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: '1 link in use with “uk-27q1-brand-rounds”.' })).toBeVisible();
});

test('a short link leads on with its query, counts people and not programs, and can be led elsewhere', async ({
  page,
}) => {
  /** Clicks and those by bots, as the list shows them. */
  const counted = async () => {
    await open(page, '/links/short?path=cargo-fair');
    const text = (await page.getByRole('row').filter({ hasText: '/go/cargo-fair' }).locator('td').nth(2).innerText())!;
    return [/^\d+/, /\d+(?= by bots)/].map((shape) => Number(shape.exec(text)?.[0] ?? 0));
  };
  const [people = 0, bots = 0] = await counted();
  const follow = (query: string, agent: string) =>
    ask(`${places.firstParty}/go/cargo-fair${query}`, { headers: { 'user-agent': agent } });
  const first = await follow('?seat=2', person);
  expect([first.status, first.headers.location]).toEqual([
    302,
    `${places.larkmoor}/fleet?utm_source=cargo-fair&utm_medium=fair&utm_campaign=uk-27q2-fleet-cargo-fair&seat=2`,
  ]);
  await follow('', 'LinkScanner/1.0 (bot)');
  expect((await ask(`${places.edge}/go/larkmoor/cargo-fair`, { headers: { 'user-agent': person } })).status).toBe(302);
  expect((await ask(`${places.firstParty}/go/nowhere`)).status).toBe(404);
  await avrixDoor('drain');
  expect(await counted()).toEqual([people + 2, bots + 1]);

  await page.getByLabel('Leads to').fill(`${places.firstParty}/go/bakery`);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert')).toHaveText('It is a short link itself. Lead to the page that it leads to.');
  await page.getByLabel('Leads to').fill(`${places.larkmoor}/care?utm_source=cargo-fair&utm_medium=fair`);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('listitem').filter({ hasText: '/care' })).toBeVisible();
  expect((await follow('', person)).headers.location).toBe(
    `${places.larkmoor}/care?utm_source=cargo-fair&utm_medium=fair`,
  );
  await page.getByRole('button', { name: 'Back to this' }).last().click();
  await expect(page.getByLabel('Leads to')).toHaveValue(/\/fleet\?utm_source=cargo-fair/);
  expect((await follow('', person)).headers.location).toContain('/fleet?utm_source=cargo-fair');
});

test('a new short link takes no path that is there, may be called “new”, and keeps what was typed through a reload', async ({
  page,
}) => {
  await open(page, '/links/short');
  await page.getByRole('button', { name: 'New short link' }).click();
  await page.getByLabel('Its own path').fill('cargo-fair');
  await page.getByLabel('Leads to').fill(`${places.larkmoor}/shop`);
  await page.getByRole('button', { name: 'Make short link' }).click();
  await expect(page.getByRole('alert')).toContainText('Cargo-fair is taken: it leads to');
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Leads to')).toHaveValue(`${places.larkmoor}/shop`);
  await page.getByLabel('Its own path').fill('new');
  await page.getByRole('button', { name: 'Make short link' }).click();
  await expect(page.getByRole('form', { name: 'new', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'New short link' }).click();
  await expect(page.getByRole('form', { name: 'New short link' }).getByLabel('Its own path')).toHaveValue('');
});

test('what somebody else changes while a field is written is named beside it, and what is typed stays', async ({
  page,
}) => {
  await open(page, '/links/short?path=cargo-fair');
  await page.getByLabel('Leads to').fill(`${places.larkmoor}/care`);
  await page.evaluate(async (destination) => {
    const read = (await (await fetch('/api/b/larkmoor/short-links')).json()) as { rows: Record<string, unknown>[] };
    const { id, path, wins, status, expiresAt } = read.rows.find((row) => row.path === 'cargo-fair')!;
    await fetch(`/api/b/larkmoor/short-links/${String(id)}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ path, wins, status, expiresAt, destination }),
    });
  }, `${places.larkmoor}/shop`);
  await expect(page.getByText(`Changed meanwhile: now ${places.larkmoor}/shop`)).toBeVisible();
  await expect(page.getByLabel('Leads to')).toHaveValue(`${places.larkmoor}/care`);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Leads to')).toHaveValue(`${places.larkmoor}/shop`);
});

test('a short link with a password asks for it, and one that is over says so', async ({ page }) => {
  await open(page, '/links/short?new=yes');
  await page.getByLabel('Its own path').fill('trade-prices');
  await page.getByLabel('Leads to').fill(`${places.larkmoor}/fleet?utm_source=printed&utm_medium=print`);
  await page.getByLabel(/^Password/).fill('wholesale');
  await page.getByRole('button', { name: 'Make short link' }).click();
  await expect(page.getByRole('img', { name: /^QR picture of .*\/go\/trade-prices$/ })).toBeVisible();
  const visitor = await page.context().newPage();
  await visitor.goto(`${places.firstParty}/go/trade-prices`);
  await visitor.getByLabel('This link asks for a password').fill('retail');
  await visitor.getByRole('button', { name: 'Go on' }).click();
  await expect(visitor.getByRole('alert')).toHaveText('That is not the password.');
  await visitor.getByLabel('This link asks for a password').fill('wholesale');
  await visitor.getByRole('button', { name: 'Go on' }).click();
  await expect(visitor).toHaveURL(/\/fleet\?utm_source=printed/);
  // The page that asked for the password is no place that anybody came from.
  await expect(visitor.locator('form[name=test-ride] [name=source]')).toHaveValue('printed');

  await page.getByRole('button', { name: 'Retire it' }).click();
  await expect(page.getByRole('button', { name: 'Use it again' })).toBeVisible();
  await visitor.goto(`${places.firstParty}/go/trade-prices`);
  await expect(visitor.getByText('The short link “trade-prices” is no longer in use.')).toBeVisible();
  expect((await ask(`${places.firstParty}/go/trade-prices`)).status).toBe(410);
});

test('a page check finds the short link whose page drops the query, the page without the snippet, and the one with two', async ({
  page,
}) => {
  await open(page, '/links/checks');
  await page
    .getByLabel('Links or pages, one a line')
    .fill(
      [
        `${places.firstParty}/go/bakery`,
        `${places.larkmoor}/guide?utm_source=printed`,
        `${places.larkmoor}/fleet/lease`,
        `${places.larkmoor}/fleet?utm_source=printed`,
        `${places.larkmoor}/gone`,
      ].join('\n'),
    );
  await page.getByRole('button', { name: 'Check 5 pages' }).click();
  await expect(page.getByRole('heading', { name: /^\d+ of \d+ checked pages have something wrong\.$/ })).toBeVisible();
  const found = (address: string) => page.getByRole('listitem').filter({ hasText: address }).first();
  await expect(found('/go/bakery')).toContainText('utm_source, utm_medium, utm_campaign lost where');
  await expect(found('/guide')).toContainText('The page has no snippet; nobody who lands there is seen.');
  await expect(found('/fleet/lease')).toContainText('The snippet is there 2 times; it should be there once.');
  await expect(found('/gone')).toContainText('The page answers 404.');
  await expect(found('/fleet?utm_source=printed')).toContainText('Sound: it answers, the snippet is there once');
  // What a page does already is offered as a rule of the draft.
  await found('/guide').getByText('1 thing on the page that no rule does yet').click();
  await expect(found('/guide')).toContainText('Tells tally of guide-wanted.');
  await found('/guide').getByRole('button', { name: 'Add guide_wanted to the draft' }).click();
  await expect(found('/guide')).not.toContainText('guide-wanted');
  await open(page, '/not-live');
  await expect(page.getByText(/presses the element #take-guide.*call it guide_wanted/)).toBeVisible();
});
