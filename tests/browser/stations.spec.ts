import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import {
  ask,
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

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
});

const copied = (page: Page) => page.evaluate(() => navigator.clipboard.readText());
const link = (page: Page) => page.getByTestId('link');

/** Follows a link or button that gives a file, and returns its text. */
async function download(page: Page, press: () => Promise<void>): Promise<string> {
  const [file] = await Promise.all([page.waitForEvent('download'), press()]);
  return (await readFile(await file.path())).toString();
}

test.describe('the keys', () => {
  test('lead to both stations, and make a new one there', async ({ page }) => {
    await open(page, '/leads');
    await page.keyboard.press('g');
    await page.keyboard.press('1');
    await expect(page).toHaveURL(/\/plan$/);
    await ready(page);
    await page.keyboard.press('n');
    await expect(page).toHaveURL(/new=yes/);
    await expect(page.getByLabel('Query name')).toBeVisible();
    await page.goBack();
    await expect(page.getByRole('region', { name: 'Source' })).toBeVisible();
    await page.locator('h1').click();
    await page.keyboard.press('g');
    await page.keyboard.press('2');
    await expect(page).toHaveURL(/\/links$/);
  });
});

test.describe('the link builder', () => {
  test('saves a set of tags, uses it, and lets it go', async ({ page }) => {
    await open(page, '/links');
    await page.getByLabel('Landing page').fill('larkmoor.localhost/care');
    await page.getByLabel('Source').fill('larkmoor-letter');
    await page.getByLabel('Medium').fill('email');
    await page.getByLabel('Name of the tag set').fill('Care letters');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    const set = page.getByRole('listitem').filter({ hasText: 'Care letters' });
    await expect(set).toContainText('larkmoor-letter · email');

    await open(page, '/links');
    await page.getByLabel('Landing page').fill('larkmoor.localhost/shop');
    await page.keyboard.press('Tab');
    await set.getByRole('button', { name: 'Use' }).click();
    await expect(link(page)).toHaveText('https://larkmoor.localhost/shop?utm_source=larkmoor-letter&utm_medium=email');
    await set.getByRole('button', { name: 'Retire Care letters' }).click();
    await expect(set).toHaveCount(0);
  });

  test('offers what is known while typing, found by its words, and taken by keys alone', async ({ page }) => {
    await open(page, '/links');
    const campaign = page.getByLabel('Campaign', { exact: true });
    await campaign.focus();
    await page.keyboard.type('bakery run');
    const offered = page.locator('[role=listbox] [role=option]');
    await expect(offered).toHaveCount(1);
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect(campaign).toHaveValue('ie-27q1-fleet-bakery');
    await expect(offered).toHaveCount(0);
    // What is not known stays as it is typed.
    await campaign.fill('uk-27q1-fleet-of-our-own');
    await page.keyboard.press('Tab');
    await expect(campaign).toHaveValue('uk-27q1-fleet-of-our-own');
  });

  test('lets a platform fill in values, previews a click, and warns of names that freeze', async ({ page }) => {
    await open(page, '/links?campaign=uk-27q1-fleet-winterproof');
    await page.getByLabel('Source').fill('quillsearch');
    await page.getByLabel('Content').focus();
    await page.getByText('Let the platform fill it in').locator('visible=true').click();
    await page.getByTitle('quillsearch: (advert)').locator('visible=true').click();
    await expect(link(page)).toContainText('utm_content=(advert)');
    await expect(page.getByText('ad name, filled in at each click.')).toBeVisible();
    await expect(page.getByText(/^After a click, for example: .*utm_content=hill-video$/)).toBeVisible();
    await page.getByLabel('Content').fill('~ad-name~');
    await expect(page.getByText('Tessaloop keeps the name an ad had when it was first published')).toBeVisible();
  });

  test('offers the repair by Enter, and takes no address that is none', async ({ page }) => {
    await open(page, '/links');
    await page.getByLabel('Landing page').fill('javascript:alert(1)');
    await expect(page.getByText('The page: it begins with javascript:.')).toBeVisible();
    await page.getByLabel('Landing page').fill('larkmoor.localhost/fleet');
    await page.getByLabel('Medium').fill('Paid Social');
    await page.getByLabel('Medium').press('Enter');
    await expect(page.getByLabel('Medium')).toHaveValue('paid-social');
    await expect(page.getByText('Source has no value.')).toBeVisible();
  });

  test('puts the carry name that the pages know into the link', async ({ page }) => {
    await open(page, '/links?campaign=uk-27q1-fleet-winterproof');
    await expect(page.getByRole('region', { name: 'Carry name' })).toContainText('lark_key=(visit.key)');
    await page.getByRole('button', { name: 'Add it' }).click();
    await expect(link(page)).toContainText(/[?&]lark_key=\(visit\.key\)&utm_/);
  });

  test('keeps a link with where it is used, which is changed later in its row', async ({ page }) => {
    await open(page, '/links?campaign=uk-27q1-fleet-letter');
    await page.getByLabel('Content').fill('van-doors');
    await page.getByRole('combobox', { name: 'In', exact: true }).selectOption('print');
    await page.getByLabel('Exactly').fill('van doors');
    await page.getByLabel('Whose it is').fill('Declan');
    await page.getByRole('button', { name: 'Save link' }).click();
    await expect(page.getByRole('button', { name: 'Saved', exact: true })).toBeDisabled();

    await open(page, '/links/made?find=van-doors');
    const row = page.getByRole('row').filter({ hasText: 'utm_content=van-doors' });
    await expect(row).toContainText('van doors, Declan');
    await row.getByTitle('Say where it is used').click();
    await row.getByLabel('Whose it is').fill('Maud');
    await row.getByRole('button', { name: 'Save' }).click();
    await expect(row).toContainText('van doors, Maud');
    expect(await download(page, () => page.getByRole('link', { name: 'Export CSV' }).click())).toMatch(
      /van-doors.*,"print","van doors","Maud",/,
    );
    await row.getByRole('button', { name: 'Retire' }).click();
    await expect(row).toHaveCount(0);
    await open(page, '/links/made?show=retired&find=van-doors');
    await expect(page.getByRole('heading', { name: '1 link out of use with “van-doors”.' })).toBeVisible();
  });
});

