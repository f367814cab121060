import { expect, type Page } from '@playwright/test';
import {
  avrixDoor,
  enquire,
  evening,
  open,
  places,
  ready,
  restart,
  setEvening,
  signIn,
  standinsAt,
  test,
} from './world';

test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const testRide = { path: '/fleet', button: 'Ask for a test ride' };
const callBack = { path: '/fleet/call-back', button: 'Call me back' };

/** Opens the newest email to somebody at Brindlepost, once it is there. */
async function openLetter(page: Page, to: string, subject: string): Promise<void> {
  await expect(async () => {
    await page.goto(`${places.brindlepost}/letters`);
    const row = page.getByRole('row').filter({ hasText: to }).filter({ hasText: subject });
    await row.first().getByRole('link').click({ timeout: 500 });
  }).toPass();
}
const runOf = (page: Page, company: string) =>
  page.getByRole('region', { name: 'Who is in it' }).getByRole('row').filter({ hasText: company });

test('each form is answered by its own email; who writes back is let go, and the lead’s page says so', async ({
  page,
  context,
}) => {
  const visitor = await context.browser()!.newContext();
  const shop = await visitor.newPage();
  await enquire(shop, testRide, 'Fennel Bakery');
  await enquire(shop, callBack, 'Sorrel Wheels');
  await openLetter(shop, 'anna@sorrel-wheels.example', 'We call you back, Anna');
  await openLetter(shop, 'anna@fennel-bakery.example', 'Your test ride with Larkmoor');
  await expect(shop.locator('#text')).toContainText('Hello Anna,');
  await expect(shop.locator('#text')).toContainText('No more of these emails: http');

  await open(page, '/leads/routines');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(/^1 routine is running; \d+ leads are on the way/);
  const row = runOf(page, 'Fennel Bakery');
  await expect(row).toContainText('Emailed “Your test ride”');
  await expect(row).toContainText('step 2, 17 Feb, 17:00');

  await shop.getByRole('button', { name: 'Send' }).click();
  await expect(row).toContainText('let go: replied');
  await row.getByRole('link', { name: 'Fennel Bakery' }).click();
  const events = page.getByRole('region', { name: 'What happened' }).or(page.getByRole('table').last());
  await expect(events.getByText('Emailed “Your test ride”').first()).toBeVisible();
  await expect(events.getByText('Wrote back').first()).toBeVisible();
  await visitor.close();
});

test('somebody stops the emails by their link: opening it changes nothing, its button does', async ({
  page,
  context,
}) => {
  const visitor = await context.browser()!.newContext();
  const shop = await visitor.newPage();
  await openLetter(shop, 'anna@sorrel-wheels.example', 'We call you back');
  const [, link] = /(http\S+\/stop\/\S+)/.exec((await shop.locator('#text').textContent())!)!;
  await shop.goto(link!);
  await expect(shop.getByRole('heading')).toHaveText('Stop emails from Larkmoor Cargo Bikes?');
  await open(page, '/leads/emails/set-up');
  const stops = page.getByRole('region', { name: 'Who gets no emails' });
  await expect(stops).toContainText('Everybody gets them');
  await shop.getByRole('button', { name: 'Stop emails' }).click();
  await expect(shop.getByRole('heading')).toHaveText('No more of these emails');
  await expect(stops.getByRole('row').filter({ hasText: 'Sorrel Wheels' })).toContainText('by the link in an email');
  await shop.goto(`${link!.slice(0, -3)}xyz`);
  await expect(shop.getByText('AVX_NOT_FOUND')).toBeVisible();
  await visitor.close();
  await open(page, '/leads/routines');
  await expect(runOf(page, 'Sorrel Wheels')).toContainText('let go: unsubscribed');
});

test('a routine is written line by line, tried on one lead, started, and waits its days', async ({ page }) => {
  await open(page, '/leads/emails?new=yes');
  await page.getByLabel('What it is called').fill('Loading guide');
  await page.getByLabel('Subject').fill('A guide for {{ company }}');
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Hello {{ nickname }}');
  await expect(page.getByRole('region', { name: 'How it reads' })).toContainText('nothing is known as {{ nickname }}');
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill('Hello ');
  await page.getByRole('button', { name: 'first_name' }).click();
  await expect(page.getByRole('textbox', { name: 'Text', exact: true })).toHaveValue('Hello {{ first_name }}');
  await expect(page.getByRole('region', { name: 'How it reads' })).toContainText('A guide for');
  await page.getByRole('button', { name: 'Save email' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('4 emails');
  await page.getByRole('button', { name: 'Send it to me' }).click();
  await expect(page.getByText('Sent: 250 taken')).toBeVisible();

  await open(page, '/leads/routines?new=yes');
  await page.getByLabel('Name').fill('The guide, two days later');
  await page.getByLabel('Forms').fill('test-ride');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Effect' })).toContainText('in 4 weeks would have fitted');
  await page.getByLabel('When').selectOption('days later');
  await page.getByLabel('Email', { exact: true }).selectOption('“Loading guide”');
  // What is written stays over a reload.
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('Name')).toHaveValue('The guide, two days later');
  await page.getByLabel('Lead', { exact: true }).fill('Fennel Bakery');
  await page.getByRole('button', { name: 'Try', exact: true }).click();
  const tried = page.getByRole('region', { name: 'Try it on one lead' });
  await expect(tried).toContainText('17 Feb, 17:0');
  await expect(tried).toContainText('To anna@fennel-bakery.example');
  await page.getByRole('button', { name: 'Save routine' }).click();
  await page.getByRole('button', { name: 'Start for new leads' }).click();
  await expect(page.getByText(/^Running since 15 Feb/)).toBeVisible();
  await expect(page.getByText('It has taken nobody yet.')).toBeVisible();

  const shop = await page.context().newPage();
  await enquire(shop, testRide, 'Quince Couriers');
  await expect(runOf(page, 'Quince Couriers')).toContainText('step 1, 17 Feb');
  // Cut off while it waits, it goes on where it was; and nothing is sent twice.
  await restart(evening);
  await page.reload();
  await ready(page);
  await expect(runOf(page, 'Quince Couriers').filter({ hasText: 'step 1, 17 Feb' })).toBeVisible();
  const later = evening + 2 * 86_400_000 + 3_600_000;
  await avrixDoor('clock', { at: later });
  await standinsAt(later);
  await openLetter(shop, 'anna@quince-couriers.example', 'A guide for Quince Couriers');
  await restart(later);
  await expect(runOf(page, 'Quince Couriers').filter({ hasText: 'Emailed “Loading guide”' })).toBeVisible();
  await shop.goto(`${places.brindlepost}/letters`);
  const letters = shop.getByRole('row').filter({ hasText: 'anna@quince-couriers.example' });
  await expect(letters.filter({ hasText: 'A guide for Quince Couriers' })).toHaveCount(1);
});
