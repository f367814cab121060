import { expect, type Browser, type Page } from '@playwright/test';
import { avrixDoor, open, owner, ready, release, setEvening, signIn, test } from './world';

/* Two people at the same rules, and the way back from a release. */

const maud = { mail: 'maud@larkmoor.example', password: 'writes a long password' };

test.beforeAll(async () => {
  // Who was made by an earlier run is there.
  await avrixDoor('person', { ...maud, business: 'larkmoor', role: 'editor' }).catch(() => undefined);
});

async function personAt(browser: Browser, who: { mail: string; password: string }, path: string): Promise<Page> {
  const context = await browser.newContext();
  await setEvening(context);
  const page = await context.newPage();
  await signIn(page, who);
  await open(page, path);
  return page;
}
const days = (page: Page) => page.getByLabel('Days a touch is kept');
const put = (page: Page) =>
  page.getByRole('region', { name: 'Touches' }).getByRole('button', { name: 'Add to draft' }).click();

test('what two people write on one rule: the second is shown both, and chooses', async ({ browser }) => {
  const anna = await personAt(browser, owner, '/capture/kept');
  const other = await personAt(browser, maud, '/capture/kept');
  await days(anna).fill('70');
  await days(other).fill('80');
  await put(other);
  await expect(other.getByText('In the draft,').first()).toBeVisible();

  // Anna is told without doing anything, and what she is writing stays, whatever the page reads anew meanwhile.
  await expect(anna.getByText('Maud changed this rule meanwhile.')).toBeVisible();
  await anna.getByLabel('Idle minutes that end a visit').fill('31');
  await anna.getByRole('region', { name: 'Visits' }).getByRole('button', { name: 'Add to draft' }).click();
  await expect(anna.getByText('Maud changed this rule meanwhile.')).toBeVisible();
  await expect(days(anna)).toHaveValue('70');
  await anna.reload();
  await ready(anna);
  await expect(days(anna)).toHaveValue('70');

  await put(anna);
  const alert = anna.getByRole('region', { name: 'Touches' }).getByRole('alert');
  await expect(alert).toContainText('changed this rule while you were writing');
  await expect(alert).toContainText('are kept 80 days');
  await expect(alert).toContainText('are kept 70 days');
  await anna.getByRole('button', { name: 'Keep theirs' }).click();
  await expect(days(anna)).toHaveValue('80');

  await days(anna).fill('60');
  await days(other).fill('65');
  // Its words are in the draft since the first time, so only the answer says that it is there.
  await Promise.all([other.waitForResponse((answer) => answer.url().endsWith('/draft') && answer.ok()), put(other)]);
  await put(anna);
  await anna.getByRole('button', { name: 'Replace it with yours' }).click();
  await expect(alert).toHaveCount(0);
  await open(other, '/not-live');
  await expect(other.getByText(/touch are kept 60 days/)).toBeVisible();
  await other.getByRole('button', { name: 'Drop them all' }).click();
  await expect(other.getByRole('heading', { name: 'Everything is live.' })).toBeVisible();
});

test('a release is read in the history, and taken back', async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
  await open(page, '/capture/kept');
  await days(page).fill('45');
  await put(page);
  // Left before it is answered, what was typed would still be on this screen when it is opened again.
  await expect(page.getByText('In the draft,').first()).toBeVisible();
  await release(page, 'Shorter touches');
  await page.getByRole('link', { name: 'History' }).click();
  await expect(page.getByRole('heading', { name: /“Shorter touches”, is live\.$/ })).toBeVisible();
  await ready(page);
  const newest = page.getByRole('listitem').first();
  await expect(newest).toContainText('are kept 45 days');
  await newest.getByRole('button', { name: 'Take back 1 rule' }).click();
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
  await expect(page.getByRole('listitem').first()).toContainText(/Takes back \d+, Shorter touches/);
  await expect(page.getByRole('listitem').nth(1)).toContainText('taken back since');
  await open(page, '/capture/kept');
  await expect(days(page)).toHaveValue('90');
});

test('a rule that another one needs is not taken out: the one that needs it is named', async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
  await open(page, '/capture/swaps');
  await page.getByRole('button', { name: 'Take the rule out' }).click();
  await expect(page.getByText(/needs the swap table “[^”]+”, which is not there/)).toBeVisible();
});