test.describe('the grid', () => {
  test('is moved through by keys, filled down, and names what is wrong in the row one is in', async ({ page }) => {
    await open(page, '/links/many');
    const cell = (column: string, row: number) => page.getByLabel(`${column}, row ${row}`, { exact: true });
    for (const row of [1, 2, 3]) await cell('Landing page', row).fill(`larkmoor.localhost/p${row}`);
    await cell('Source', 1).fill('printed');
    await cell('Source', 1).press('ControlOrMeta+Shift+ArrowDown');
    await cell('Source', 3).press('ControlOrMeta+d');
    await expect(cell('Source', 3)).toHaveValue('printed');
    await expect(cell('Source', 4)).toHaveValue('');
    await cell('Medium', 1).fill('Print');
    await cell('Medium', 1).press('Enter');
    await expect(cell('Medium', 2)).toBeFocused();
    await page.keyboard.press('ArrowUp');
    await expect(cell('Medium', 1)).toBeFocused();
    await expect(page.getByRole('status').filter({ hasText: 'Row 1:' })).toContainText(
      'Medium Print: it is no planned medium. Campaign has no value.',
    );
    await cell('Landing page', 3).fill('larkmoor.localhost/p2');
    await expect(page.getByRole('row').filter({ has: cell('Landing page', 3) })).toContainText('The same as row 2.');
  });

  test('is copied as cells, and exported with the columns of an order that was saved', async ({ page }) => {
    await open(page, '/links/many');
    await page.getByLabel('Landing page, row 1', { exact: true }).fill('larkmoor.localhost/fleet');
    await page.getByLabel('Source, row 1', { exact: true }).fill('printed');
    await page.getByRole('button', { name: 'Copy cells' }).click();
    await expect
      .poll(() => copied(page))
      .toBe(
        'landing\tutm_source\tutm_medium\tutm_campaign\tutm_content\tutm_term\tutm_id\tmarket\n' +
          'larkmoor.localhost/fleet\tprinted\t\t\t\t\t\t',
      );
    await page.getByLabel(/^Columns: link, landing/).fill('utm_source as Where, link as Address');
    await page.getByLabel('Name of the order').fill('Baker Weekly upload');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await open(page, '/links/many');
    await page.getByLabel('Landing page, row 1', { exact: true }).fill('larkmoor.localhost/fleet');
    await page.getByLabel('Source, row 1', { exact: true }).fill('printed');
    await page.getByLabel('Columns in the order of').selectOption('Baker Weekly upload');
    const text = await download(page, () => page.getByRole('button', { name: 'Export CSV' }).click());
    expect(text.replace('\ufeff', '')).toBe(
      '"Where","Address"\n"printed","https://larkmoor.localhost/fleet?utm_source=printed"\n',
    );
  });
});

