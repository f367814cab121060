import { expect, type Locator, type Page } from '@playwright/test';
import { ask, open, places, ready, setEvening, signIn, test } from './world';

/*
 * What people do every day, typed and pointed as a person does, with their actions counted: a press, a key, or a text
 * that is pasted or typed into a field, from which Tab leads on.
 */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await signIn(page);
  await open(page, '/');
});

function handsOn(page: Page) {
  let actions = 0;
  const count = async (work: Promise<unknown>) => {
    actions += 1;
    await work;
  };
  return {
    actions: () => actions,
    press: (what: Locator) => count(what.click()),
    /** A link to another page, which takes keys once its script runs. */
    follow: (link: Locator, to: RegExp) =>
      count(
        link
          .click()
          .then(() => page.waitForURL(to))
          .then(() => ready(page)),
      ),
    key: (key: string) => count(page.keyboard.press(key)),
    /** Into a field that is pointed at. */
    type: (field: Locator, text: string) => count(field.fill(text).then(() => field.press('Tab'))),
    /** Into the field one is in. */
    typeHere: (text: string) => count(page.keyboard.type(text).then(() => page.keyboard.press('Tab'))),
    choose: (field: Locator, label: string) => count(field.selectOption({ label })),
    paste: (text: string) =>
      count(
        page
          .evaluate((copied) => navigator.clipboard.writeText(copied), text)
          .then(() => page.keyboard.press('ControlOrMeta+v')),
      ),
  };
}
const copied = (page: Page) => page.evaluate(() => navigator.clipboard.readText());
const field = (page: Page, name: string) => page.getByRole('combobox', { name, exact: true });
const notLive = (page: Page) => page.getByRole('link', { name: /^\d+ not live$/ });

/** Changes rules as a program would, and makes them live: what a job begins with. */
async function prepare(page: Page, changes: object[]): Promise<void> {
  const status = await page.evaluate(
    async (wanted) =>
      (
        await fetch('/api/b/larkmoor/draft', {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ changes: wanted }),
        })
      ).status,
    changes,
  );
  expect(status).toBe(200);
}

async function makeLive(page: Page, name: string): Promise<void> {
  await open(page, '/not-live');
  await page.getByLabel('Call it').fill(name);
  await page.getByRole('button', { name: /^Make .* live$/ }).click();
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
}

test('a tagged link with six tags, copied: 7 actions at most', async ({ page }) => {
  await open(page, '/links');
  const hands = handsOn(page);
  await page.locator('h1').click();
  await hands.paste('larkmoor.localhost/fleet?bike=4#top');
  // The campaign brings its medium and the source that goes with it.
  await hands.type(field(page, 'Campaign'), 'uk-27q1-fleet-letter');
  await hands.type(field(page, 'Content'), 'top');
  await hands.type(field(page, 'Term'), 'rain');
  await hands.type(field(page, 'Campaign ID'), 'C-105');
  await expect(page.getByText(/^On plan\./)).toBeVisible();
  await page.locator('h1').click();
  await hands.key('c');
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  expect(await copied(page)).toBe(
    'https://larkmoor.localhost/fleet?bike=4&utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter&utm_content=top&utm_term=rain&utm_id=C-105#top',
  );
  expect(hands.actions()).toBeLessThanOrEqual(7);
});

