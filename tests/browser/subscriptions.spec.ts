import { expect, type Browser, type Page } from '@playwright/test';
import { ask, open, places, ready, setEvening, signIn, test } from './world';

/* The care plan: people sign up on the website, the till posts what they pay. */
test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

/** Somebody who comes by an ad and signs up for the care plan. */
async function signUp(browser: Browser): Promise<void> {
  const context = await browser.newContext();
  await setEvening(context);
  const page = await context.newPage();
  const { headers } = await ask(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
  const landed = page.waitForResponse((response) => response.url().includes('/take/'));
  await page.goto(String(headers.location));
  await landed;
  await page.goto(`${places.larkmoor}/care/start`);
  await page.getByLabel('Email').fill('anna@bakery.example');
  const sent = page.waitForRequest((request) => (request.postData() ?? '').includes('"form_sent"'));
  await page.getByRole('button', { name: 'Start the plan' }).click();
  await sent;
  await expect(page.getByRole('heading', { name: 'Welcome to the care plan' })).toBeVisible();
  await context.close();
}

async function atTill(page: Page, form: string, button: string): Promise<void> {
  await page.goto(`${places.larkmoor}/till`);
  await page.getByRole('form', { name: form }).getByRole('button', { name: button }).click();
}

test('the till is added as a sender, with what its steps mean', async ({ page }) => {
  await open(page, '/report-backs/postbacks/new');
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Care till');
  for (const [at, step] of ['started', 'first-payment', 'renewal', 'restart'].entries()) {
    await page.getByRole('button', { name: 'Add a step' }).click();
    await page.getByRole('textbox', { name: `Step ${at + 3}`, exact: true }).fill(step);
  }
  await page.getByRole('button', { name: 'Add sender' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Care till has no secret yet.');
  await ready(page);
  await page.getByRole('button', { name: 'Make a secret' }).click();
  const address = page.locator('code').filter({ hasText: '/post/larkmoor/care-till/' });
  await expect(address).not.toContainText('…');
  const url = (await address.textContent())!;
  await page.goto(`${places.larkmoor}/till`);
  await page.getByLabel('Address').fill(url);
  await page.getByRole('button', { name: 'Save' }).click();
});

test('a form is counted as a sign-up', async ({ page, browser }) => {
  const context = await browser.newContext();
  await setEvening(context);
  const visitor = await context.newPage();
  const seen = visitor.waitForRequest((request) => (request.postData() ?? '').includes('"forms_seen"'));
  await visitor.goto(`${places.larkmoor}/care/start`);
  await seen;
  await expect(async () => {
    await open(page, '/capture/forms');
    await expect(page.getByRole('region', { name: 'care-start', exact: true })).toBeVisible({ timeout: 1000 });
  }).toPass();
  const form = page.getByRole('region', { name: 'care-start', exact: true });
  await form.getByRole('button', { name: 'Count its sendings as sign-ups for a subscription' }).click();
  await expect(form.getByLabel('What each sending is')).toHaveValue('sign_up');
  await context.close();
});

test('six outcomes are made and five kept from bidding in under 12 actions', async ({ page }) => {
  let actions = 0;
  const does = async (action: Promise<unknown>) => {
    actions += 1;
    await action;
  };
  await open(page, '/report-backs');
  await does(page.getByRole('link', { name: 'Outcomes of a subscription' }).click());
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('6 outcomes of a subscription, made at once.');
  await ready(page);
  await does(page.getByLabel('Codes begin with').selectOption('CAR'));
  await does(page.getByLabel('Told to').selectOption('quillsearch'));
  await does(page.getByLabel('Lets it bid').selectOption('firstPayment'));
  await expect(page.getByLabel('Code of a renewal')).toHaveValue('CAR-RENEW');
  await does(page.getByRole('button', { name: 'Add 6 to draft' }).click());
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('6 outcomes are in the draft.');
  await does(page.getByRole('link', { name: /^\d+ not live$/ }).click());
  await ready(page);
  await does(page.getByLabel('Call it').fill('The care plan counts'));
  await does(page.getByRole('button', { name: /^Make \d+ rules live$/ }).click());
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
  expect(actions).toBeLessThan(12);
  await open(page, '/report-backs?outcome=CAR-PAY');
  await expect(page.getByRole('region', { name: 'Telling quillsearch' })).toContainText('and let it bid on it');
  for (const code of ['CAR-START', 'CAR-RENEW', 'CAR-AGAIN', 'CAR-BACK', 'CAR-DISPUTE']) {
    await open(page, `/report-backs?outcome=${code}`);
    await expect(page.getByRole('region', { name: 'Telling quillsearch' })).toContainText('for the record');
  }
});

test('a payment reaches the platform, a renewal is for the record, and its refund corrects the renewal alone', async ({
  page,
  browser,
}) => {
  test.setTimeout(180_000);
  for (const code of ['CAR-PAY', 'CAR-RENEW'])
    await ask(`${places.quillsearch}/account/outcomes`, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded', origin: places.quillsearch },
      body: `code=${code}`,
    });
  await signUp(browser);
  await atTill(page, 'CP-5101', 'First payment');
  await atTill(page, 'CP-5101', 'Renewal');
  const queue = (code: string) =>
    page.getByRole('row').filter({ hasText: 'subscription CP-5101' }).filter({ hasText: code });
  await open(page, '/report-backs/queue?find=CP-5101');
  await expect(queue('CAR-PAY')).toContainText('£36');
  await expect(queue('CAR-RENEW')).toContainText('£36');
  await atTill(page, 'PM-8002', 'Refund');
  await open(page, '/report-backs/postbacks');
  await expect(page.getByRole('row').filter({ hasText: 'refund' }).first()).toContainText('subscription CP-5101');
  await open(page, '?way=subscription');
  await expect(page.getByRole('main')).toContainText('Paid');
  await page.getByRole('link', { name: 'CP-5101' }).click();
  await expect(page.getByRole('main')).toContainText('Signed up for a subscription, number CP-5101');
});
