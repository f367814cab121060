import { expect, type Page } from '@playwright/test';
import { open, places, ready, setEvening, signIn, test } from './world';

test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

/** A call that ends now at Larkmoor's switchboard. */
async function ring(page: Page, caller: string, seconds: number, code = ''): Promise<void> {
  await page.goto(`${places.larkmoor}/switchboard`);
  await page.getByLabel('Caller', { exact: true }).fill(caller);
  await page.getByLabel(/^Seconds/).fill(String(seconds));
  await page.getByLabel(/^Code/).fill(code);
  await page.getByRole('button', { name: 'End the call' }).click();
}

test('calls are listed with what brought them, by code and by number, the short one aside', async ({ page }) => {
  await open(page, '/leads/calls');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    /^\d+ of \d+ callers are known by what brought them\.$/,
  );
  const calls = page.getByRole('region', { name: 'Calls' });
  await expect(calls.getByRole('row').filter({ hasText: 'by its code' }).first()).toContainText('Paid search on');
  await expect(calls.getByRole('row').filter({ hasText: 'by its number' }).first()).toContainText('cargo fair');
  await expect(calls.getByRole('row').filter({ hasText: 'too short' }).first()).toBeVisible();
});

test('a code that a page shows is read out on the telephone, and the call finds its visit', async ({
  page,
  context,
}) => {
  const visitor = await context.browser()!.newContext();
  const shop = await visitor.newPage();
  const told = shop.waitForResponse((answer) => answer.url().includes('/take/') && answer.status() < 300);
  await shop.goto(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
  await expect(shop).toHaveURL(/\/fleet/);
  const shown = shop.locator('.call-code');
  await expect(shown).toHaveText(/^[0-9A-Z]{3}-[0-9A-Z]{4}$/);
  const code = (await shown.textContent())!;
  await told;
  // It stays the same on the next page.
  await shop.goto(`${places.larkmoor}/care`);
  await expect(shown).toHaveText(code);
  await visitor.close();
  await ring(page, '07700 900960', 95, code);
  await open(page, '/leads/calls');
  const row = page.getByRole('region', { name: 'Calls' }).getByRole('row').filter({ hasText: '07700 900960' });
  await expect(row).toContainText('Paid search on Quillsearch by its code');
  await expect(row).toContainText('an enquiry');
  await row.getByRole('link').click();
  await expect(page.getByRole('table').first().getByRole('columnheader').nth(4)).toHaveText('Called');
  await expect(page.getByText('Being answered', { exact: true })).toBeVisible();
});

test('a missed call is unanswered, and a call by hand is typed in, wrong ones named at their field', async ({
  page,
}) => {
  await ring(page, '07700 900961', 0);
  await open(page, '/leads/calls');
  const calls = page.getByRole('region', { name: 'Calls' });
  await expect(calls.getByRole('row').filter({ hasText: '07700 900961' })).toContainText('not answered');
  await page.getByRole('button', { name: 'Add a call' }).click();
  const form = page.getByRole('form', { name: 'Add a call' });
  await form.getByLabel('Caller’s number').fill('07700 900962');
  await form.getByLabel('When').fill('sometime');
  await form.getByLabel('Minutes').fill('4,5');
  await form.getByRole('button', { name: 'Add call' }).click();
  await expect(form).toContainText('Write it as 2027-02-15 17:00');
  await form.getByLabel('When').fill('2027-02-15 16:30');
  await form.getByRole('button', { name: 'Add call' }).click();
  await expect(form).toHaveCount(0);
  await expect(calls.getByRole('row').filter({ hasText: '07700 900962' })).toContainText('4:30');
});

test('a number of its own is made for a partner, changed and retired', async ({ page }) => {
  await open(page, '/leads/calls');
  await page.getByRole('button', { name: 'New number' }).click();
  const form = page.getByRole('form', { name: 'New number' });
  await form.getByLabel('What people call it').fill('Yard and Round');
  await form.getByLabel('Number', { exact: true }).fill('01632 960018');
  await form.getByLabel(/^Source/).fill('yard-and-round');
  await form.getByRole('button', { name: 'Save number' }).click();
  await expect(form).toContainText('“Fleet line” has this number already');
  await form.getByLabel('Number', { exact: true }).fill('01632 960055');
  await form.getByRole('button', { name: 'Save number' }).click();
  const numbers = page.getByRole('region', { name: 'Numbers' });
  await numbers.getByRole('link', { name: 'Yard and Round' }).click();
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(numbers.getByRole('listitem').filter({ hasText: 'Yard and Round' })).toContainText('retired');
});

test('a file is imported, its bad row named; where the parts are is changed and kept over a reload', async ({
  page,
}) => {
  await open(page, '/leads/calls');
  const csv =
    'id,dialled,caller,start,duration\nf1,01632 960018,07700 900970,2027-02-10 10:00,200\nf2,01632 960018,07700 900971,soon,9\n';
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'calls.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  await expect(page.getByRole('status').filter({ hasText: '1 call was imported, 1 not.' })).toContainText(
    'row 3: “soon” at /start is no time',
  );
  await page.getByRole('link', { name: 'How calls come in' }).click();
  await ready(page);
  const form = page.getByRole('form', { name: 'How calls come in' });
  await expect(form.getByLabel('when it began, column')).toHaveValue('/start');
  await form.getByLabel('Shortest length in seconds').fill('45');
  await page.reload();
  await ready(page);
  await expect(form.getByLabel('Shortest length in seconds')).toHaveValue('45');
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(form.getByText('Saved.')).toBeVisible();
  await form.getByRole('button', { name: 'Replace the secret' }).click();
  await expect(form.getByText('Its secret, shown this once:')).toBeVisible();
});
