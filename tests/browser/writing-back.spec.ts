import { expect } from '@playwright/test';
import { enquire, open, openRecorded, places, ready, release, setEvening, signIn, test } from './world';

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('leads that lost their click ID on the way into the CRM are repaired in one action, from the line on', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await open(page, '');
  await page.getByRole('link', { name: 'put back what was lost' }).first().click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^\d+ records lack what their visit knows\.$/);
  await expect(page.getByRole('region', { name: 'Causes' })).toContainText('sends click_ref, the CRM reads click_id');
  await ready(page);
  const button = page.getByRole('button', { name: /^Repair \d+$/ });
  const many = Number((await button.textContent())!.replace(/\D/g, ''));
  await button.click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('No record lacks what its visit knows.', {
    timeout: 60_000,
  });
  const repaired = page.getByRole('region', { name: 'Repaired' });
  await expect(repaired.getByRole('row').filter({ hasText: 'written, repaired by Owner' })).toHaveCount(
    Math.min(many, 25),
  );
  await open(page, '');
  await expect(page.getByRole('region', { name: 'Losses' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'put back what was lost' })).toHaveCount(0);
});

test('a rule writes words into the CRM: written as a sentence, tried, made live, used on earlier records', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await open(page, '/leads/writes?new=yes');
  const effect = page.getByRole('region', { name: 'Effect' });
  await page.getByLabel('Fields of the CRM').fill('source_words');
  await page.getByLabel('Fields of the CRM').press('Enter');
  await expect(effect).toContainText(/Would change \d+ of the newest \d+ records/);
  await expect(effect).toContainText(/source_words empty → Paid search on Quillsearch, [A-Z]/);
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await release(page, 'Words for sales');
  await open(page, '/leads/writes');
  await page.getByRole('button', { name: 'Write to earlier records now' }).click();
  await expect(page.getByRole('status').filter({ hasText: /\d+ records are looked at/ })).toBeVisible();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 rule writes into the CRM.', { timeout: 60_000 });
  const log = page.getByRole('region', { name: 'Written' });
  await expect(log.getByRole('row').filter({ hasText: 'written, had written by Owner' }).first()).toBeVisible();
});

test('who comes back by another way has the second source filled in, and the first left as it was', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  await open(page, '/leads/writes?new=yes');
  await page.getByRole('combobox', { name: 'What', exact: true }).selectOption('source');
  await page.getByRole('combobox', { name: 'Of which touch' }).selectOption('each');
  await page.getByLabel('Fields of the CRM').fill('source_1, source_2');
  await page.getByLabel('Fields of the CRM').press('Enter');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await release(page, 'Sources for sales');

  const context = await browser.newContext();
  await setEvening(context);
  const visitor = await context.newPage();
  const arriveBy = (source: string, medium: string) =>
    openRecorded(visitor, `/fleet?utm_source=${source}&utm_medium=${medium}&utm_campaign=uk-27q1-fleet-winterproof`);
  await arriveBy('quillsearch', 'paid-search');
  await enquire(visitor, { path: '/fleet', button: 'Ask for a test ride' }, 'Twice Bakery');
  const sources = async () => {
    await page.goto(`${places.oakledger}/?find=Twice`);
    await page.getByRole('link', { name: /^D-/ }).click({ timeout: 2000 });
    const valueOf = (field: string) =>
      page
        .getByRole('row')
        .filter({ has: page.getByText(field, { exact: true }) })
        .getByRole('cell')
        .nth(1)
        .textContent();
    return [await valueOf('source_1'), await valueOf('source_2')];
  };
  await expect.poll(sources, { timeout: 60_000 }).toEqual(['quillsearch', 'empty']);
  await arriveBy('larkmoor-letter', 'email');
  await expect.poll(sources, { timeout: 60_000 }).toEqual(['quillsearch', 'larkmoor-letter']);
  await context.close();
});
