import { expect, type Browser } from '@playwright/test';
import { buyRainCover, makeKey, Person } from './person';
import { home, open, places, release, setEvening, signIn, test } from './world';

/* A platform that Avrix knows nothing of, told of shop orders by a postback and then by files; and pretend hits. */

test.describe.configure({ mode: 'serial' });

/** Somebody presses on an ad there and buys in the shop. */
async function buy(browser: Browser): Promise<void> {
  const context = await browser.newContext();
  await setEvening(context);
  const page = await context.newPage();
  await page.goto(places.plainAds);
  const landed = page.waitForResponse((response) => response.url().includes('/take/'));
  await page.getByRole('link', { name: 'A bike that carries the morning’s bread' }).click();
  await landed;
  await buyRainCover(page);
  await context.close();
}

test('an outcome is tried by one pretend hit, also at the platform, and nothing is counted', async ({ page }) => {
  await signIn(page);
  await open(page, '/report-backs?outcome=FLT-QUAL');
  const counted = await page.getByRole('heading', { level: 1 }).textContent();
  await page.getByRole('button', { name: 'Try one pretend hit' }).click();
  const hit = page.getByRole('region', { name: 'Pretend hit' });
  await expect(hit).toContainText('It is counted, worth £25.');
  await hit.getByLabel('lease_profit, in GBP').fill('540');
  await expect(hit).toContainText('It is counted, worth £135.');
  await expect(hit).toContainText('is told FLT-QUAL by the click ID, worth 135.00 GBP, to bid on.');
  await hit.getByRole('button', { name: /^Ask Quillsearch/ }).click();
  await expect(hit).toContainText('It would take the pretend row. It was asked as a test, so it counted nothing.');
  await hit.getByLabel('Days before it').fill('90');
  await expect(hit).toContainText('is not told FLT-QUAL: The click was 80 days old or older.');
  await expect(hit.getByRole('button', { name: /^Ask Quillsearch/ })).toHaveCount(0);
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(counted!);
});

test('a platform of one’s own is told by a postback, and a word in its answer confirms it', async ({
  page,
  browser,
}) => {
  const person = new Person(page);
  await signIn(page);
  const key = await makeKey(person, `${places.plainAds}/account`);
  await open(page, '/connections/platforms?new=yes');
  await person.field('What people call it', 'Plain Ads');
  await person.field('Its short name', 'plain-ads');
  await person.field('Query names of its click ID', 'pcid');
  await person.pick('How a repeat is recognised', 'recognised by its event ID');
  await person.pick('Way of telling', 'By postbacks: all that it is told is in the address');
  await person.field(
    'Path',
    '/heard?visit={click_id}&what={outcome}&no={event_id}&when={happened_at}&sum={worth_text}&cur={currency}&key={token}',
  );
  await person.pick('How it answers', 'A word in the answer says it');
  await person.field('Means taken', 'HEARD');
  await person.field('Means told before', 'DUPLICATE');
  await expect(page.getByRole('region', { name: 'What it is sent' })).toContainText(
    'GET /heard?visit=Ab12Cd34&what=FLT-QUAL',
  );
  await person.button('Add to draft');
  await person.settled();
  await person.link('Connect an account of Plain Ads');
  await person.field('Address of its API', places.plainAds);
  await person.field('Key it knows you by', key);
  await person.button('Connect Plain Ads');
  await person.button('Try Plain Ads');
  await expect(page.getByText('It answers for rows; of this pretend one it said “UNKNOWN CLICK”.')).toBeVisible();
  await open(page, '/report-backs?outcome=SHP-PAID');
  await person.button('Tell Plain Ads of it');
  const telling = page.getByRole('region', { name: 'Telling plain-ads' });
  await telling.getByLabel('Minutes until it is told').fill('0');
  await telling.getByRole('combobox', { name: 'The first ones' }).selectOption({ label: 'go at once' });
  await telling.getByRole('button', { name: 'Add to draft' }).click();
  await expect(telling.getByText('In the draft,')).toBeVisible();
  await release(page, 'Plain Ads by postback');

  await buy(browser);
  await expect(async () => {
    await page.goto(`${places.plainAds}/account`);
    await expect(page.getByRole('heading', { name: /^1 conversions of/ })).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await expect(page.getByText('GBP 31.67', { exact: true }).first()).toBeVisible();
});

test('the same platform by files: each is there once something is due', async ({ page, browser }) => {
  const person = new Person(page);
  await signIn(page);
  await open(page, '/connections/platforms?platform=plain-ads');
  await person.pick('Way of telling', 'By files, in CSV');
  await person.field('Path', '/files/{file}.csv');
  await person.pick('When a file is written', 'A file as soon as something is due');
  await person.field('Header of the key', 'x-plain-key');
  await person.field('Before the key', '');
  await expect(page.getByRole('region', { name: 'What it is sent' })).toContainText(
    'click_id,outcome,happened_at,amount,currency,order_id,change',
  );
  await person.button('Add to draft');
  await person.settled();
  await release(page, 'Plain Ads by files');
  await buy(browser);
  await expect(async () => {
    await page.goto(`${places.plainAds}/account`);
    await expect(page.getByRole('heading', { name: /^2 conversions of/ })).toBeVisible({ timeout: 1000 });
    await expect(page.getByText(/of which there were 1\./)).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await page.goto(`${home}/report-backs/files`);
  const download = page.waitForEvent('download');
  await page.getByRole('region', { name: 'Files out' }).getByRole('link', { name: 'CSV', exact: true }).click();
  expect((await download).suggestedFilename()).toBe('conversions.csv');
});
