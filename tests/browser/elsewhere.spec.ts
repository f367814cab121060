import { expect, type BrowserContext, type Page } from '@playwright/test';
import { open, places, release, setEvening, signIn, test } from './world';

const tags = 'utm_source=quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof';
const day = 86_400;

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

/** Waits until a page of the station says something; what visitors do is worked through in the background. */
const untilSaid = (page: Page, path: string, words: string | RegExp) =>
  expect(async () => {
    await open(page, path);
    await expect(page.getByText(words).first()).toBeVisible({ timeout: 700 });
  }).toPass();

async function visitorOf(context: BrowserContext): Promise<Page> {
  await setEvening(context);
  return context.newPage();
}

test('steps of a page that loads no other are arrivals, and a form that appears in one is filled', async ({
  browser,
}) => {
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  const sent: string[] = [];
  visitor.on('request', (request) => {
    if (request.url().includes('/take/')) sent.push(request.postData() ?? '');
  });
  await visitor.goto(`${places.larkmoor}/configure?${tags}&qsid=Qs-configured`);
  await visitor.getByRole('link', { name: 'The long one' }).click();
  await visitor.getByRole('link', { name: 'The one with the lid' }).click();
  await expect(visitor.locator('form[name=configure] [name=click_id]')).toHaveValue('Qs-configured');
  await expect.poll(() => sent.join()).toContain('/configure/ask"');
  expect(sent.join()).toMatch(/"address":"[^"]*\/configure\/box","referrer":"[^"]*\/configure\?[^"]*"/);
  expect(sent.join()).toContain('"why":"own_page"');
  await context.close();
});

test('a second website’s links to its own pages carry nothing', async ({ browser }) => {
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  const signed: string[] = [];
  visitor.on('request', (request) => {
    if (request.url().includes('/carry/') && request.method() === 'POST') signed.push(request.url());
  });
  const arrived = visitor.waitForRequest((request) => request.url().includes('/take/'));
  await visitor.goto(`${places.fleet}/offer?${tags}`);
  await arrived;
  // Links are looked at before the arrival is sent.
  await expect(visitor.getByRole('link', { name: 'Larkmoor Fleet' })).toHaveAttribute('href', '/offer');
  expect(signed).toEqual([]);
  await context.close();
});

