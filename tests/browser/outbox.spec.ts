import { expect } from '@playwright/test';
import { home, places, setEvening, signIn, test } from './world';

test('hits of a page that could not reach the edge go with the next page, once', async ({ browser }) => {
  const context = await browser.newContext();
  await setEvening(context);
  const page = await context.newPage();
  await context.route('**/take/**', (route) => route.abort());
  await page.goto(
    `${places.larkmoor}/fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=outbox&qsid=Qs-outbox-test`,
  );
  await expect(page.locator('[name=click_id]')).toHaveValue('Qs-outbox-test');
  const waiting = () =>
    page.evaluate(() => JSON.parse(localStorage.getItem('avx_outbox_larkmoor') ?? '[]') as { kind: string }[]);
  await expect.poll(async () => (await waiting()).map(({ kind }) => kind)).toEqual(['arrived', 'forms_seen']);

  await context.unroute('**/take/**');
  await page.goto(`${places.larkmoor}/shop`);
  await expect.poll(async () => (await waiting()).length).toBe(0);

  const marketer = await (await browser.newContext()).newPage();
  await signIn(marketer);
  await expect(async () => {
    await marketer.goto(`${home}/strands?hop=landed&find=Qs-outbox-test`);
    await expect(
      marketer.getByRole('heading', { name: '1 click came to Landed, matching “Qs-outbox-test”.' }),
    ).toBeVisible({ timeout: 500 });
  }).toPass();
});

test('a page whose own error handlers are counted hears of no error of ours, with storage and cookies blocked', async ({
  browser,
}) => {
  const context = await browser.newContext();
  await setEvening(context);
  await context.addInitScript(() => {
    Object.defineProperty(globalThis, 'localStorage', {
      get() {
        throw new Error('blocked');
      },
    });
    Object.defineProperty(Document.prototype, 'cookie', { get: () => '', set: () => undefined });
  });
  const page = await context.newPage();
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  const sent = page.waitForRequest(/\/take\//);
  await page.goto(`${places.larkmoor}/fleet?utm_source=letter&utm_medium=email`);
  expect(JSON.parse((await sent).postData()!)).toMatchObject({ hits: [{ kept: { works: false, last: null } }] });
  await expect(page.locator('[name=source]')).toHaveValue('letter');
  expect(errors).toEqual([]);
});

test('a second line pasted on the same page does nothing twice', async ({ browser }) => {
  const context = await browser.newContext();
  await setEvening(context);
  const page = await context.newPage();
  let hits = 0;
  page.on('request', (request) => {
    if (request.method() === 'POST' && request.url().includes('/take/')) hits += 1;
  });
  const first = page.waitForResponse(/\/take\//);
  await page.goto(places.larkmoor);
  await first;
  await page.addScriptTag({ url: `${places.firstParty}/r/larkmoor/1.js` });
  expect(await page.locator('script[src*="/r/larkmoor/1"]').count()).toBe(2);
  expect(hits).toBe(1);
});
