import { readFile } from 'node:fs/promises';
import { expect, type Page } from '@playwright/test';
import { makeOthers, open, others, places, ready, setEvening, signIn, test } from './world';

test.describe.configure({ mode: 'serial' });

const dropAll = (page: Page) =>
  page.evaluate(() =>
    fetch('/api/b/larkmoor/draft/drop', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"rules":[]}',
    }),
  );

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('what came off plan is found and sorted in the address', async ({ page }) => {
  await open(page, '/plan/off-plan');
  const rows = page.getByRole('table').first().locator('tbody tr');
  const all = await rows.count();
  await page.getByRole('button', { name: 'Value', exact: true }).click();
  await expect(page).toHaveURL(/sort=value&descending=no/);
  const read = () => rows.locator('td:first-child code:first-child').allTextContents();
  const inOrder = (values: string[]) => values.toSorted((a, b) => a.localeCompare(b, 'en'));
  await expect.poll(async () => (await read()).join()).toBe(inOrder(await read()).join());
  const values = await read();
  expect(values).toHaveLength(all);
  await page.getByLabel('Find by value or tag').fill(values[0]!);
  await expect(page.getByText(`1 to ${values.filter((one) => one.includes(values[0]!)).length} of`)).toBeVisible();
  await page.getByLabel('Find by value or tag').fill('no such value');
  await expect(rows).toHaveText('Nothing matches what you look for.');
});

test('a medium is planned, its effect is shown before it is kept, and it is made live under a name', async ({
  page,
}) => {
  await open(page, '/plan?tag=utm_medium');
  await expect(page.getByRole('heading', { name: '3 values in 13 weeks off plan' })).toBeVisible();
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.getByLabel('Value in links').last().fill('poster');
  await page.getByLabel('As people read it').last().fill('Poster');
  await expect(page.getByText('Only on this screen so far.')).toBeVisible();
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByText('In the draft, not live.')).toBeVisible();

  await open(page, '/not-live');
  await expect(page.getByRole('heading', { name: '1 rule is not live yet.' })).toBeVisible();
  await expect(page.getByText('Takes in poster.')).toBeVisible();
  await page.getByLabel('Call it').fill('Posters');
  await page.getByRole('button', { name: 'Make it live' }).click();
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Everything is live.' })).toBeVisible();
});

test('a rule that would put links and traffic off plan says so while it is being written', async ({ page }) => {
  await open(page, '/plan?tag=utm_medium');
  await page.getByRole('button', { name: 'Take out email' }).click();
  await expect(page.getByRole('heading', { name: /^Would no longer fit: 1 value/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: /^2 of \d+ links would no longer fit$/ })).toBeVisible();
});

test('a rule that cannot be used is refused with its field and what would be right', async ({ page }) => {
  await open(page, '/plan?tag=utm_content');
  await page.getByLabel('Pattern', { exact: true }).fill('(?=a)b');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByRole('alert')).toContainText('Pattern: it is no pattern: invalid or unsupported Perl syntax');
});

test('a naming pattern that reads in two ways is refused with the example that shows it', async ({ page }) => {
  await open(page, '/plan/names');
  await page.getByLabel('Kind of part').nth(3).selectOption('words');
  await expect(page.getByRole('alert')).toContainText(/“.+” could be read as .+ or as .+/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByLabel('Read a name back').fill('uk-27q1-fleet-winterproof');
  await expect(page.getByRole('status').filter({ hasText: 'Market United Kingdom' })).toContainText(
    'Quarter January to March',
  );
});

test('spellings that a partner sends appear off plan, are read as one, and count as one once that is live', async ({
  page,
}) => {
  await open(page, '/plan/off-plan');
  const rows = page.getByRole('row').filter({ hasText: 'bakerweekly.example' });
  await expect(rows).toHaveCount(3);
  const marked = page.locator('tr[aria-selected=true]');
  // Campaigns that nobody put into the register arrive; one of them is put there by a key.
  await page.keyboard.press('j');
  await page.keyboard.press('j');
  await expect(marked.locator('code').first()).toHaveText('uk-27q1-fleet-agency-trial');
  await expect(marked).toContainText('it is not in the campaign register');
  await page.keyboard.press('p');
  await expect(page.getByText('“uk-27q1-fleet-agency-trial” is in the register.')).toBeVisible();
  for (let left = 3; left > 0; left--) {
    await expect(marked).toContainText('bakerweekly.example');
    await page.keyboard.press('a');
    await expect(rows).toHaveCount(left - 1);
  }
  await open(page, '/not-live');
  await expect(page.getByRole('heading', { name: '3 rules are not live yet.' })).toBeVisible();
  await page.getByLabel('Call it').fill('Baker Weekly spells freely');
  await page.getByRole('button', { name: 'Make 3 rules live' }).click();
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();

  await open(page, '/plan/off-plan');
  await expect(page.getByRole('heading', { name: 'Values that count as another, or are ignored' })).toBeVisible();
  await expect(rows).toHaveCount(0);
  await open(page, '/plan/channels');
  const paid = page.getByRole('row').filter({ hasText: 'paid-social' });
  const partner = await page.evaluate(async () => {
    const answer = await fetch('/api/b/larkmoor/plan/tags');
    const { tags, counts } = (await answer.json()) as {
      tags: { rule: { tag: string }; values: number }[];
      counts: Record<string, Record<string, number>>;
    };
    return {
      values: tags.find(({ rule }) => rule.tag === 'utm_medium')!.values,
      count: counts.utm_medium!['paid-social']!,
    };
  });
  // All spellings are still kept apart as they came; read, they are one.
  expect(partner.values).toBeGreaterThan(6);
  await expect(paid).toContainText(String(partner.count));
});

test('links, results and CRM are held side by side: a type without a medium and a medium without a type are named', async ({
  page,
}) => {
  await open(page, '/plan/channels');
  await expect(page.getByRole('heading', { name: /^Links, results and CRM differ in \d+ places\.$/ })).toBeVisible();
  await expect(page.getByText('No medium belongs to this campaign type.')).toBeVisible();
  await expect(page.getByText('The CRM has no campaign type for it.').first()).toBeVisible();
  await page.getByRole('button', { name: 'fair' }).click();
  await page.getByLabel('Workshop days').check();
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByText('No medium belongs to this campaign type.')).toBeHidden();
  await dropAll(page);
});

