import { expect, type Page } from '@playwright/test';
import { follow, open, ready, setEvening, signIn, test } from './world';

/* What was counted and what it brought, asked for by a sentence. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

const heading = (page: Page) => page.getByRole('heading', { level: 1 });
const table = (page: Page) => page.getByRole('region', { name: 'Figures' });
const part = (page: Page, name: string) => page.getByRole('combobox', { name, exact: true });
/** The texts of one column, without those of the heading and the sums. */
const column = (page: Page, n: number) => table(page).locator(`tbody tr td:nth-child(${n})`).allInnerTexts();
/** The numbers at the end of cells, such as "+3 % 1,204". */
const numbers = (texts: string[]) => texts.map((text) => Number(/[\d,.]+$/.exec(text.trim())![0].replaceAll(',', '')));

test('source, medium and content of one campaign are asked for from nothing in fewer than fifteen actions, and found again by their address', async ({
  page,
}) => {
  await open(page, '/results');
  await expect(heading(page)).toHaveText(/^[\d,]+ visits in 4 weeks, [\d,]+ before; .+ brought most, [\d,]+\.$/);
  let actions = 0;
  const act = async (doing: Promise<unknown>) => {
    await doing;
    actions += 1;
  };
  await act(part(page, 'By what, dimension 1').selectOption('source'));
  await act(page.getByRole('button', { name: 'then by' }).click());
  await act(part(page, 'By what, dimension 2').selectOption('medium'));
  await act(page.getByRole('button', { name: 'then by' }).click());
  await act(part(page, 'By what, dimension 3').selectOption('content'));
  await act(part(page, 'Days').selectOption('in 13 weeks'));
  await act(part(page, 'What to count, measure 1').selectOption('leads'));
  await act(page.getByLabel('Find by a value in these rows').fill('quillsearch'));
  await expect(table(page).getByRole('columnheader')).toContainText(['Source', 'Medium', 'Content', 'Leads']);
  await expect(page).toHaveURL(/by=source%2Cmedium%2Ccontent/);
  await expect(page).toHaveURL(/find=quillsearch/);
  await expect.poll(() => column(page, 1)).toEqual(expect.arrayContaining(['quillsearch']));
  expect(actions).toBeLessThan(15);
  const shown = await column(page, 4);
  expect(new Set(await column(page, 1))).toEqual(new Set(['quillsearch']));
  await page.reload();
  await ready(page);
  await expect.poll(() => column(page, 4)).toEqual(shown);
  // Only one of each is counted: what is chosen twice is taken for what is not there yet.
  await expect(part(page, 'What to count, measure 2')).not.toHaveValue('leads');
});

test('the parts of every row add up to what stands beneath, whoever is credited, and a file has the same', async ({
  page,
}) => {
  await open(page, '/results?count=leads,qualified&by=campaign&range=weeks13&against=none');
  const sums = async () =>
    numbers(
      await table(page)
        .locator('tfoot td')
        .allInnerTexts()
        .then((all) => all.slice(1, 3)),
    );
  const whole = await sums();
  for (const credit of ['the first touch', 'all touches alike', 'later touches more']) {
    await part(page, 'Who is credited').selectOption(credit);
    await expect(page).not.toHaveURL(/credit=last/);
    await expect(page.getByText('Working it out')).toBeHidden();
    await expect.poll(sums).toEqual(whole);
    const shown = numbers(await column(page, 2));
    expect(Math.abs(shown.reduce((sum, one) => sum + one, 0) - whole[0]!)).toBeLessThan(0.05 * shown.length);
  }
  const address = await page.getByRole('link', { name: 'Export CSV' }).getAttribute('href');
  const text = await page.evaluate(async (path) => (await fetch(path)).text(), address!);
  const [head, ...lines] = text.trim().split('\n');
  expect(head).toBe('"campaign","leads","qualified"');
  expect(lines.map((line) => line.split(',')[0]!.replaceAll('"', ''))).toEqual([
    ...(await column(page, 1)),
    'all together',
  ]);
  const exact = lines.slice(0, -1).map((line) => Number(line.split(',')[1]!.replaceAll('"', '')));
  expect(Math.round(exact.reduce((sum, one) => sum + one, 0) * 1000)).toBe(whole[0]! * 1000);
});

