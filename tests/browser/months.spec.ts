import { expect } from '@playwright/test';
import { follow, open, setEvening, signIn, test } from './world';

/* Months and quarters by funnel stage and channel, which can be closed. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('months stand by funnel stage and channel, add up to quarters and to the file, open what is behind them, and are closed', async ({
  page,
}) => {
  await open(page, '/results/months');
  const table = page.getByRole('table', { name: 'Months and quarters' });
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(/^\d+ leads in January 2027, .+ on the month before\.$/);
  const sums = async () =>
    (await table.locator('tfoot tr').first().locator('td').allInnerTexts()).map((text) =>
      Number(text.replaceAll(',', '')),
    );
  const months = await sums();
  expect(months.slice(0, -1).reduce((sum, one) => sum + one, 0)).toBe(months.at(-1));
  const stages = table.locator('tbody tr').filter({ has: page.locator('th.font-semibold') });
  const ofStages = await Promise.all((await stages.all()).map((row) => row.locator('td').last().innerText()));
  expect(ofStages.reduce((sum, text) => sum + Number(text), 0)).toBe(months.at(-1));

  const csv = await page.evaluate(async () =>
    (await fetch(`/api/b/larkmoor/results/months.csv${location.search}`)).text(),
  );
  expect(csv.trim().split('\n').at(-1)!.replaceAll('"', '').split(',').slice(2).map(Number)).toEqual(months);

  await page.getByRole('button', { name: 'Close Jan 2027' }).click();
  await expect(page.getByText('1 month is closed: its figures stay, and later changes are shown apart.')).toBeVisible();
  await expect(table.getByRole('row', { name: /^Changed since it was closed/ })).toContainText('nothing');
  await page.getByRole('button', { name: 'Open again Jan 2027' }).click();
  await expect(page.getByRole('button', { name: 'Close Jan 2027' })).toBeVisible();

  const search = table.getByRole('row', { name: /^Paid search/ }).first();
  const january = search.getByRole('cell').nth(4).getByRole('link');
  const many = await january.innerText();
  await follow(page, january);
  await expect(heading).toHaveText(`Win enquiries, Paid search: ${many} leads.`);
  await open(page, '/results/months');
  await page.getByRole('combobox', { name: 'Month or quarter' }).selectOption('quarter');
  await expect(heading).toHaveText(/^\d+ leads in Q4 2026/);
  const quarters = await sums();
  expect(quarters).toEqual([months[0], months[1]! + months[2]! + months[3]!, months[4]! + months[5]!, months.at(-1)]);
});