test.describe('where browsers end a script’s cookies after 7 days', () => {
  /** Days until a cookie of the visitor ends. */
  const daysLeft = async (context: BrowserContext, name: string) => {
    const cookie = (await context.cookies(places.larkmoor)).find((one) => one.name === name);
    return cookie ? (cookie.expires - Date.now() / 1000) / day : 0;
  };
  const cappedContext = async (context: BrowserContext) => {
    await context.addInitScript(() => {
      const { get, set } = Object.getOwnPropertyDescriptor(Document.prototype, 'cookie')!;
      Object.defineProperty(document, 'cookie', {
        get: () => get!.call(document) as string,
        set: (text: string) =>
          set!.call(
            document,
            text.replace(/Max-Age=(\d+)/, (_, seconds: string) => `Max-Age=${Math.min(Number(seconds), 7 * 86_400)}`),
          ),
      });
    });
    const visitor = await visitorOf(context);
    const taken = visitor.waitForResponse(/\/take\//);
    await visitor.goto(`${places.larkmoor}/fleet?${tags}&qsid=Qs-lasting`);
    await taken;
    return visitor;
  };
  const setBy = async (page: Page, label: string | RegExp, name: string) => {
    await open(page, '/capture/kept');
    const choice = page.getByLabel('Who sets cookies');
    const option = choice.locator('option').filter({ hasText: label });
    await choice.selectOption((await option.getAttribute('value'))!);
    await page.getByRole('button', { name: 'Add to draft' }).click();
    await release(page, name);
  };

  test('they last as long as their rule says once the website’s own subdomain sets them', async ({ page, browser }) => {
    const alone = await browser.newContext();
    await cappedContext(alone);
    expect(await daysLeft(alone, 'avx_clicks')).toBeGreaterThan(6);
    expect(await daysLeft(alone, 'avx_clicks')).toBeLessThan(7.1);
    await alone.close();

    await setBy(page, /own subdomain/, 'Cookies that last');
    await open(page, '/capture/install');
    await expect(page.getByRole('region', { name: 'The snippet', exact: true })).toContainText('t.larkmoor.localhost');
    await expect(page.getByRole('region', { name: 'The snippet', exact: true })).toContainText(
      't.larkmoor-fleet.localhost',
    );
    const both = await browser.newContext();
    const visitor = await cappedContext(both);
    await expect.poll(() => daysLeft(both, 'avx_clicks')).toBeGreaterThan(80);
    expect(await daysLeft(both, 'avx_visitor')).toBeGreaterThan(390);
    // What the page reads is the same.
    await visitor.reload();
    await expect(visitor.locator('[name=click_id]')).toHaveValue('Qs-lasting');
    await both.close();
    await open(page, '/capture');
    await expect(page.getByRole('region', { name: 'Faults' })).not.toContainText('forget visitors after 7 days');
    await setBy(page, 'the page alone', 'As before');
    await open(page, '/capture');
    await expect(page.getByRole('row').filter({ hasText: 'forget visitors after 7 days' })).toContainText('WebKit');
  });
});

test('values go along to the second website, and its form is filled as if it were the first', async ({
  page,
  browser,
}) => {
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  await visitor.goto(`${places.larkmoor}/fleet/lease?${tags}&qsid=Qs-goes-along`);
  const link = visitor.getByRole('link', { name: 'See a sample offer' });
  await expect(link).toHaveAttribute('href', /\/offer\?avx_to=/);
  await link.click();
  await expect(visitor.locator('form[name=offer] [name=click_id]')).toHaveValue('Qs-goes-along');
  await expect(visitor.locator('form[name=offer] [name=campaign]')).toHaveValue('uk-27q1-fleet-winterproof');
  await untilSaid(page, '/capture/elsewhere?place=Offers', /1 arrival came there with values, the last/);
  await context.close();
});

test('who books outside and comes back is an enquiry of the click that went', async ({ page, browser }) => {
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  await visitor.goto(`${places.larkmoor}/fleet/call-back?${tags}&qsid=Qs-books`);
  const link = visitor.getByRole('link', { name: 'pick a time yourself' });
  await expect(link).toHaveAttribute('href', /avx_to=/);
  await link.click();
  await visitor.getByLabel('Email').fill('anna@oriel.example');
  await visitor.getByRole('button', { name: 'Book it' }).click();
  // The calendar gives back what it was opened with: what it reads under a name of its own, and what is signed.
  await expect(visitor).toHaveURL(/\/thank-you\?heard_of_us=quillsearch&avx_to=/);
  await untilSaid(page, '/capture/elsewhere?place=Bellhour', /1 answer came back, the last/);
  await untilSaid(page, '/strands?range=week&hop=form_sent&find=Qs-books', 'Qs-books');
  await context.close();
});

test('a framed form of another origin gets the values, and its back end’s answer is an enquiry', async ({
  page,
  browser,
}) => {
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  await visitor.goto(`${places.larkmoor}/care/fitting?${tags}&qsid=Qs-framed`);
  await expect(visitor.locator('iframe')).toHaveAttribute('src', /avx_to=/);
  const frame = visitor.frameLocator('iframe');
  await frame.getByLabel('Email').fill('anna@oriel.example');
  await frame.getByRole('button', { name: 'Send' }).click();
  await expect(frame.getByText('Thank you. We will write to you.')).toBeVisible();
  await untilSaid(page, '/capture/elsewhere?place=Ask+for+a+fitting', /1 answer came back, the last/);
  await context.close();
});

test('a link marks my own browser as no customer’s, and another takes the mark off', async ({ page, browser }) => {
  await open(page, '/capture/no-customer');
  const link = await page.getByRole('region', { name: 'My browser' }).locator('code').last().textContent();
  // The demo's website has no https.
  expect(link).toBe(`${places.larkmoor}/?avx_no_customer=yes`);
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  const sent: string[] = [];
  visitor.on('request', (request) => {
    if (request.url().includes('/take/')) sent.push(request.postData() ?? '');
  });
  await visitor.goto(link!);
  await visitor.goto(`${places.larkmoor}/fleet?${tags}&qsid=Qs-my-own`);
  await expect.poll(() => sent.join()).toContain('Qs-my-own');
  expect(sent.at(-1)).toContain('"noCustomer":true');
  await untilSaid(page, '/capture/no-customer', 'a browser of yours, marked by its link');
  await page.getByRole('row').filter({ hasText: 'a browser of yours' }).getByRole('link').first().click();
  await expect(page.getByRole('heading', { name: /not counted: a browser of yours/ })).toBeVisible();
  await expect(page.getByText('Qs-my-own')).toBeVisible();
  sent.length = 0;
  await visitor.goto(`${places.larkmoor}/?avx_no_customer=no`);
  await expect.poll(() => sent.join()).toContain('"kind":"arrived"');
  expect(sent.join()).not.toContain('noCustomer":true');
  await context.close();
});

test('a fault’s number opens its arrivals', async ({ page }) => {
  await open(page, '/capture');
  const row = page.getByRole('row').filter({ hasText: 'from paid clicks came without qsid' });
  const number = (await row.getByRole('link').textContent())!;
  await row.getByRole('link').click();
  await expect(
    page.getByRole('heading', { name: `${number} arrivals from paid clicks came without qsid` }),
  ).toBeVisible();
  await expect(page.getByText(new RegExp(`of ${number}$`))).toBeVisible();
  await page.getByLabel('Find by page, campaign').fill('van-swap');
  await expect(page.getByRole('heading', { name: /Shown are those, matching/ })).toBeVisible();
});

test('fill rules are changed as a grid: found, many at once, duplicated, pasted, undone', async ({ page }) => {
  await open(page, '/capture/fields?as=grid');
  const grid = page.getByRole('region', { name: 'Fill rules' });
  await grid.getByPlaceholder('Any cell').fill('call-back');
  await expect(grid.getByRole('button', { name: 'in all 1 shown' })).toBeVisible();
  await grid.getByLabel('Column to change').selectOption({ label: 'When' });
  await grid.getByLabel('Value for all shown').selectOption({ label: 'only when empty' });
  await grid.getByRole('button', { name: 'in all 1 shown' }).click();
  await expect(grid.getByRole('button', { name: 'Add 1 to draft' })).toBeVisible();
  await grid.getByRole('button', { name: 'Undo' }).click();
  await expect(grid.getByRole('button', { name: 'Add to draft' })).toBeDisabled();
  await grid.getByPlaceholder('Any cell').fill('');
  await grid.getByRole('button', { name: 'Duplicate row 3' }).click();
  await grid.getByLabel('Field, row 4').fill('quelle');
  await grid.getByLabel('Field, row 1').evaluate((field) => {
    const data = new DataTransfer();
    data.setData(
      'text/plain',
      'Field\tGets\tForms\npartner\tthe source\tcall-back, offer\nlanding\tthe landing page\t',
    );
    field.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
  });
  await grid.getByRole('button', { name: 'Add 3 to draft' }).click();
  await expect(page.getByRole('link', { name: '3 not live' })).toBeVisible();
  await open(page, '/not-live');
  await expect(page.getByText('The field partner of call-back, offer gets the source.')).toBeVisible();
  await expect(page.getByText('The field landing of every form gets the landing page.')).toBeVisible();
  await page.getByRole('button', { name: 'Drop them all' }).click();
  await expect(page.getByRole('heading', { name: 'Everything is live.' })).toBeVisible();
});

test('a keep rule shows what it would have kept while it is typed', async ({ page }) => {
  await open(page, '/capture/kept');
  await page.getByRole('button', { name: 'Keep another' }).click();
  const rule = page.getByRole('region', { name: /^Kept value (new|utm_)/ });
  await rule.getByLabel('Query value').fill('utm_source');
  await expect(rule.getByRole('status')).toContainText(/In 13 weeks [\d,]+ arrivals brought it; [\d,]+ would be kept/);
  await rule.getByLabel('Expected characters').selectOption({ label: 'digits' });
  await expect(rule.getByRole('status')).toContainText(
    /0 would be kept, [\d,]+ not, for what the rule does not expect/,
  );
});

test('a swap table shows what it makes of what arrived', async ({ page }) => {
  await open(page, '/capture/swaps');
  const effect = page.getByRole('region', { name: 'Effect' });
  await expect(effect.getByRole('row').filter({ hasText: 'quillsearch' })).toContainText('search results');
  await page.getByLabel('Words, row 2').fill('ads');
  await expect(effect.getByRole('row').filter({ hasText: 'quillsearch' })).toContainText('ads');
  await page.getByRole('button', { name: 'Add a row' }).click();
  await page.getByLabel('Value, row 3').fill('quillsearch');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByRole('alert')).toContainText('is in two rows');
});

