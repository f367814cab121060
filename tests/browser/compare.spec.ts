import { expect, type Browser } from '@playwright/test';
import { buyRainCover, pass } from './person';
import { evening, home, open, places, ready, release, setEvening, signIn, test } from './world';

/* Another way tells Quillsearch of shop orders still; Avrix works out what it would tell, until it is switched over. */

test.describe.configure({ mode: 'serial' });

let clickId = '';

/** Somebody presses on an ad of Quillsearch and buys in the shop. @returns the click ID and the order's number */
async function buy(browser: Browser, hoursOn = 0): Promise<{ qsid: string; number: string }> {
  const context = await browser.newContext();
  await setEvening(context);
  const page = await context.newPage();
  if (hoursOn > 0) await page.clock.setSystemTime(evening + hoursOn * 3_600_000);
  const landed = page.waitForResponse((response) => response.url().includes('/take/'));
  await page.goto(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
  await landed;
  const qsid = new URL(page.url()).searchParams.get('qsid')!;
  const number = await buyRainCover(page);
  await context.close();
  return { qsid, number };
}

test('what is only worked out is told to nobody, and listed beside what the other way told', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await open(page, '/report-backs/compare');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Nothing is only worked out.');
  await open(page, '/report-backs?outcome=SHP-PAID');
  const own = page.getByRole('region', { name: 'Telling quillsearch' });
  const add = page.getByRole('button', { name: /^Tell Quillsearch.* of it$/ });
  if ((await own.count()) === 0) await add.click();
  await own
    .getByRole('combobox', { name: 'How it is told' })
    .selectOption({ label: 'only worked out, and nobody is told' });
  await own.getByLabel('Minutes until it is told').fill('0');
  await own.getByRole('button', { name: 'Add to draft' }).click();
  await expect(own.getByText('In the draft,')).toBeVisible();
  await release(page, 'Only worked out');

  ({ qsid: clickId } = await buy(browser));
  await expect(async () => {
    await open(page, '/report-backs/compare');
    await expect(page.getByRole('heading', { level: 1 })).toHaveText(
      'Avrix would tell 1 of SHP-PAID, the other way counts 0.',
      { timeout: 1000 },
    );
  }).toPass({ timeout: 60_000 });
});

test('the old file is compared row by row, and counted nowhere', async ({ page }) => {
  await signIn(page);
  await open(page, '/report-backs/compare');
  const at = new Date(evening).toISOString();
  const text = `visit;when;value;cur\n${clickId};${at};31,67;GBP\nQsNobodyHasThis;${at};10,00;GBP\n`;
  await page
    .locator('input[type=file]')
    .setInputFiles({ name: 'old-way.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('“old-way.csv” waits to be compared.');
  await ready(page);
  await expect(page.getByLabel('What the file is for')).toHaveValue('SHP-PAID quillsearch');
  for (const [part, column] of [
    ['Click ID', 'visit'],
    ['When it happened', 'when'],
    ['Amount', 'value'],
    ['Currency', 'cur'],
  ])
    await page.getByLabel(part!, { exact: true }).selectOption(column!);
  await expect(page.getByText('2 rows were tried, and all can be taken.')).toBeVisible();
  await page.getByRole('button', { name: 'Compare this file' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('2 rows of “old-way.csv” compared.');
  await page.getByRole('link', { name: 'Compare', exact: true }).last().click();
  await ready(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Avrix would tell 1 of SHP-PAID, the other way told 2.',
  );
  await expect(page.getByRole('region', { name: 'Days' }).getByRole('row', { name: /^All/ })).toHaveText('All121');
  const row = page.getByRole('region', { name: 'Differences', exact: true }).first().getByRole('row').nth(1);
  await expect(row).toContainText('the other way alone');
  await expect(row).toContainText('No outcome is counted by this click.');
});

test('switched over at a stated moment, Avrix tells what happens from then on and nothing before', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await open(page, '/report-backs/compare');
  // London keeps UTC in February.
  const from = new Date(evening + 2 * 3_600_000).toISOString().slice(0, 16);
  await page.getByLabel('Avrix tells what happens from').fill(from);
  await page.getByRole('button', { name: 'Set the time' }).click();
  await expect(page.getByRole('region', { name: 'Switch over' })).toContainText('once it is live');
  await release(page, 'Switch over');
  await pass(3, [page]);
  const { number } = await buy(browser, 3);
  await expect(async () => {
    await page.goto(`${home}/report-backs/queue?outcome=SHP-PAID&account=quillsearch`);
    await expect(page.getByRole('row', { name: new RegExp(`order ${number}.*(told|confirmed)`) })).toBeVisible({
      timeout: 1500,
    });
  }).toPass({ timeout: 60_000 });
  await expect(page.getByRole('row', { name: /withdrawn: Only worked out: it is told another way/ })).toHaveCount(1);
  await open(page, '/report-backs/compare');
  await expect(page.getByRole('region', { name: 'Switch over' })).toContainText('Switched over');
});

test('an event that is only worked out is compared by day with what Meterhall counts', async ({ page, browser }) => {
  await signIn(page);
  await open(page, '/events?event=order_paid');
  const wire = page.getByRole('region', { name: 'Telling meterhall' });
  await wire
    .getByRole('combobox', { name: 'How it is told' })
    .selectOption({ label: 'only worked out, and nobody is told' });
  await wire.getByRole('button', { name: 'Add to draft' }).click();
  await expect(wire.getByText('In the draft,')).toBeVisible();
  await release(page, 'Orders are only worked out');
  await buy(browser, 3);
  await expect(async () => {
    await open(page, '/events?event=order_paid');
    await expect(wire.getByText('1 only worked out')).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await wire.getByRole('link', { name: 'Compare with what the other way told' }).click();
  await ready(page);
  // What Meterhall was told before by Avrix is not the other way's.
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Avrix would tell 1 of order_paid, the other way counts 0.',
  );
  await expect(page.getByLabel('Name in its report')).toHaveValue('shop/paid');
  await expect(page.getByRole('region', { name: 'What the other way told' })).toHaveCount(0);
});
