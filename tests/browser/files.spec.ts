import { readFileSync } from 'node:fs';
import { expect } from '@playwright/test';
import { ask, evening, open, places, ready, release, setEvening, signIn, test } from './world';

/* Conversions that happened elsewhere: an outcome that rows of files reach, a file of 2,500 of them, and its answers. */
test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

/** Click IDs that the demo knows. */
async function knownClicks(many: number): Promise<string[]> {
  const clicks: string[] = [];
  for (let n = 0; n < many; n++) {
    const { headers } = await ask(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
    clicks.push(new URL(String(headers.location)).searchParams.get('qsid')!);
  }
  return clicks;
}

test('where no outcome is reached by a file it says so, and leads to a new one', async ({ page }) => {
  await open(page, '/report-backs/files');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'early.csv', mimeType: 'text/csv', buffer: Buffer.from('click_id,outcome\nQ-1,signed\n') });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('“early.csv” waits to be taken.');
  await ready(page);
  await expect(page.getByRole('button', { name: 'Take this file' })).toBeDisabled();
  await page.getByRole('link', { name: 'Make one' }).click();
  await expect(page.getByLabel('What reaches it')).toBeVisible();
  await page.goBack();
  await ready(page);
  await page.getByRole('button', { name: 'Discard it' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'No conversions have been imported from a file yet.',
  );
});

test('an outcome is reached by a row of a file, told for the record, and live in under 12 actions', async ({
  page,
}) => {
  let actions = 0;
  const does = async (action: Promise<unknown>) => {
    actions += 1;
    await action;
  };
  await open(page, '/report-backs?new=yes');
  await does(page.getByLabel('What reaches it').selectOption('file'));
  await does(
    page
      .getByRole('combobox', { name: 'What the row says' })
      .or(page.getByLabel('What the row says'))
      .fill('lease signed'),
  );
  await does(page.getByLabel('Code of the outcome').fill('FLT-LEASE'));
  await does(page.getByLabel('What people call it').fill('Lease signed, by file'));
  await does(page.getByLabel('What it is worth').selectOption('realised'));
  await does(page.getByLabel('Amount field').fill('amount'));
  await page.keyboard.press('Enter');
  await does(page.getByRole('button', { name: 'Add to draft' }).click());
  await does(page.getByRole('button', { name: /^Tell Quillsearch.* of it$/ }).click());
  await does(
    page.getByRole('region', { name: 'Telling quillsearch' }).getByRole('button', { name: 'Add to draft' }).click(),
  );
  await expect(page.getByRole('region', { name: 'Telling quillsearch' })).toContainText('for the record');
  // Leaving the page sooner would leave it unsaid.
  await expect(page.getByRole('region', { name: 'Telling quillsearch' }).getByText('In the draft,')).toBeVisible();
  await release(page, 'Leases count');
  expect(actions + 2).toBeLessThan(12);
});

test('a file of 2,500 rows is looked at, taken with progress, and answered row by row', async ({ page }) => {
  test.setTimeout(240_000);
  const clicks = await knownClicks(3);
  const at = new Date(evening - 3_600_000).toISOString();
  const rows = Array.from({ length: 2497 }, (_, n) => `${clicks[n % 3]};lease signed;${at};1.249,50;EUR;L-${n + 1}`);
  const text = [
    'Click ref;Goal;Won on;Lease value;Cur;Contract number',
    ...rows,
    `${clicks[0]};lease sent;${at};1,00;EUR;L-9001`,
    `${clicks[0]};lease signed;soon;1,00;EUR;L-9002`,
    `${clicks[0]};lease signed;${at};1.249,50;EUR;L-1`,
  ].join('\n');
  await open(page, '/report-backs/files');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'No conversions have been imported from a file yet.',
  );
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'leases.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('“leases.csv” waits to be taken.');
  await ready(page);
  await expect(page.getByLabel('Click ID', { exact: true })).toHaveValue('click ref');
  await expect(page.getByLabel('Order number')).toHaveValue('contract number');
  await expect(page.getByLabel('Amounts')).toHaveValue('comma');
  await page.getByLabel('Platform').selectOption('quillsearch');
  // What is chosen is kept while somebody looks elsewhere.
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Platform')).toHaveValue('quillsearch');
  await expect(page.getByText('1,000 rows were tried, and all can be taken.')).toBeVisible();
  await page.getByLabel('Agreed').selectOption('yes');
  await page.getByRole('button', { name: 'Take this file' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    '2,497 rows of “leases.csv” taken, 2 refused, 1 known already.',
    { timeout: 120_000 },
  );
  await page.getByRole('link', { name: 'Refused 2' }).click();
  await ready(page);
  await expect(
    page.getByRole('row', { name: /2,499 Refused: No live outcome is reached by a row that says lease sent/ }),
  ).toBeVisible();
  await expect(page.getByRole('row', { name: /2,500 Refused: soon is no time/ })).toBeVisible();
  const [answers] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export CSV' }).click(),
  ]);
  const lines = readFileSync(await answers.path(), 'utf8')
    .trim()
    .split('\n');
  expect(lines).toHaveLength(3);
  expect(lines[1]).toMatch(/^"2499",.*"refused","No live outcome is reached/);
});

test('its rows are counted and told, and what changed comes as the next file', async ({ page }) => {
  test.setTimeout(240_000);
  await open(page, '/report-backs/files');
  await page.getByRole('link', { name: 'leases.csv' }).click();
  await ready(page);
  await page.getByRole('searchbox').or(page.getByPlaceholder('Click ID, order, outcome, why')).first().fill('L-7');
  const row = page.getByRole('row', { name: / L-7 / });
  await expect(row).toContainText(/(waiting|told|confirmed|refused|held) at Quillsearch/, { timeout: 120_000 });
  await row.getByRole('link').click();
  await expect(page.getByText('Counted FLT-LEASE once, as a file says lease signed').first()).toBeVisible();
  const at = new Date(evening - 60_000).toISOString();
  const text = `click_id,outcome,happened_at,amount,currency,order_id,change\n,lease signed,${at},1000.00,EUR,L-7,revalued\n`;
  await open(page, '/report-backs/files');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'changed.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page.getByRole('button', { name: 'Take this file' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 row of “changed.csv” taken.');
});

test('one that is no table is answered in place, and one that is not wanted goes', async ({ page }) => {
  await open(page, '/report-backs/files');
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'x.csv', mimeType: 'text/csv', buffer: Buffer.from([0x62, 0xe4, 0x63]) });
  await expect(page.getByText('The file’s letters are not in UTF-8.')).toBeVisible();
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'wrong.csv', mimeType: 'text/csv', buffer: Buffer.from('a,b\n1,2\n') });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('“wrong.csv” waits to be taken.');
  await ready(page);
  await expect(page.getByText('1 row was tried; 1 would be refused.')).toBeVisible();
  await page.getByRole('button', { name: 'Discard it' }).click();
  await expect(page.getByRole('link', { name: 'wrong.csv' })).toHaveCount(0);
  await expect(page.getByRole('link', { name: 'leases.csv' })).toBeVisible();
});
