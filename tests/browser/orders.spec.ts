import { expect, type BrowserContext, type Page } from '@playwright/test';
import { follow, home, open, places, setEvening, signIn, test } from './world';

/** One buyer's browser through the whole of it; the tests build on each other. */
test.describe.configure({ mode: 'serial' });

let buyer: BrowserContext;
let marketer: Page;
let thanks = '';
let before: Record<string, number>;
let steps = 0;

/** How many steps Wrenwick has counted. */
async function stepsCounted(page: Page): Promise<number> {
  await page.goto(`${places.wrenwick}/account`);
  return Number.parseInt((await page.getByRole('heading', { level: 1 }).textContent())!);
}

/** The figures of the line of shop orders, by hop. */
async function figures(): Promise<Record<string, number>> {
  await open(marketer, '?way=order');
  const rows = await marketer.getByRole('table', { name: 'The line: strands at each hop' }).getByRole('row').all();
  const counts: Record<string, number> = {};
  for (const row of rows.slice(1)) {
    const hop = (await row.getByRole('rowheader').textContent())!;
    counts[hop] = Number((await row.getByRole('cell').first().textContent())!.replace(',', ''));
  }
  return counts;
}

test.beforeAll(async ({ browser }) => {
  buyer = await browser.newContext();
  await setEvening(buyer);
  marketer = await (await browser.newContext()).newPage();
  await signIn(marketer);
  before = await figures();
  steps = await stepsCounted(marketer);
});

test('a partner’s reader buys in the shop, and opens the page that thanks them three times', async () => {
  const page = await buyer.newPage();
  await page.goto(`${places.wrenwick}/partner/pedal-post`);
  // Nobody presses on before a page's script has run.
  const landed = page.waitForRequest((request) => request.url().includes('/take/'));
  await page.getByRole('link', { name: 'See them at Larkmoor' }).click();
  await landed;
  await expect(page).toHaveURL(/\/shop\?utm_source=wrenwick&.*wwk=wk-/);
  await page.getByRole('link', { name: 'Rain cover for the long box' }).click();
  await page.getByRole('button', { name: 'Pay £95.00' }).click();
  await expect(page.getByRole('heading', { name: 'Thank you, it is on its way' })).toBeVisible();
  thanks = page.url();
  for (let times = 0; times < 3; times++) {
    const told = page.waitForRequest(
      (request) => request.url().includes('/take/') && (request.postData() ?? '').includes('"ordered"'),
    );
    await page.reload();
    await told;
  }
  await page.close();
});

test('Wrenwick counts it once, by its own name for it, less delivery, tax and what the goods cost', async () => {
  const page = await buyer.newPage();
  await expect.poll(() => stepsCounted(page)).toBe(steps + 1);
  // 95.00 less 6.00 delivery, 15.83 tax and 41.50 for the goods.
  await expect(page.getByRole('row').nth(1)).toContainText(/paid.*GBP 31\.67.*pedal-post/s);
  const told = page.waitForRequest((request) => (request.postData() ?? '').includes('"ordered"'));
  await page.goto(thanks);
  await told;
  expect(await stepsCounted(page)).toBe(steps + 1);
  await page.close();
});

test('the line of shop orders counts it at every hop, and its number opens the row and the trace behind it', async () => {
  await expect(async () => {
    const after = await figures();
    for (const hop of ['Landed', 'Kept', 'Ordered', 'Told', 'Confirmed'])
      expect(after[hop], hop).toBe(before[hop]! + 1);
  }).toPass({ timeout: 60_000 });
  await expect(marketer.getByRole('navigation', { name: 'Way in' }).getByRole('link')).toHaveText([
    'Enquiries by form',
    'Calls',
    'Lead forms on platforms',
    'Shop orders',
  ]);
  await open(marketer, '/strands?way=order&hop=confirmed&state=made_it');
  await marketer.getByRole('link', { name: /^wk-/ }).first().click();
  await expect(marketer).toHaveURL(/\/strands\/[0-9a-f-]+\?way=order/);
  const number = new URL(thanks).searchParams.get('order')!;
  await expect(marketer.getByText(`Ordered, number ${number}`)).toBeVisible();
  await expect(marketer.getByRole('heading', { name: 'Every hop made it: Wrenwick confirmed it.' })).toBeVisible();
  await expect(marketer.getByRole('region', { name: 'Telling' })).toContainText('£31.67');
  await expect(marketer.getByRole('columnheader').filter({ hasText: /^(In CRM|Qualified)$/ })).toHaveCount(0);
});

test('each way in has an address of its own, in the same days', async () => {
  await open(marketer, '?way=order&range=week');
  await marketer.getByRole('link', { name: 'Enquiries by form' }).click();
  await expect(marketer).toHaveURL(`${home}?range=week`);
  await expect(marketer.getByRole('table', { name: 'The line: strands at each hop' })).toContainText('Form sent');
});

test('ordered once more under another number it waits for a look as probably the same, and is told once let go', async () => {
  const page = await buyer.newPage();
  await page.goto(`${places.larkmoor}/basket?part=rain-cover`);
  const told = page.waitForRequest((request) => (request.postData() ?? '').includes('"ordered"'));
  await page.getByRole('button', { name: 'Pay £95.00' }).click();
  await told;
  await expect(page.getByRole('heading', { name: 'Thank you, it is on its way' })).toBeVisible();
  const [first, second] = [thanks, page.url()].map((url) => new URL(url).searchParams.get('order')!);
  await page.goto(`${places.larkmoor}/shop`);
  const row = marketer.getByRole('row').filter({ hasText: second! });
  await expect(async () => {
    await open(marketer, `/report-backs/queue?find=${second}`);
    await expect(row).toContainText('held', { timeout: 1000 });
  }).toPass();
  await expect(row).toContainText(`Probably the same as order ${first}`);
  expect(await stepsCounted(page)).toBe(steps + 1);
  await follow(marketer, row.getByRole('link').first());
  await marketer.getByRole('button', { name: 'Let go', exact: true }).click();
  await marketer.getByRole('button', { name: 'Let go 1' }).click();
  await expect.poll(() => stepsCounted(page)).toBe(steps + 2);
  await page.close();
});