test('a source that prescribes a tag fixes it, and its short link is made in one press', async ({ page }) => {
  await prepare(page, [
    {
      kind: 'source',
      id: 'baker-weekly',
      value: { source: 'baker-weekly', mediums: ['partner'], fixed: ['utm_content=bw-04'] },
    },
  ]);
  await open(page, '/plan/sources?source=baker-weekly');
  await expect(page.getByText('Its one link does not fit')).toBeVisible();
  await makeLive(page, 'What Baker Weekly prescribes');

  await open(page, '/links');
  const hands = handsOn(page);
  await page.locator('h1').click();
  await hands.paste('larkmoor.localhost/fleet');
  await hands.type(field(page, 'Campaign'), 'uk-27q1-fleet-baker-weekly');
  await hands.type(field(page, 'Source'), 'baker-weekly');
  await expect(field(page, 'Medium')).toHaveValue('partner');
  await expect(field(page, 'Content')).toHaveValue('bw-04');
  await expect(field(page, 'Content')).toBeDisabled();
  await expect(page.getByText('Always so for Baker Weekly.')).toBeVisible();
  await hands.press(page.getByRole('button', { name: 'Shorten' }));
  await expect(page.getByRole('link', { name: /\/go\/baker-weekly-bw-04$/ })).toBeVisible();
  await open(page, '/links/short?path=baker-weekly-bw-04');
  await expect(page.getByRole('textbox', { name: 'Leads to' })).toHaveValue(/utm_content=bw-04$/);
});

test('ten sources of one page, copied: 10 actions at most', async ({ page }) => {
  const tags = (await page.evaluate(async () => (await fetch('/api/b/larkmoor/plan/tags')).json())) as {
    tags: { rule: { tag: string; values: object[] } }[];
  };
  const { rule } = tags.tags.find((one) => one.rule.tag === 'utm_source')!;
  const more = ['florist-weekly', 'courier-post'];
  const values = [...rule.values, ...more.map((value) => ({ value, label: '' }))];
  await prepare(page, [{ kind: 'tag', id: 'utm_source', value: { ...rule, values } }]);
  await prepare(
    page,
    more.map((source) => ({ kind: 'source', id: source, value: { source, mediums: ['partner'], fixed: [] } })),
  );
  await makeLive(page, 'Two more papers');

  const sources = ['quillsearch', 'larkmoor-letter', 'baker-weekly', 'wrenwick', 'cargo-fair', 'printed', 'display'];
  await open(page, '/links/many');
  const hands = handsOn(page);
  const cell = (column: string, row: number) => page.getByLabel(`${column}, row ${row}`, { exact: true });
  await hands.press(cell('Landing page', 1));
  const lines = [...sources, ...more, 'larkmoor-letter'].map(
    (source, at) => `larkmoor.localhost/fleet${at === 9 ? '?again' : ''}\t${source}`,
  );
  await hands.paste(lines.join('\n'));
  await hands.press(cell('Campaign', 1));
  await hands.paste('uk-27q1-fleet-letter');
  await hands.key('ControlOrMeta+Shift+ArrowDown');
  await hands.key('ControlOrMeta+d');
  await hands.press(page.getByRole('button', { name: /^Repair \d+$/ }));
  await expect(page.getByRole('heading', { name: '10 links, all on plan.' })).toBeVisible();
  await page.locator('h1').click();
  await hands.key('c');
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  expect((await copied(page)).split('\n')).toHaveLength(10);
  expect(hands.actions()).toBeLessThanOrEqual(10);
});

test('a short link made, led elsewhere, and taken back: 8 actions at most', async ({ page }) => {
  await open(page, '/links/short');
  const hands = handsOn(page);
  const letter = `${places.larkmoor}/fleet?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter`;
  await hands.key('n');
  await hands.typeHere('spring-letter');
  await hands.type(page.getByRole('textbox', { name: 'Leads to' }), letter);
  await hands.press(page.getByRole('button', { name: 'Make short link' }));
  const history = page.getByRole('region', { name: 'For print, and where it led' }).getByRole('listitem');
  await expect(history).toHaveCount(1);
  const elsewhere = page.getByRole('textbox', { name: 'Leads to' });
  await hands.type(elsewhere, letter.replace('/fleet', '/shop').replace('=email', '=partner'));
  await expect(page.getByText('the Larkmoor letter goes with email, not with partner.').first()).toBeVisible();
  await hands.press(page.getByRole('button', { name: 'Save', exact: true }));
  await expect(history).toHaveCount(2);
  await hands.press(page.getByRole('button', { name: 'Back to this' }));
  await expect(history).toHaveCount(3);
  await expect(elsewhere).toHaveValue(letter);
  expect(hands.actions()).toBeLessThanOrEqual(8);
});