test('a figure opens what is behind it, each with what is credited there, and leads to its trace', async ({ page }) => {
  await open(page, '/results?count=qualified,leads&by=channel&range=weeks13&credit=even');
  const row = table(page).locator('tbody tr').filter({ hasText: 'Paid search' });
  const figure = row.getByRole('link').first();
  const counted = numbers([await figure.innerText()])[0]!;
  await figure.click();
  await ready(page);
  await expect(heading(page)).toHaveText(new RegExp(`^Paid search: ${counted} qualified leads?\\.$`));
  await page.getByRole('region', { name: 'Behind the figure' }).getByRole('link').first().click();
  await expect(page).toHaveURL(/\/leads\//);
  await page.goBack();
  await page.getByRole('link', { name: 'Figures' }).first().click();
  await ready(page);
  await expect(part(page, 'Who is credited')).toHaveValue('even');
});

test('a view is kept under a name, found by it, never written over, and taken out with an undo', async ({ page }) => {
  await open(page, '/results?count=leads&by=content&range=weeks13');
  await page.getByRole('button', { name: 'Save this view' }).click();
  await page.keyboard.type('Leads by content');
  await page.keyboard.press('Enter');
  const saved = page.getByRole('navigation', { name: 'Saved views' });
  await expect(saved.getByRole('link', { name: 'Leads by content' })).toHaveAttribute('aria-current', 'true');
  await part(page, 'By what, dimension 1').selectOption('term');
  await expect(saved.getByRole('link', { name: 'Leads by content' })).not.toHaveAttribute('aria-current', 'true');
  await page.getByRole('button', { name: 'Save this view' }).click();
  await page.keyboard.type('leads by content');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/there is a saved view “leads by content” already/i)).toBeVisible();
  // What was typed stays, to be given another name.
  await expect(page.getByLabel('Name of the view')).toHaveValue('leads by content');
  await page.getByRole('button', { name: 'Cancel' }).click();
  await saved.getByRole('link', { name: 'Leads by content' }).click();
  await ready(page);
  await expect(part(page, 'By what, dimension 1')).toHaveValue('content');
  await page.getByRole('button', { name: 'Take out “Leads by content”' }).click();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(saved.getByRole('link', { name: 'Leads by content' })).toBeVisible();
  await page.getByRole('button', { name: 'Take out “Leads by content”' }).click();
  await expect(saved).toBeHidden();
});

test('something is noted of a day, stands in the course by its number, and is taken out with an undo', async ({
  page,
}) => {
  await open(page, '/results?count=visits&by=channel&range=weeks4');
  await page.getByRole('button', { name: 'Note something of a day' }).click();
  await page.keyboard.type('Prices went up');
  await page.keyboard.press('Enter');
  const notes = page.getByRole('list', { name: 'Notes of these days' });
  await expect(notes.getByRole('listitem')).toHaveText([/^1\s*15 Feb\s*Prices went up$/]);
  await part(page, 'By what, dimension 1').selectOption('source');
  await expect(table(page).getByRole('columnheader').first()).toHaveText('Source');
  await expect(notes).toContainText('Prices went up');
  await page.getByRole('button', { name: 'Take out note 1' }).click();
  await expect(notes).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(notes).toContainText('Prices went up');
  await page.getByRole('button', { name: 'Take out note 1' }).click();
  await expect(notes).toBeHidden();
});

