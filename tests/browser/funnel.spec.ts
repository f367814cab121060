import { expect, type Page } from '@playwright/test';
import { open, ready, setEvening, signIn, test } from './world';

/* Who went on, step by step, and where the others went instead. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const steps = (page: Page) => page.getByRole('list', { name: 'Steps' }).getByRole('listitem');
const part = (page: Page, name: string) => page.getByRole('combobox', { name, exact: true });
/** How many made a step. */
const made = async (page: Page, n: number) =>
  Number((await steps(page).nth(n).locator('a.value.text-\\[19px\\]').innerText()).replaceAll(',', ''));
const settledOn = (page: Page) =>
  expect(page.locator('[aria-busy="false"]').filter({ has: steps(page).first() })).toHaveCount(1);

test('a step by a pattern is put into the funnel of the demo, skipped, kept under a name, and opens its journeys', async ({
  page,
}) => {
  await open(page, '/results/funnel');
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(
    /^Of [\d,]+ visitors who opened a page whose path begins with \/, \d+ reached Fleet assessed \(/,
  );
  const path = part(page, 'Path, step 1');
  await path.fill('/fleet');
  await path.press('Enter');
  await page.keyboard.press('Escape');
  await expect(heading).toContainText('begins with /fleet');
  await settledOn(page);
  const [began, sent] = [await made(page, 0), await made(page, 1)];
  expect(began).toBeGreaterThan(sent);

  // The new step comes last; the outcome then stands before it.
  await part(page, 'What is done, step 2').selectOption('open a page whose path');
  await part(page, 'How the path is compared, step 2').selectOption('fits the pattern');
  const pattern = part(page, 'Path, step 2');
  await pattern.fill('^/fleet/(call-back|lease)$');
  await pattern.press('Enter');
  await page.keyboard.press('Escape');
  await expect(steps(page).nth(1)).toContainText('fits the pattern ^/fleet/(call-back|lease)$');
  await settledOn(page);
  const matched = await made(page, 1);
  expect(matched).toBeGreaterThan(0);
  expect(matched).toBeLessThan(began);
  const endBefore = await made(page, 2);
  await steps(page).nth(1).getByLabel('may be skipped').check();
  await expect(steps(page).nth(1)).not.toContainText('went elsewhere');
  await settledOn(page);
  await expect.poll(() => made(page, 2)).toBeGreaterThan(endBefore);

  await page.getByRole('button', { name: 'Save this view' }).click();
  await page.getByLabel('Name of the view').fill('To the call back');
  await page.getByRole('button', { name: 'Save view' }).click();
  await expect(page.getByRole('link', { name: 'To the call back' })).toBeVisible();
  await page.reload();
  await ready(page);
  await expect(steps(page).nth(1)).toContainText('fits the pattern');
  const lost = steps(page).nth(2).getByRole('link', { name: /^−/ });
  const gone = Number((await lost.innerText()).replace(/\D/g, ''));
  await lost.click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    `${gone.toLocaleString('en-GB')} went on to something else, and never reached Fleet assessed.`,
  );
  await expect(page.getByRole('region', { name: 'Journeys' }).locator('tbody tr').first()).toContainText(
    'opened a page',
  );
});

test('what those who were lost opened instead adds up, and the file equals the screen', async ({ page }) => {
  await open(page, '/results/funnel?by=channel');
  const shown = await page.evaluate(async () => {
    const read = async (path: string) => (await fetch(`/api/b/larkmoor/results/funnel${path}?by=channel`)).text();
    return { view: await read(''), csv: await read('.csv') };
  });
  const view = JSON.parse(shown.view) as {
    steps: { made: number; lost: number; left: number; elsewhere: number; instead: { count: number }[] }[];
    rows: { text: string; made: number[] }[];
  };
  for (const { lost, left, elsewhere, instead } of view.steps)
    expect(left + elsewhere + instead.reduce((sum, { count }) => sum + count, 0)).toBe(lost);
  view.steps.forEach(({ made: all }, i) => expect(view.rows.reduce((sum, row) => sum + row.made[i]!, 0)).toBe(all));
  const lines = shown.csv.replaceAll('"', '').trim().split('\n');
  expect(lines).toHaveLength(view.rows.length + 2);
  for (const { text, made: counts } of view.rows)
    expect(lines.some((line) => line.startsWith([text, ...counts].join(',')))).toBe(true);
  expect(await made(page, 0)).toBe(view.steps[0]!.made);
});