test('a display placement is worked out from the referrer’s host', async ({ browser }) => {
  const context = await browser.newContext();
  const visitor = await visitorOf(context);
  await visitor.goto(`${places.larkmoor}/fleet?utm_source=display&utm_medium=display&utm_campaign=c`, {
    referer: 'https://grainmarket.example/prices',
  });
  await expect(visitor.locator('[name=placement]')).toHaveValue('grainmarket.example');
  await context.close();
});

test('a page with the line twice, storage blocked and no cookies tells of itself once, and hears of no error', async ({
  browser,
}) => {
  const context = await browser.newContext();
  await context.addInitScript(() => {
    const blocked = () => {
      throw new DOMException('blocked', 'SecurityError');
    };
    Object.defineProperty(window, 'localStorage', { get: blocked });
    Object.defineProperty(document, 'cookie', { get: () => '', set: () => undefined });
  });
  const visitor = await visitorOf(context);
  const arrivals: string[] = [];
  const errors: string[] = [];
  visitor.on('request', (request) => {
    if (/"kind":"arrived"/.test(request.postData() ?? '')) arrivals.push(request.postData()!);
  });
  visitor.on('pageerror', (error) => errors.push(error.message));
  visitor.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  await visitor.goto(`${places.larkmoor}/fleet/lease?${tags}&qsid=Qs-blocked`);
  await expect.poll(() => arrivals.length).toBe(1);
  await visitor.waitForLoadState('networkidle');
  expect(arrivals).toHaveLength(1);
  expect(arrivals[0]).toMatch(/"works":false/);
  expect(arrivals[0]).toContain('"lines":2');
  expect(errors.filter((text) => !/favicon|404/.test(text))).toEqual([]);
  await context.close();
});
