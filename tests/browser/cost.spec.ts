import { expect, type Page } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

/* What ads cost, and what came back of it. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const heading = (page: Page) => page.getByRole('heading', { level: 1 });
const table = (page: Page) => page.getByRole('region', { name: 'Cost', exact: true });

test('the demo’s ads cost what its clicks did; a file adds a campaign, which is matched by hand and then stands with its leads', async ({
  page,
}) => {
  await open(page, '/results/cost?range=weeks13');
  await expect(heading(page)).toHaveText(/^£[\d,]+ for \d campaigns\.$/);
  const dearest = table(page).getByRole('button', { name: 'uk-27q1-fleet-winterproof' }).first();
  await dearest.click();
  await expect(table(page)).toContainText('hill-video');
  await expect(table(page)).toContainText('rain-still');

  await page.locator('input[type=file]').setInputFiles({
    name: 'cost.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'day,campaign,cost,currency\n2027-02-01,Winter van push,120.00,GBP\n1 Feb,Winter van push,1,GBP\n',
    ),
  });
  await expect(page.getByText('1 row was taken.')).toBeVisible();
  await expect(page.getByText('Row 3: day is “1 Feb”. Write days as 2027-02-15.')).toBeVisible();
  await expect(heading(page)).toHaveText(/ campaigns, 1 of them not matched\.$/);
  const row = table(page).locator('tbody tr').filter({ hasText: 'Winter van push' });
  await row.getByRole('button', { name: 'Say which' }).click();
  const which = page.getByRole('combobox', { name: 'Our campaign of Winter van push' });
  await which.fill('uk-26q4-fleet-van-swap');
  await which.press('Escape');
  await row.getByRole('button', { name: 'Save' }).click();
  await expect(row).toContainText('said by hand');
  await expect(heading(page)).toHaveText(/ for \d campaigns\.$/);

  await page.getByRole('button', { name: 'Add a fee' }).click();
  await page.getByLabel('Percent').fill('10');
  await page.getByLabel('First day').fill('2026-01-01');
  const before = await heading(page).innerText();
  await page.getByRole('region', { name: 'Fees' }).getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('region', { name: 'Fees' })).toContainText('10 % on Quillsearch');
  await expect(heading(page)).not.toHaveText(before);
  await page.getByRole('button', { name: /^Take out: 10 %/ }).click();
  await expect(heading(page)).toHaveText(before);
});

test('cost per lead stands beside the measured share, and a figure of cost opens its campaign', async ({ page }) => {
  await open(page, '/results?count=cost,leads,cost_per_lead&by=campaign&range=weeks13&against=none');
  const figures = page.getByRole('region', { name: 'Figures' });
  await expect(heading(page)).toHaveText(/cost most/);
  const first = figures.locator('tbody tr').first();
  await expect(first).toContainText(/\d+ % measured/);
  const cost = (await first.getByRole('link').first().innerText()).trim();
  await first.getByRole('link').first().click();
  await expect(page).toHaveURL(/\/results\/cost\?/);
  await ready(page);
  await expect(heading(page)).toContainText(cost);
});
