import { expect } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const list = [
  'Company,Contact,Email,Date,Source,Medium,Campaign,Stand',
  'Quince Wheels,Ines Quince,ines@quince.example,2027-02-10,cargo-fair,fair,uk-27q1-fleet-winterproof,7',
  'Nobody,,,,cargo-fair,fair,,7',
  'Tansy Parcels,Di Tansy,di@tansy.example,2027-02-11,cargo-fair,fair,,7',
].join('\n');

test('a list is imported, wrong rows named; its leads are in the CRM, and their page says which list', async ({
  page,
}) => {
  await open(page, '/leads');
  await page.getByRole('link', { name: 'Bring leads in' }).click();
  await ready(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('No lead was brought in yet.');
  const file = page.getByRole('region', { name: 'From a file' });
  await file.getByLabel(/^What the list is called/).fill('Cargo fair, February');
  await file
    .locator('input[type=file]')
    .setInputFiles({ name: 'fair.csv', mimeType: 'text/csv', buffer: Buffer.from(list) });
  await expect(file).toContainText('2 leads were brought in, 1 not.');
  await expect(file).toContainText('row 3: it does not say who it is.');
  await expect(file).toContainText('The column stand was not read.');
  const row = page.getByRole('region', { name: 'Lists' }).getByRole('row').filter({ hasText: 'Cargo fair, February' });
  await expect(row.getByRole('cell').nth(2)).toHaveText('2');
  await row.getByRole('link', { name: 'Cargo fair, February' }).click();
  await page.getByRole('link', { name: 'Quince Wheels' }).click();
  await expect(page.getByRole('table').first().getByRole('columnheader').nth(1)).toHaveText('Imported');
  await expect(page.getByText('Brought in from “Cargo fair, February”')).toBeVisible();
});

test('a lead is typed in; what is wrong is said at its field', async ({ page }) => {
  await open(page, '/leads/import');
  const form = page.getByRole('form', { name: 'By hand' });
  await form.getByLabel('Company').fill('Rue Bakery');
  await form.getByLabel('Email').fill('bo at rue');
  await form.getByRole('button', { name: 'Add lead' }).click();
  await expect(form).toContainText('“bo at rue” is no email address');
  await form.getByLabel('Email').fill('bo@rue.example');
  await form.getByRole('button', { name: 'Add lead' }).click();
  await expect(
    page.getByRole('region', { name: 'Lists' }).getByRole('row').filter({ hasText: 'By hand' }),
  ).toBeVisible();
  await expect(form.getByLabel('Company')).toHaveValue('');
});

test('a person is erased: asked once more, said how much it was, and gone from the list', async ({ page }) => {
  await open(page, '/leads?find=Tansy');
  await page.getByRole('link', { name: 'Tansy Parcels' }).click();
  await ready(page);
  await page.getByRole('button', { name: 'Erase this person' }).click();
  await expect(page.getByRole('alertdialog')).toContainText('The CRM keeps its own record');
  await page.getByRole('button', { name: 'Erase for good' }).click();
  await expect(page.getByText(/^Erased: 1 enquiry, 2 records, 1 deal/)).toBeVisible();
  await open(page, '/leads?find=Tansy');
  await expect(page.getByRole('link', { name: 'Tansy Parcels' })).toHaveCount(0);
  await open(page, '/changes');
  await expect(page.getByRole('row').filter({ hasText: 'A person' })).toContainText('amounts stay without the person');
});
