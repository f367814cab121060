import { expect } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

const winterproof = 'uk-27q1-fleet-winterproof';

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('the line of one campaign on one platform: its figures, the rows behind them, and what happened in these days', async ({
  page,
}) => {
  await open(page, '');
  const heading = page.getByRole('heading', { level: 1 });
  const figure = (hop: string) =>
    page
      .getByRole('figure')
      .getByRole('link')
      .filter({ has: page.locator(`xpath=following-sibling::div[text()="${hop}"]`) });
  const numberAt = async (hop: string) => Number((await figure(hop).textContent())!.replace(',', ''));
  const landed = await numberAt('Landed');
  await page.getByLabel('Platform').selectOption('Quillsearch');
  await expect(heading).toHaveText(/^Quillsearch: /);
  await ready(page);
  const ofPlatform = await numberAt('Landed');
  expect(ofPlatform).toBeLessThan(landed);

  // Found by its name in words, taken by keys.
  await page.getByLabel('Campaign').fill('winterproof');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(new RegExp(`campaign=${winterproof}`));
  await expect(heading).toHaveText(/ on Quillsearch: /);
  await ready(page);
  const ofCampaign = await numberAt('Landed');
  expect(ofCampaign).toBeLessThan(ofPlatform);
  const line = page.url();

  await figure('Landed').click();
  await expect(heading).toHaveText(
    new RegExp(`^${ofCampaign.toLocaleString('en-GB')} clicks of .* on Quillsearch came to Landed\\.$`),
  );
  await page.getByRole('link', { name: 'The line' }).click();
  await expect(heading).toHaveText(/ on Quillsearch: /);

  await page.goto(line);
  await ready(page);
  await page.getByRole('link', { name: 'What happened in these days' }).click();
  await expect(heading).toHaveText(/^In these days, of .* on Quillsearch, [\d,]+ clicks landed, /);
  await ready(page);
  expect(await numberAt('Landed')).toBe(ofCampaign);
  const qualified = await numberAt('Qualified');
  await figure('Qualified').click();
  await expect(heading).toHaveText(new RegExp(`^${qualified} clicks? of .* came to Qualified`));
  await expect(page.getByText(/whenever they were first seen/)).toBeVisible();
});

test('what is typed and is no campaign changes nothing', async ({ page }) => {
  await open(page, '');
  const address = page.url();
  await page.getByLabel('Campaign').fill('nothing like it');
  await page.keyboard.press('Tab');
  await expect(page.getByLabel('Campaign')).toHaveValue('');
  expect(page.url()).toBe(address);
});
