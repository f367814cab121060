import { expect } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const heading = { level: 1 } as const;

test('what is held says why and where it is fixed, and its number opens its rows', async ({ page }) => {
  await open(page, '/report-backs/queue');
  await expect(page.getByRole('heading', heading)).toHaveText(/^\d+ are held; \d+ told\.$/);
  const stopped = page.getByRole('region', { name: 'Why they stopped' });
  const row = stopped.getByRole('row').filter({ hasText: 'No click ID in the CRM' });
  await expect(row.getByRole('link', { name: 'Fix the form first' })).toHaveAttribute('href', /\/leads\/repair$/);
  const many = row.getByRole('link', { name: /^\d+$/ });
  const count = Number(await many.textContent());
  await many.click();
  await ready(page);
  await expect(page.getByRole('checkbox')).toHaveCount(count);
  await page.getByRole('link', { name: /^All \d+/ }).click();
  await expect(page).toHaveURL(/\/queue$/);
});

test('all of a list are held by somebody, said before it is done, and let go again', async ({ page }) => {
  await open(page, '/report-backs/queue?state=held');
  const what = page.getByRole('region', { name: 'What to do' });
  await what.getByRole('button', { name: /^choose all/ }).click();
  await what.getByRole('button', { name: 'Let go', exact: true }).click();
  await expect(what).toContainText(/None would be let go; \d+ not held by a person\./);
  await what.getByRole('button', { name: 'Cancel' }).click();
  await what.getByRole('button', { name: 'Hold', exact: true }).click();
  await expect(what).toContainText(/\d+ report-backs would be held\./);
  await what.getByRole('button', { name: /^Hold \d+$/ }).click();
  await expect(page.getByText(/^: Held by /).first()).toBeVisible();
  await expect(page.getByText('The click was 21 days old or older')).toHaveCount(0);
  await what.getByRole('button', { name: /^choose all/ }).click();
  await what.getByRole('button', { name: 'Let go', exact: true }).click();
  await what.getByRole('button', { name: /^Let go \d+$/ }).click();
  // Each is decided anew, and held for its own reason again.
  await expect(page.getByText('The click was 21 days old or older').first()).toBeVisible();
  await expect(page.getByText(/Held by /)).toHaveCount(0);
});

test('one is opened by keys, with what was sent and answered and no key to be read', async ({ page }) => {
  await open(page, '/report-backs/queue?state=confirmed');
  await page.keyboard.press('j');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', heading)).toHaveText(/ has [A-Z-]+ of .+\.$/);
  await page.getByText('What was sent', { exact: true }).click();
  await expect(page.locator('pre')).toContainText('…');
  await page.goBack();
  await expect(page).toHaveURL(/queue\?state=confirmed$/);
});
