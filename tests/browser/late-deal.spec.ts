import { expect } from '@playwright/test';
import { pass } from './person';
import { enquire, open, places, ready, setEvening, signIn, test } from './world';

/* A sale that takes longer than the platform's window for clicks. */

test('a deal reached 96 days after its click is held before anybody is told, and the stage that came in time is named', async ({
  page,
  browser,
}) => {
  test.setTimeout(240_000);
  const context = await browser.newContext();
  await setEvening(context);
  const visitor = await context.newPage();
  await visitor.goto(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
  await enquire(visitor, { path: '/fleet', button: 'Ask for a test ride' }, 'Slow Loaf');
  await expect(async () => {
    await visitor.goto(`${places.oakledger}/?find=Slow`);
    await expect(visitor.getByRole('heading', { name: '1 deals' })).toBeVisible({ timeout: 500 });
  }).toPass({ timeout: 30_000 });
  await visitor.getByRole('link', { name: /^D-/ }).click();
  // Avrix has read it back before the time goes by.
  await expect(async () => {
    await visitor.reload();
    await expect(visitor.getByText('answered 204').first()).toBeVisible({ timeout: 500 });
  }).toPass({ timeout: 30_000 });

  await pass(96 * 24, [visitor, page]);
  await visitor.getByRole('button', { name: 'Fleet assessed' }).click();

  await signIn(page);
  await expect(async () => {
    await open(page, '/report-backs/queue?state=held&find=Slow');
    await expect(page.getByText('The click was 80 days old or older').first()).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await page
    .getByRole('link', { name: /Slow Loaf/ })
    .first()
    .click();
  await ready(page);
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/FLT-QUAL/);
  await expect(
    page.getByText('Count “Asked” as well: this deal reached it on the day of the click, in time.'),
  ).toBeVisible();
  // Nothing was sent.
  await expect(page.getByText('What was sent', { exact: true })).toHaveCount(0);
  await visitor.goto(`${places.quillsearch}/account`);
  await expect(visitor.locator('#outcomes')).not.toContainText('GBP 540.00');
});
