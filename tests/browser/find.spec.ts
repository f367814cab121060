import { expect } from '@playwright/test';
import { home, open, setEvening, signIn, test } from './world';

test.beforeEach(async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
});

test('where a lead is from is answered by two keys and a paste, from any page', async ({ page }) => {
  await open(page, '/links/short');
  await page.keyboard.press('Control+k');
  const sheet = page.getByRole('dialog', { name: 'Find anything' });
  await expect(sheet.getByRole('combobox')).toBeFocused();
  await page.keyboard.insertText('bakery bluegate');
  const row = sheet.getByRole('option', { name: /Bakery Bluegate/ }).first();
  await expect(row).toContainText(/ on Quillsearch|Direct|not known|letter|feed/i);
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/leads\/[0-9a-f-]{36}$/);
  await expect(page.getByRole('main')).toContainText('Bakery Bluegate');
});

test('a campaign, a short link and a page of Avrix are found; what is nowhere is said, and Escape closes', async ({
  page,
}) => {
  await open(page, '');
  const sheet = page.getByRole('dialog', { name: 'Find anything' });
  const field = sheet.getByRole('combobox');
  await page.keyboard.press('Control+k');
  await field.fill('winterproof');
  await expect(sheet.getByRole('group', { name: 'Campaigns' }).getByRole('option').first()).toContainText(
    'winterproof',
  );
  await field.fill('/go/cargo-fair');
  await expect(sheet.getByRole('group', { name: 'Links' }).getByRole('option')).toContainText(
    /cargo-fair.*trade-fair|cargo-fair/,
  );
  await field.fill('no such thing');
  await expect(sheet.getByText('Nothing here is called “no such thing”.')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(sheet).toBeHidden();
  await page.keyboard.press('Control+k');
  await expect(field).toHaveValue('');
  await field.fill('page checks');
  await expect(sheet.getByRole('option', { name: 'Page checks' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(`${home}/links/checks`);
});