test('chosen days are kept as they are typed, and days without anything say what to do', async ({ page }) => {
  await open(page, '/results');
  await part(page, 'Days').selectOption('in chosen days');
  await page.getByLabel('from', { exact: true }).fill('2020-01-01');
  await page.getByLabel('to', { exact: true }).fill('2020-01-31');
  await expect(heading(page)).toHaveText('Nothing to count in these days.');
  await expect(page.getByText('Choose other days, or something else to count.').first()).toBeVisible();
  await expect(page).toHaveURL(/from=2020-01-01/);
  await page.reload();
  await ready(page);
  await expect(page.getByLabel('from', { exact: true })).toHaveValue('2020-01-01');
});

test('an address that asks for what is not there is taken for what is', async ({ page }) => {
  await open(
    page,
    `/results?count=nothing,visits,visits&by=${'x'.repeat(80)}&credit=position.90.90&sort=nowhere&page=900`,
  );
  await expect(part(page, 'By what, dimension 1')).toHaveValue('channel');
  await expect(part(page, 'What to count, measure 1')).toHaveValue('visits');
  await expect(part(page, 'Who is credited')).toHaveValue('last');
  await expect.poll(() => column(page, 1)).toEqual(expect.arrayContaining(['Paid search']));
});

test('what a campaign brought back of its cost is found from anywhere by three key presses', async ({ page }) => {
  await open(page, '/links/short');
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog', { name: 'Find anything' }).getByRole('combobox')).toBeFocused();
  await page.keyboard.insertText('uk-27q1-fleet-winterproof');
  await expect(page.getByRole('option', { name: /winterproof/ }).first()).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/plan\/campaigns\?campaign=/);
  const brought = page.getByRole('region', { name: 'What it brought' });
  await expect(brought).toContainText(/Return on cost[\s\S]*\d+ %[\s\S]*\d+ % measured/);
  const leads = /Leads\n([\d,.]+)/.exec(await brought.innerText())![1];
  await follow(page, brought.getByRole('link', { name: 'Break it down' }));
  await expect.poll(() => column(page, 1)).toEqual(['uk-27q1-fleet-winterproof']);
  expect(await column(page, 3)).toEqual([leads]);
});

test('a partner’s leads by content are those behind each of its figures', async ({ page }) => {
  await open(page, '/results?count=leads&by=source,content&range=weeks13&against=none&find=baker-weekly');
  const rows = table(page).locator('tbody tr');
  await expect.poll(() => column(page, 1)).not.toEqual([]);
  expect(new Set(await column(page, 1))).toEqual(new Set(['baker-weekly']));
  const [leads] = numbers([await rows.first().getByRole('link').innerText()]);
  await follow(page, rows.first().getByRole('link'));
  await expect(heading(page)).toHaveText(`Baker-weekly, no value: ${leads} leads.`);
  const behind = page.getByRole('region', { name: 'Behind the figure' }).locator('tbody tr');
  await expect(behind).toHaveCount(leads!);
  await behind.first().getByRole('link').click();
  await expect(page.getByRole('main')).toContainText('Baker Weekly');
});

test('figures that take long say how far they are, and are shown once they are there', async ({ page }) => {
  await open(page, '/results?count=leads&by=source&credit=last&range=weeks4&against=none');
  const before = await column(page, 2);
  let tell = () => {};
  const isThere = new Promise<void>((resolve) => (tell = resolve));
  // What the server says until then; the answer is its own.
  await page.route(/results\/figures\/stream\?/, (route) =>
    route.fulfill({
      contentType: 'text/event-stream',
      body: `data: ${JSON.stringify({ progress: { done: 12_000, of: 57_500 } })}\n\n`,
    }),
  );
  await page.route(/results\/figures\?/, async (route) => {
    await isThere;
    await route.continue();
  });
  const asked = page.waitForRequest(/figures\/stream\?.*credit=even/);
  await part(page, 'Who is credited').selectOption('even');
  await asked;
  const progress = page.getByText('Working it out: 12,000 of 57,500 browsers followed back to what brought them …');
  await expect(progress).toBeVisible();
  expect(await column(page, 2)).toEqual(before);
  tell();
  await expect(progress).toBeHidden();
  await expect(page.getByText(/^\d+ \w+ to \d+ \w+, by source\.$/)).toBeVisible();
});
