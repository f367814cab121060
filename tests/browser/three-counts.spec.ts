import { expect, type Page } from '@playwright/test';
import { follow, open, setEvening, signIn, test } from './world';

/* Why a platform, the website and the CRM count differently: a bridge that always adds up. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const heading = (page: Page) => page.getByRole('heading', { level: 1 });
const bridge = (page: Page) => page.getByRole('table', { name: 'From one count to the other' });
/** The numbers of the bridge as they are shown: from, each step, to. */
async function numbers(page: Page): Promise<number[]> {
  const texts = await bridge(page).locator('tbody td:nth-of-type(1)').allInnerTexts();
  return texts.map((text) => Number(text.replace('−', '-').replaceAll(',', '')));
}
async function addsUp(page: Page): Promise<void> {
  const all = await numbers(page);
  expect(all.length).toBeGreaterThan(2);
  expect(all.slice(0, -1).reduce((sum, one) => sum + one, 0)).toBe(all.at(-1));
}

test('from Quillsearch to the CRM each step is named, adds up, and opens its leads; so does the way back', async ({
  page,
}) => {
  await open(page, '/results/three-counts?range=own&from=2026-03-01&to=2027-02-15');
  await expect(heading(page)).toHaveText(
    /^Quillsearch counts \d+, Oakledger holds \d+; every step between is known\.$/,
  );
  await addsUp(page);
  const there = await numbers(page);
  const lost = bridge(page).getByRole('row', { name: /^lost before the CRM/ });
  await expect(lost).toContainText('form sends click_ref, CRM reads click_id');
  const many = (await lost.getByRole('link').innerText()).replace('+', '');

  await page.getByRole('combobox', { name: 'To whose count' }).selectOption('website');
  await expect(heading(page)).toHaveText(/^Quillsearch counts \d+, the website counts \d+/);
  await addsUp(page);
  await page.getByRole('combobox', { name: 'To whose count' }).selectOption('crm');
  await expect(heading(page)).toHaveText(/^Quillsearch counts \d+, Oakledger holds \d+/);
  // Of two ends that are the same, the other one gives way.
  await page.getByRole('combobox', { name: 'From whose count' }).selectOption('crm');
  await expect(heading(page)).toHaveText(/^Oakledger holds \d+, Quillsearch counts \d+/);
  await addsUp(page);
  expect((await numbers(page)).map(Math.abs)).toEqual([there.at(-1), ...there.slice(1, -1), there[0]]);

  await follow(
    page,
    bridge(page)
      .getByRole('row', { name: /^lost before the CRM/ })
      .getByRole('link'),
  );
  await expect(heading(page)).toHaveText(`${many} leads: lost before the CRM.`);
  const rows = page.getByRole('region', { name: 'Behind it' }).locator('tbody tr');
  await expect(rows.first()).toContainText('No click ID in the CRM, known from the visit');
  await rows.first().getByRole('link').click();
  await expect(page).toHaveURL(/\/leads\/[0-9a-f-]{36}/);
});

test('what all platforms claim in sum comes down to what is known, and a claim opens its bridge', async ({ page }) => {
  await open(page, '/results/three-counts?outcome=SHP-PAID');
  const claims = page.getByRole('region', { name: 'What all platforms claim' });
  const of = async (words: RegExp) =>
    Number((await claims.getByRole('row', { name: words }).getByRole('cell').innerText()).replace('−', '-'));
  expect((await of(/^In sum/)) + (await of(/^Claimed twice/))).toBe(await of(/^Different orders/));
  expect((await of(/^Different orders/)) + (await of(/^Claimed by nobody/))).toBe(await of(/^The website counts/));
  await follow(page, claims.getByRole('row', { name: /^Quillsearch/ }).getByRole('link'));
  await expect(page).toHaveURL(/start=at(:|%3A)quillsearch/);
  await expect(page).toHaveURL(/outcome=SHP-PAID/);
  await expect(heading(page)).toHaveText(/^Quillsearch counts \d+, the website counts \d+/);
  await expect(page.getByText('SHP-PAID by click day.')).toBeVisible();
});

test('by the day of the outcome it adds up as well, and CSV has what the screen has', async ({ page }) => {
  await open(page, '/results/three-counts');
  await page.getByRole('combobox', { name: 'By which day' }).selectOption('outcome');
  await expect(page).toHaveURL(/axis=outcome/);
  await expect(page.getByText('FLT-QUAL by outcome day.')).toBeVisible();
  await addsUp(page);
  const csv = await page.evaluate(async () =>
    (await fetch(`/api/b/larkmoor/results/three-counts.csv${location.search}`)).text(),
  );
  const lines = csv.trim().split('\n').slice(1);
  expect(lines.map((line) => Number(line.split('","')[1]))).toEqual(await numbers(page));
});