test.describe('campaigns', () => {
  test('are written by hand from the parts of a name, found, sorted, changed and retired', async ({ page }) => {
    await open(page, '/plan/campaigns');
    await page.locator('h1').click();
    await page.keyboard.press('n');
    const form = page.getByRole('form', { name: 'New campaign' });
    await form.getByLabel('What people call it').fill('Autumn locks');
    await form.getByLabel('Market').selectOption('uk');
    await form.getByLabel('Year').fill('27');
    await form.getByLabel('Quarter').selectOption('4');
    await form.getByLabel('Line').selectOption('shop');
    await form.getByLabel('Initiative').fill('autumn-locks');
    await expect(form.getByLabel('Tracking name, used in links')).toHaveValue('uk-27q4-shop-autumn-locks');
    await form.getByLabel('From', { exact: true }).fill('2027-11-01');
    await form.getByLabel('To', { exact: true }).fill('2027-10-01');
    await form.getByLabel('Budget').fill('a lot');
    await form.getByRole('button', { name: 'Add campaign' }).click();
    await expect(form.getByText('Must be an amount such as 1200 or 1200.50')).toBeVisible();
    await form.getByLabel('Budget').fill('900');
    await form.getByRole('button', { name: 'Add campaign' }).click();
    await expect(form.getByText('Must not be before it starts')).toBeVisible();
    await form.getByLabel('To', { exact: true }).fill('2027-12-01');
    await form.getByRole('button', { name: 'Add campaign' }).click();
    const rows = page.getByRole('region', { name: 'Campaigns' }).getByRole('row');
    await expect(rows.nth(1)).toContainText('Autumn locks');
    await expect(rows.nth(1)).toContainText('1 Nov 2027 to 1 Dec 2027');

    await page.getByRole('button', { name: 'Campaign', exact: true }).click();
    await expect(rows.nth(1)).toContainText('Autumn locks');
    await page.getByRole('button', { name: 'Campaign', exact: true }).click();
    await expect(rows.last()).toContainText('Autumn locks');
    await page.getByLabel('Find a campaign').fill('autumn');
    await expect(rows).toHaveCount(2);
    expect(await download(page, () => page.getByRole('link', { name: 'Export CSV' }).click())).toContain(
      '"uk-27q4-shop-autumn-locks","Autumn locks","asking","2027-11-01","2027-12-01","900.00","GBP"',
    );

    await page.getByRole('link', { name: 'Autumn locks' }).click();
    await expect(page).toHaveURL(/campaign=/);
    const kept = page.getByRole('form', { name: 'Autumn locks' });
    await kept.getByLabel('Tracking name, used in links').fill('uk-27q1-fleet-letter');
    await kept.getByRole('button', { name: 'Save' }).click();
    await expect(kept.getByRole('alert')).toContainText(
      'Another campaign has the tracking name “uk-27q1-fleet-letter” already.',
    );
    await kept.getByRole('button', { name: 'Retire it' }).click();
    await expect(rows).toHaveCount(2);
    await expect(rows.nth(1)).toContainText('Nothing matches what you look for.');
  });
});

