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
  await page.getByLabel('Platform', { exact: true }).selectOption('Quillsearch');
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

test('by keys alone: a platform is gone through without leaving, taken by Enter, left as it was by Escape, and undone by Back', async ({
  page,
}) => {
  await open(page, '');
  const heading = page.getByRole('heading', { level: 1 });
  const whole = (await heading.textContent())!;
  const platform = page.getByLabel('Platform', { exact: true });
  await platform.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await expect(platform).not.toHaveValue('');
  await expect(heading).toHaveText(whole);
  await page.keyboard.press('Escape');
  await expect(platform).toHaveValue('');
  await expect(heading).toHaveText(whole);
  await platform.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/platform=quillsearch/);
  await expect(heading).toHaveText(/^Quillsearch: /);
  await page.reload();
  await ready(page);
  await expect(platform).toHaveValue('quillsearch');
  await page.goBack();
  await expect(heading).toHaveText(whole);
  await expect(platform).toHaveValue('');
});

test('where people come in elsewhere it says where losses are, and what came from a campaign', async ({ page }) => {
  await open(page, '?way=lead_form&view=happened&range=cycle');
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(/^In these days [\d,]+ platform leads? reached Sent there, /);
  await expect(page.getByText('Nothing is followed in this view.')).toBeVisible();
  await page.getByRole('link', { name: 'these days’ platform leads are followed' }).click();
  await ready(page);
  await expect(heading).not.toHaveText(/^In these days/);
  // What never landed is found by the campaign of its ad all the same.
  await page.getByLabel('Platform', { exact: true }).selectOption('Tessaloop');
  await expect(heading).toHaveText(/^Tessaloop: (of|all|the one) /);
});

test('the line of another outcome, with the clicks that may still come to it, and back to the whole by the same field', async ({
  page,
}) => {
  await open(page, '?range=cycle');
  const heading = page.getByRole('heading', { level: 1 });
  const whole = (await heading.textContent())!;
  await open(page, '?range=cycle&outcome=FLT-SIGNED');
  await expect(heading).toHaveText(/^FLT-SIGNED: /);
  await expect(page.getByText(/^\d+ reached FLT-SIGNED\. /)).toBeVisible();
  const waiting = page.getByRole('link', { name: /not qualified yet/ });
  const followed = (await waiting.textContent())!;
  await waiting.click();
  await expect(heading).toHaveText(/ waits? between In CRM and FLT-SIGNED: /);
  expect(await heading.textContent()).toContain(followed.split(' ')[0]!);
  await page.goBack();
  await ready(page);
  await page.getByLabel('Outcome').selectOption('FLT-QUAL');
  await expect(page).not.toHaveURL(/outcome=/);
  await expect(heading).toHaveText(whole);
});

test('an address that names what is out of use, or eighty letters of it, shows an empty line and offers the whole one', async ({
  page,
}) => {
  const long = 'nl-25q1-fleet-'.padEnd(80, 'x');
  await open(page, `?platform=gone-network&campaign=${long}`);
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(`${long} on gone-network: no enquiry in these days.`);
  await expect(page.getByLabel('Platform', { exact: true })).toHaveValue('gone-network');
  expect(await page.evaluate(() => document.documentElement.scrollWidth <= innerWidth)).toBe(true);
  await page.getByLabel('Campaign').fill('');
  await page.keyboard.press('Tab');
  await expect(page).not.toHaveURL(/campaign=/);
  await ready(page);
  await page.getByLabel('Platform', { exact: true }).selectOption('every platform');
  await expect(page).not.toHaveURL(/platform=/);
  await expect(heading).toHaveText(/^Of \d+ enquiries/);
});