test('campaigns are pulled from the CRM after a look at what would change, and become a link in three keys', async ({
  page,
}) => {
  await open(page, '/plan/campaigns');
  await page.getByRole('button', { name: 'Pull from Oakledger' }).click();
  await expect(page.getByRole('heading', { name: /^Oakledger has 2 new, / })).toBeVisible();
  await page.getByLabel('new uk-27q2-care-workshop').uncheck();
  await page.getByRole('button', { name: 'Take 1' }).click();
  await expect(page.getByRole('link', { name: 'Penmarrow cargo fair' })).toBeVisible();

  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  let keys = 0;
  const press = async (key: string) => {
    keys += 1;
    await page.keyboard.press(key);
  };
  await press('j');
  await expect(page.locator('tr[aria-selected=true]')).toContainText('uk-27q2-fleet-cargo-fair');
  await press('l');
  await expect(page.getByTestId('link')).toContainText(
    'utm_source=cargo-fair&utm_medium=fair&utm_campaign=uk-27q2-fleet-cargo-fair',
  );
  await ready(page);
  await press('c');
  await expect(page.getByRole('button', { name: 'Copied' })).toBeVisible();
  expect(await page.evaluate(() => navigator.clipboard.readText())).toContain('utm_campaign=uk-27q2-fleet-cargo-fair');
  expect(keys).toBe(3);
});

test('a file of campaigns is answered row by row, and nothing is taken before it is looked at', async ({ page }) => {
  await open(page, '/plan/campaigns');
  const read = (name: string, text: string | Buffer) =>
    page.getByLabel('Import').setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });
  await read(
    'campaigns.csv',
    "name;friendly;startsOn;budget\nuk-27q2-shop-locks;Locks;2027-04-01;'=1+1\nuk-27q2-shop-bells;Bells;1 April;\n",
  );
  await expect(
    page.getByText('uk-27q2-shop-bells, startsOn: must be a day such as 2027-01-14, or nothing'),
  ).toBeVisible();
  await expect(page.getByText('uk-27q2-shop-locks, budget: must be an amount')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Take / })).toHaveCount(0);
  await read('other.csv', 'title,when\nx,y\n');
  await expect(page.getByRole('alert')).toHaveText(
    'The file has no column “name”; it has title, when. Its first row must name name.',
  );
  await read('latin.csv', Buffer.from('name\nb\xe4ckerei\n', 'latin1'));
  await expect(page.getByRole('alert')).toContainText('The file’s letters are not in UTF-8.');
  await read('large.csv', `name\n${'x'.repeat(6 * 2 ** 20)}`);
  await expect(page.getByRole('alert')).toContainText('at most 5242880 are taken');
});

test('the plan is handed on as files, and one that was changed is read back with a look at what it changes', async ({
  page,
}) => {
  await open(page, '/plan/share');
  await expect(page.getByRole('img', { name: /^Where each value goes/ })).toBeVisible();
  for (const format of ['JSON', 'CSV', 'XLSX']) {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('link', { name: format }).click(),
    ]);
    const file = await readFile(await download.path());
    const give = (buffer: Buffer) =>
      page.getByLabel('Read one back').setInputFiles({ name: 'plan', mimeType: 'application/octet-stream', buffer });
    await give(file);
    await expect(page.getByRole('heading', { name: 'The file says the same as the plan.' })).toBeVisible();
    await page.getByRole('button', { name: 'Close' }).click();
    if (format === 'XLSX') continue;
    await give(Buffer.from(file.toString().replaceAll('bakerweekly.example', 'bakerdaily.example')));
    await expect(page.getByRole('heading', { name: 'The file would change 2 rules.' })).toBeVisible();
    await expect(
      page.getByText('People who come from bakerdaily.example without tags belong to Partners.'),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Take none' }).click();
  }
  await page.emulateMedia({ media: 'print' });
  await expect(page.getByRole('navigation', { name: 'Stations' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden();
});

test('an empty business is offered its first step, and a plan of its own within a minute', async ({
  page,
  context,
}) => {
  await makeOthers();
  await context.clearCookies();
  await signIn(page, others.stranger);
  await open(page, `${places.avrix}/b/otherby/plan`);
  await expect(page.getByRole('heading', { name: 'No names are agreed yet.' })).toBeVisible();
  await page.getByRole('button', { name: 'Add a value' }).click();
  await page.getByLabel('Value in links').fill('letter');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByText('In the draft, not live.')).toBeVisible();
  await open(page, `${places.avrix}/b/otherby/links`);
  await expect(page.getByRole('heading', { name: 'Make the first link: paste the page it leads to.' })).toBeVisible();
});
