import { expect, type BrowserContext, type Page } from '@playwright/test';
import { ask, open, places, ready, setEvening, signIn, test } from './world';

/* A till posts what became of orders, and what platforms have is corrected by it. */
test.describe.configure({ mode: 'serial' });
let buyer: BrowserContext;
test.beforeAll(async ({ browser }) => {
  buyer = await browser.newContext();
  await setEvening(buyer);
});
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const pounds = (text: string) => Math.round(Number(text.replace(/[^\d.]/g, '')) * 100);
/** What Quillsearch's own page says that all SHP-PAID of today are worth, in pence. */
async function worthThere(page: Page): Promise<number> {
  await page.goto(`${places.quillsearch}/account`);
  const rows = page
    .locator('#outcomes')
    .getByRole('row')
    .filter({ hasText: /2027-02-15\s*SHP-PAID/ });
  return (await rows.count()) === 0 ? 0 : pounds((await rows.getByRole('cell').nth(3).textContent())!);
}
/** Somebody who comes by an ad and buys something: a rain cover is worth £31.67. @returns the order's number */
async function buy(part: string, price: string): Promise<string> {
  const page = await buyer.newPage();
  const { headers } = await ask(`${places.quillsearch}/click/uk-27q1-fleet-winterproof.hill-video`);
  const landed = page.waitForResponse((response) => response.url().includes('/take/'));
  await page.goto(String(headers.location));
  await landed;
  await page.goto(`${places.larkmoor}/basket?part=${part}`);
  const told = page.waitForRequest((request) => (request.postData() ?? '').includes('"ordered"'));
  await page.getByRole('button', { name: `Pay £${price}` }).click();
  await told;
  await expect(page.getByRole('heading', { name: 'Thank you, it is on its way' })).toBeVisible();
  const number = new URL(page.url()).searchParams.get('order')!;
  await page.goto(`${places.larkmoor}/fleet`);
  await page.close();
  return number;
}
async function atTill(page: Page, order: string, button: 'Refund' | 'Chargeback', amount = ''): Promise<void> {
  await page.goto(`${places.larkmoor}/till`);
  const form = page.getByRole('form', { name: order });
  await form.getByLabel('Amount').fill(amount);
  await form.getByRole('button', { name: button }).click();
}

test('a sender is added, has an address of its own, and an example says part by part how it is read', async ({
  page,
}) => {
  await open(page, '/report-backs/postbacks');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Nobody posts refunds and renewals yet.');
  await page.keyboard.press('n');
  await ready(page);
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill('Larkmoor’s till');
  await page.getByRole('button', { name: 'Add sender' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Larkmoor’s till has no secret yet.');
  await ready(page);
  await page.getByRole('button', { name: 'Make a secret' }).click();
  const address = page.locator('code').filter({ hasText: '/post/larkmoor/larkmoor-s-till/' });
  await expect(address).not.toContainText('…');
  const url = (await address.textContent())!;
  await page.getByLabel('Example').fill('{"data":{"type":"refund","order_no":"LK-1","sum":"54.00"}}');
  await page.getByRole('button', { name: 'Read it' }).click();
  const tried = page.getByRole('region', { name: 'Try it' });
  await expect(tried).toContainText('There is nothing at /step. Post what happened there');
  await page.getByRole('button', { name: 'Find the parts by their names' }).click();
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(tried).toContainText('refund, a refund of order LK-1, £54 given back.');
  // What was found by names is not what the till posts: it is left as it was.
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.goto(`${places.larkmoor}/till`);
  await page.getByLabel('Address').fill(url);
  await page.getByRole('button', { name: 'Save' }).click();
});

test('a refund after the platform confirmed makes its own report show the lower worth', async ({ page }) => {
  test.setTimeout(180_000);
  const before = await worthThere(page);
  const order = await buy('rain-cover', '95.00');
  await expect.poll(() => worthThere(page), { timeout: 60_000 }).toBe(before + 3167);
  await atTill(page, order, 'Refund', '47.50');
  // Half of what was paid is left, so half of its worth.
  await expect.poll(() => worthThere(page), { timeout: 60_000 }).toBe(before + 1584);
  await open(page, '/report-backs/postbacks');
  const row = page.getByRole('row').filter({ hasText: `order ${order}` });
  await expect(row).toContainText('its worth was changed');
  await open(page, `/report-backs/queue?find=${order}`);
  await expect(page.getByRole('row').filter({ hasText: 'correction' })).toContainText(/confirmed.*£15\.84/s);
  await page.getByRole('row').filter({ hasText: 'correction' }).getByRole('link').click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    `Quillsearch, Larkmoor Cargo Bikes has the correction of SHP-PAID of order ${order}.`,
  );
  await page.getByRole('link', { name: 'Its trace, hop by hop' }).click();
  await expect(page.getByText('How Quillsearch was corrected')).toBeVisible();
});

test('a chargeback before telling leaves nothing to be told', async ({ page }) => {
  test.setTimeout(180_000);
  const fault = async (kind: string) => {
    await ask(`${places.quillsearch}/account/faults`, {
      method: 'POST',
      headers: { 'content-type': 'application/x-www-form-urlencoded', origin: places.quillsearch },
      body: `kind=${kind}&seconds=2`,
    });
  };
  const before = await worthThere(page);
  await fault('busy');
  const order = await buy('second-lock', '60.00');
  await open(page, `/report-backs/queue?find=${order}`);
  await expect(page.getByRole('row').filter({ hasText: order })).toContainText('waiting');
  await atTill(page, order, 'Chargeback');
  await open(page, `/report-backs/queue?find=${order}`);
  await expect(page.getByRole('row').filter({ hasText: order })).toContainText(
    'Taken back before it was told, by a chargeback',
  );
  await fault('none');
  await open(page, '/report-backs/postbacks');
  await expect(page.getByRole('row').filter({ hasText: `order ${order}` })).toContainText('its worth was taken back');
  expect(await worthThere(page)).toBe(before);
});
