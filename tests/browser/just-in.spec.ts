import { expect } from '@playwright/test';
import { enquire, open, places, ready, setEvening, signIn, test } from './world';

/* What comes in, as it comes in: what to look at right after releasing. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('a visit is listed as it goes on, waits while the list is paused, and its browser is followed to its lead', async ({
  page,
  context,
}) => {
  const table = page.getByRole('region', { name: 'What came in' });
  const rows = table.locator('tbody tr');
  const heading = page.getByRole('heading', { level: 1 });
  await open(page, '/results/just-in');
  const visit = await context.newPage();
  await visit.goto(`${places.larkmoor}/fleet?utm_source=letter&utm_medium=e-mail&utm_campaign=just-in-letter`);
  await expect(rows.filter({ hasText: 'just-in-letter' })).toContainText(
    'Opened /fleet. Starts a touch, because it brings campaign values.',
  );
  await expect(heading).toHaveText(/^\d+ hits?.* came in during the last 15 minutes\.$/);

  await page.getByRole('button', { name: 'Pause' }).click();
  const before = await rows.count();
  await enquire(visit, { path: '/fleet', button: 'Ask for a test ride' }, 'Justin’s Bakery');
  const status = page.getByRole('status').filter({ hasText: 'Paused' });
  await expect(status).toHaveText(/Paused\. \d+ newer ones? (is|are) waiting\./);
  expect(await rows.count()).toBe(before);
  await page.getByRole('button', { name: 'Go on' }).click();
  await expect(rows.filter({ hasText: 'came in' }).first()).toBeVisible();

  await rows.filter({ hasText: 'just-in-letter' }).getByRole('button', { name: 'follow' }).click();
  await expect(page).toHaveURL(/whose=browser&browser=[0-9a-f-]{36}/);
  await expect(page.getByRole('combobox', { name: 'Whose' })).toHaveValue('browser');
  await expect(table).toHaveAttribute('aria-busy', 'false');
  await expect(table.getByRole('button', { name: 'follow' })).toHaveCount(0);
  await expect(rows.filter({ hasText: 'came in' })).toHaveCount(1);
  await page.reload();
  await ready(page);
  await expect(rows.filter({ hasText: 'just-in-letter' })).toHaveCount(1);
  await expect(table.getByRole('button', { name: 'follow' })).toHaveCount(0);
  await rows.filter({ hasText: 'came in' }).getByRole('link').click();
  await expect(page).toHaveURL(/\/leads\/[0-9a-f-]{36}/);
});

test('what is shown is chosen in the sentence and found by keys, and a row opens by Enter', async ({ page }) => {
  const table = page.getByRole('region', { name: 'What came in' });
  await open(page, '/results/just-in');
  await page.getByRole('button', { name: 'Take out kind 1' }).click();
  await page.getByRole('button', { name: 'Take out kind 1' }).click();
  await expect(page).toHaveURL(/kinds=lead%2Canswer/);
  await expect(table).toHaveAttribute('aria-busy', 'false');
  await expect(table.locator('tbody')).not.toContainText('Opened');
  await page.keyboard.press('/');
  await page.keyboard.type('quillsearch');
  await expect(page).toHaveURL(/find=quillsearch/);
  await expect(table).toHaveAttribute('aria-busy', 'false');
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('j');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/report-backs\/queue\/[0-9a-f-]{36}/);
});