test('a value kept and five fields filled, live: 15 actions at most', async ({ page }) => {
  await open(page, '/capture/kept');
  const hands = handsOn(page);
  await hands.press(page.getByRole('button', { name: 'Keep another' }));
  const kept = page.getByRole('region', { name: 'Kept value new' });
  await hands.type(kept.getByLabel('Query value'), 'lark_dealer');
  await hands.press(kept.getByRole('button', { name: 'Add to draft' }));
  await hands.follow(page.getByRole('link', { name: 'Fields', exact: true }), /\/fields/);
  await hands.press(page.getByRole('button', { name: 'As a grid' }));
  await hands.press(page.getByRole('button', { name: 'Add a row' }));
  await hands.press(page.getByLabel(/^Field, row \d+$/).last());
  const fields = [
    ['dealer', 'the kept value', 'lark_dealer'],
    ['first_medium', 'the first medium', ''],
    ['campaign_number', 'the campaign ID', ''],
    ['first_words', 'the first term', ''],
    ['first_content', 'the first content', ''],
  ];
  await hands.paste(fields.map(([name, reading, of]) => `${name}\ttest-ride\t\t${reading}\t${of}`).join('\n'));
  await hands.press(page.getByRole('button', { name: 'Add 5 to draft' }));
  await hands.follow(notLive(page), /\/not-live/);
  await hands.type(page.getByLabel('Call it'), 'Dealer and five fields');
  await hands.press(page.getByRole('button', { name: 'Make 6 rules live' }));
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
  expect(hands.actions()).toBeLessThanOrEqual(15);
});

