import { expect } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

/* Visits one by one, and those behind a figure. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('a figure of visits opens as many visits; one with a lead opens the lead, and all visits of its browser', async ({
  page,
}) => {
  await open(page, '/results?count=visits&by=source,campaign&range=weeks13&against=none');
  const cell = page.getByRole('region', { name: 'Figures' }).locator('tbody tr').first().getByRole('link');
  const figure = (await cell.innerText()).trim();
  await cell.click();
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(new RegExp(`^${figure} visits of .+, (\\d+|none) of them with a lead\\.$`));
  await ready(page);
  await page.getByRole('combobox', { name: 'Lead', exact: true }).selectOption('with a lead');
  await expect(heading).toHaveText(/^\d+ visits with a lead of /);
  const rows = page.getByRole('region', { name: 'Visits' }).locator('tbody tr');
  await expect(rows.first().getByRole('link').first()).toHaveAttribute('href', /\/leads\//);
  const csv = await page.evaluate(async () => {
    const link = [...document.querySelectorAll('a')].find(({ textContent }) => textContent === 'Export CSV')!;
    return (await fetch(link.href)).text();
  });
  expect(csv.trim().split('\n')).toHaveLength(Number(/\d+/.exec(await heading.innerText())![0]) + 1);
  await rows.first().getByRole('link', { name: 'its visits' }).click();
  await expect(page).toHaveURL(/visits\?browser=/);
  await expect(page.getByText('All that this browser did here that is known')).toBeVisible();
  await ready(page);
  await page.keyboard.press('j');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/(leads|strands)\//);
});

test('columns are chosen, sorted and found, and stay so by the address', async ({ page }) => {
  await open(page, '/results/visits?range=weeks13');
  const table = page.getByRole('region', { name: 'Visits' });
  await page.getByRole('combobox', { name: 'What is shown, column 1', exact: true }).selectOption('channel');
  await expect(table.getByRole('columnheader').nth(1)).toHaveText('Channel');
  await table.getByRole('button', { name: 'Pages' }).click();
  await expect(page).toHaveURL(/sort=pages/);
  await page.getByLabel('Find by source, campaign or page').fill('winterproof');
  await expect(page).toHaveURL(/find=winterproof/);
  await expect(table).toHaveAttribute('aria-busy', 'false');
  const first = await table.locator('tbody tr').first().innerText();
  await page.reload();
  await ready(page);
  await expect.poll(() => table.locator('tbody tr').first().innerText()).toBe(first);
});
