import { expect } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('a segment is written as a sentence, counted while it is written, kept, and narrows the leads and the answers', async ({
  page,
}) => {
  await open(page, '/leads/segments');
  await page.keyboard.press('n');
  const effect = page.getByRole('region', { name: 'Effect' });
  await expect(effect).toContainText('Not said yet');
  await page.getByLabel('Name').fill('Quillsearch this winter');
  await page.getByLabel('Values, condition 1').fill('quillsearch');
  await page.keyboard.press('Enter');
  await expect(effect).toContainText(/\d+ enquiries of \d+ people/);
  const all = Number(/^(\d+) enquiries/.exec((await effect.getByRole('heading').textContent())!)![1]);
  await page.getByRole('button', { name: 'and …' }).click();
  await page.getByLabel('What is looked at, condition 2').selectOption('enquired');
  await page.getByLabel('Days, condition 2').fill('20');
  await expect(async () => {
    const now = Number(/^(\d+) enquir/.exec((await effect.getByRole('heading').textContent())!)![1]);
    expect(now).toBeLessThan(all);
    expect(now).toBeGreaterThan(0);
  }).toPass();
  // What is written stays over a reload.
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Name')).toHaveValue('Quillsearch this winter');
  await page.getByRole('button', { name: 'Save segment' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 segment to narrow lists by.');
  const link = page.getByRole('link', { name: /^Open \d+ in Leads$/ });
  const many = /\d+/.exec((await link.textContent())!)![0];
  await link.click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    new RegExp(`^${many} enquir(y|ies)( is)? in “Quillsearch this winter”\\.$`),
  );
  const rows = page.getByRole('row').filter({ has: page.getByRole('cell') });
  await expect(rows).toHaveCount(Number(many));
  await ready(page);
  const leads = page.url();
  // The line of the same people: nobody counts the clicks of a segment.
  await page.getByRole('link', { name: 'Its line' }).click();
  await ready(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^In “Quillsearch this winter”: of \d+ enquiries/);
  await page.getByRole('link', { name: 'One sales cycle' }).click();
  await expect(page).toHaveURL(/range=cycle.*segment=|segment=.*range=cycle/);
  await ready(page);
  await page.getByLabel('Segment').selectOption('every lead');
  await expect(page.getByRole('heading', { level: 1 })).not.toContainText('“Quillsearch');
  await page.goto(leads);
  await ready(page);
  await page.getByLabel('Segment').selectOption('every lead');
  await expect(page.getByRole('heading', { level: 1 })).not.toContainText('“Quillsearch');
  await open(page, '/leads/answers?weeks=13');
  await page.getByLabel('Segment').selectOption('Quillsearch this winter');
  await expect(page).toHaveURL(/segment=/);
  const sources = page.getByRole('region', { name: 'First answer by source' });
  await expect(sources.getByRole('row').filter({ hasText: 'Quillsearch' })).toBeVisible();
});

test('its rows are exported as CSV and as a workbook', async ({ page }) => {
  await open(page, '/leads/segments');
  await page.getByRole('link', { name: /^Open \d+ in Leads$/ }).click();
  await ready(page);
  for (const [name, file] of [
    ['Export CSV', 'leads.csv'],
    ['Export XLSX', 'leads.xlsx'],
  ] as const) {
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name }).click();
    expect((await download).suggestedFilename()).toBe(file);
  }
});

test('it is duplicated under a name of its own, made part of another, and not retired while it is', async ({
  page,
}) => {
  await open(page, '/leads/segments');
  await page.getByRole('button', { name: 'Duplicate' }).click();
  const list = page.getByRole('navigation', { name: 'Segments' });
  await expect(list.getByRole('link', { name: 'Quillsearch this winter, copy' })).toBeVisible();
  await page.getByRole('button', { name: 'New segment' }).click();
  await page.getByLabel('Name').fill('Without the copy');
  await page.getByLabel('What is looked at, condition 1').selectOption('not_segment');
  await page.getByLabel('Segment, condition 1').selectOption('“Quillsearch this winter, copy”');
  await page.getByRole('button', { name: 'Save segment' }).click();
  await expect(list.getByRole('link', { name: 'Without the copy' })).toBeVisible();
  await list.getByRole('link', { name: 'Quillsearch this winter, copy' }).click();
  await expect(page.getByText('Part of “Without the copy”.')).toBeVisible();
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(page.getByRole('alert')).toContainText('It is part of “Without the copy”.');
  await list.getByRole('link', { name: 'Without the copy' }).click();
  await page.getByRole('button', { name: 'Retire' }).click();
  await expect(list.getByRole('link', { name: /Without the copy\s*retired/ })).toBeVisible();
});