test('a UTM tag under another name, tried in one’s own browser, live: 9 actions at most', async ({ page, context }) => {
  const visitor = await context.newPage();
  await visitor.goto(`${places.larkmoor}/shop?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=mine`);
  const cookie = async (name: string) =>
    (await context.cookies(places.larkmoor)).find((one) => one.name === name)?.value ?? '';
  await expect.poll(() => cookie('avx_last')).toContain('mine');
  const before = { first: await cookie('avx_first'), visitor: (await cookie('avx_visitor')).split('~')[1] };

  await open(page, '/plan?tag=utm_source');
  const hands = handsOn(page);
  await hands.type(page.getByLabel('A name beside it'), 'lark_src');
  await hands.press(page.getByRole('button', { name: 'Add name' }));
  await hands.press(page.getByRole('radio', { name: 'Links are made with lark_src' }));
  await expect(page.getByText(/^5 links in use say another name than lark_src\./)).toBeVisible();
  await hands.follow(notLive(page), /\/not-live/);
  await hands.follow(page.getByRole('button', { name: 'Try in my browser' }), /\/try/);
  await expect(page.getByRole('heading', { name: 'Open one of the links in your browser.' })).toBeVisible();
  const told: string[] = [];
  context.on('request', (request) => {
    if (request.method() === 'POST' && request.url().includes('/take/')) told.push(request.url());
  });
  await page.getByRole('combobox', { name: 'The page to begin at' }).fill(`${places.larkmoor}/fleet`);
  // An open list hides the rest of the page from whoever goes by roles.
  await page.keyboard.press('Escape');
  const opening = context.waitForEvent('page');
  await hands.press(page.getByRole('link', { name: 'Open it' }));
  const tried = await opening;
  expect(tried.url()).toContain('lark_src=quillsearch');
  // An address that is copied from the tab takes nobody else into the trial.
  await expect(tried).not.toHaveURL(/avx_try/);
  const opened = page.getByRole('region', { name: '/fleet' });
  await expect(opened.getByText('quillsearch', { exact: true }).first()).toBeVisible();
  await expect(page.getByRole('heading', { name: /by the draft: \d+ of \d+ fields filled\.$/ })).toBeVisible();
  expect(told.every((url) => /\/try\/\w+\/take\//.test(url))).toBe(true);
  await hands.follow(page.getByRole('link', { name: 'What is not live' }), /\/not-live/);
  await hands.type(page.getByLabel('Call it'), 'The source under a name of our own');
  await hands.press(page.getByRole('button', { name: 'Make it live' }));
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
  expect(hands.actions()).toBeLessThanOrEqual(9);

  // Cleaned up after: what the browser kept is there again, and nothing of the trial.
  await open(page, '/try');
  await page.getByRole('button', { name: 'End the trial' }).click();
  await expect(page.getByText(/^The trial has ended\./)).toBeVisible();
  await tried.goto(`${places.larkmoor}/shop`);
  await expect.poll(() => cookie('avx_first')).toBe(before.first);
  expect((await cookie('avx_visitor')).split('~')[1]).toBe(before.visitor);
  expect(await tried.evaluate(() => Object.keys(localStorage).filter((name) => name.includes('~try')))).toEqual([]);
});

test('the referrer as source by a table: 9 actions at most', async ({ page }) => {
  await open(page, '/capture/swaps');
  const hands = handsOn(page);
  await hands.key('n');
  await hands.typeHere('where from');
  await hands.press(page.getByRole('button', { name: 'Add a row' }));
  await hands.type(page.getByLabel('Value, row 1'), 'display');
  await hands.choose(page.getByLabel('Becomes, row 1'), 'the referrer’s host');
  await hands.press(page.getByRole('button', { name: 'Add to draft' }));
  await hands.follow(page.getByRole('link', { name: 'Fields', exact: true }), /\/fields/);
  const rule = page.getByRole('navigation', { name: 'Fill rules' }).getByRole('link', { name: /^source/ });
  await hands.press(rule);
  await hands.choose(page.getByLabel('Swap table'), 'through the table “where from”');
  await expect(page.getByText('the table “where from”').first()).toBeAttached();
  await expect(page.getByRole('button', { name: 'Add to draft' })).toBeEnabled();
  expect(hands.actions()).toBeLessThanOrEqual(9);
});

test('a campaign of the CRM to a checked link: 5 actions at most', async ({ page }) => {
  await open(page, '/links');
  const hands = handsOn(page);
  await hands.type(field(page, 'Campaign'), 'uk-27q2-fleet-cargo-fair');
  await expect(page.getByText('Penmarrow cargo fair is in Oakledger, not in the register yet.')).toBeVisible();
  await hands.press(page.getByRole('button', { name: 'Add to register' }));
  await expect(field(page, 'Source')).toHaveValue('cargo-fair');
  await hands.type(field(page, 'Landing page'), `${places.larkmoor}/guide`);
  await expect(page.getByText(/^On plan\./)).toBeVisible();
  await hands.press(page.getByRole('button', { name: 'Save link' }));
  await expect(page.getByRole('button', { name: 'Saved' })).toBeVisible();
  expect(hands.actions()).toBeLessThanOrEqual(5);

  // Its page is checked by itself, with the date.
  await open(page, '/links/made?find=guide');
  await expect(page.getByText('The page has no snippet; nobody who lands there is seen.')).toBeVisible({
    timeout: 15_000,
  });

  // The finished links go back into the CRM’s campaign.
  await open(page, '/plan/campaigns');
  await page.getByRole('link', { name: /Penmarrow cargo fair/ }).click();
  await page.getByRole('button', { name: 'Write 2 into Oakledger' }).click();
  await expect(page.getByText('2 links are in Oakledger’s campaign C-108.')).toBeVisible();
  const crm = await ask(`${places.oakledger}/campaigns`);
  expect(crm.body).toContain('uk-27q2-fleet-cargo-fair');
});