test.describe('the plan', () => {
  test('builds a campaign name from its parts, copied as it is', async ({ page }) => {
    await open(page, '/plan/names');
    const trial = page.getByRole('region', { name: 'Try it' });
    await trial.getByLabel('Market').selectOption('nl');
    await trial.getByLabel('Year').fill('27');
    await trial.getByLabel('Quarter').selectOption('2');
    await trial.getByLabel('Line').selectOption('care');
    await trial.getByLabel('Initiative').fill('Spring!');
    await expect(trial.getByText('Initiative “Spring!” does not fit.')).toBeVisible();
    await trial.getByLabel('Initiative').fill('spring-check');
    await trial.getByRole('button', { name: 'Copy' }).click();
    await expect.poll(() => copied(page)).toBe('nl-27q2-care-spring-check');
    await trial.getByLabel('Read a name back').fill('uk-27q5-fleet-x');
    await expect(trial.getByText('It does not fit the pattern above.')).toBeVisible();
  });

  test('has its pattern put together from picked parts with text between them, without a brace', async ({ page }) => {
    await open(page, '/plan/names');
    await page.getByRole('button', { name: 'Add a part' }).click();
    await page.getByLabel('Part', { exact: true }).last().fill('Audience');
    await page.getByRole('button', { name: 'Audience', exact: true }).click();
    const pattern = page.getByRole('group', { name: 'Pattern' });
    await pattern.getByLabel('Text 6').fill('_{');
    await expect(page.getByText('Braces cannot be part of a name. Pick a part instead.')).toBeVisible();
    await pattern.getByLabel('Text 6').fill('_');
    await pattern.getByRole('button', { name: 'Take Market out of the name' }).click();
    const trial = page.getByRole('region', { name: 'Try it' });
    await trial.getByLabel('Year').fill('27');
    await trial.getByLabel('Quarter').selectOption('2');
    await trial.getByLabel('Line').selectOption('care');
    await trial.getByLabel('Initiative').fill('spring');
    await trial.getByLabel('Audience').fill('florists');
    await expect(trial.getByText('27q2-care-spring_florists')).toBeVisible();
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(pattern.getByText('Market')).toBeVisible();
  });

  test('holds the codes of outcomes against their convention while it is written', async ({ page }) => {
    await open(page, '/plan/names');
    const codes = page.getByRole('region', { name: 'Outcome codes' });
    await expect(codes.getByText('In use: FLT-QUAL, SHP-PAID.')).toBeVisible();
    await codes.getByLabel('Most letters of what happened').fill('3');
    await expect(
      codes.getByText('FLT-QUAL does not fit: After FLT- it must have 2 to 3 capital letters'),
    ).toBeVisible();
    await codes.getByLabel('Beginnings, each with its meaning').fill('FLEET Fleet');
    await codes.getByRole('button', { name: 'Add to draft' }).click();
    await expect(codes.getByRole('alert')).toContainText('must be 2 to 4 capital letters');
    await codes.getByRole('button', { name: 'Undo' }).click();
    await expect(codes.getByLabel('Beginnings, each with its meaning')).toHaveValue(/^FLT Fleet, SHP Shop/);
  });

  test('gives a referrer its channel, and what was put off can be undone from not live', async ({ page }) => {
    await open(page, '/plan/channels');
    const channel = page.getByLabel('Channel of harbour-council.example');
    await channel.fill('Partners');
    await channel.press('Enter');
    await expect(page.getByRole('link', { name: '1 not live' })).toBeVisible();
    await open(page, '/not-live');
    await expect(
      page.getByText('People who come from harbour-council.example without tags belong to Partners.'),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Drop it' }).click();
    await expect(page.getByRole('heading', { name: 'Everything is live.' })).toBeVisible();
  });

  test('takes cells of a spreadsheet as values, and a value off plan back again', async ({ page }) => {
    await open(page, '/plan?tag=market');
    await page.evaluate(() => navigator.clipboard.writeText('de\tGermany\nuk\tagain\nbe\tBelgium'));
    await page.getByLabel('Value in links').first().focus();
    await page.keyboard.press('ControlOrMeta+v');
    await expect(page.getByRole('heading', { name: '5 values', exact: true })).toBeVisible();
    await expect(page.getByLabel('As people read it').last()).toHaveValue('Belgium');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect(page.getByRole('heading', { name: '3 values', exact: true })).toBeVisible();
  });

  test('is read by who may only read, without a button that would change it', async ({ page, context }) => {
    await makeOthers();
    await context.clearCookies();
    await signIn(page, others.reader);
    const rules = ['/plan', '/plan/names', '/plan/channels', '/plan/off-plan', '/plan/campaigns', '/plan/share'];
    for (const path of [...rules, '/capture/kept', '/capture/fields']) {
      await open(page, path);
      await expect(page.getByRole('button', { name: /^(Put into|Add|New|Take|Plan it|Leave it|Pull)/ })).toHaveCount(0);
    }
    for (const path of ['/links', '/links/made', '/links/short?path=bakery', '/links/checks', '/capture/forms']) {
      await open(page, path);
      await expect(page.getByRole('button', { name: /^(Keep|Retire|New|Check|Save)/ })).toHaveCount(0);
    }
  });
});

test('short links are exported as a redirect list, and printed as QR pictures', async () => {
  const headers = {
    cookie: await signInByHand({ mail: 'owner@larkmoor.example', password: owner.password }),
  };
  const api = `${places.avrix}/api/b/larkmoor/short-links`;
  const list = await ask(`${api}.conf`, { headers });
  expect(list.body).toMatch(/^Redirect 302 \/go\/bakery http:\/\/larkmoor\.localhost:\d+\/bakery\?utm_source=printed/m);
  const { rows } = JSON.parse((await ask(api, { headers })).body) as { rows: { id: string; path: string }[] };
  const { id } = rows.find(({ path }) => path === 'bakery')!;
  const svg = await ask(`${api}/${id}/qr.svg`, { headers });
  expect([svg.status, svg.headers['content-type']]).toEqual([200, 'image/svg+xml']);
  expect(svg.body).toMatch(/^<svg[^>]*viewBox/);
  const png = await ask(`${api}/${id}/qr.png`, { headers });
  expect([png.status, png.headers['content-type'], png.body.slice(1, 4)]).toEqual([200, 'image/png', 'PNG']);
  expect((await ask(`${api}/019bc41a-0c43-73b6-aa70-6ce7ae64bc50/qr.svg`, { headers })).status).toBe(404);
});

for (const width of [1024, 1600])
  test(`both stations fit a window ${width} wide`, async ({ page }) => {
    await page.setViewportSize({ width, height: 800 });
    for (const path of [
      '/plan',
      '/plan/channels?medium=fair',
      '/plan/campaigns?new=yes',
      '/links',
      '/links/made',
      '/capture',
      '/capture/kept',
      '/capture/fields?new=yes',
      '/capture/install',
    ]) {
      await page.goto(home + path);
      await ready(page);
      const over = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
      expect(over, path).toBeLessThanOrEqual(0);
    }
  });
