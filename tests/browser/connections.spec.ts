import { expect, type Page } from '@playwright/test';
import { home, open, places, ready, setEvening, signIn, test } from './world';

/* What is behind a business's name: its connections, its people, what was changed. */

const list = (page: Page) => page.getByRole('navigation', { name: 'Connections' });

test.describe.configure({ mode: 'serial' });

test('a key that is refused is said in words, on every page, until another one is entered', async ({
  page,
  context,
}) => {
  await setEvening(context);
  await signIn(page);
  await open(page, '/connections');
  await list(page)
    .getByRole('link', { name: /^Quillsearch/ })
    .click();
  const sheet = page.getByRole('form', { name: 'Change it' });
  await sheet.getByLabel('Another key').fill('not-a-key-of-ours');
  await sheet.getByRole('button', { name: 'Save changes' }).click();
  // What was entered as a key is not kept on the screen.
  await expect(sheet.getByLabel('Another key')).toHaveValue('');
  await page.getByRole('button', { name: /^Try Quillsearch/ }).click();
  await expect(page.getByText(/refuses the key \(401\)\. Make a new key at Quillsearch/).first()).toBeVisible();
  await expect(page.getByText('Bearer ••••••')).toBeVisible();
  await expect(async () => {
    await open(page, '/plan');
    await expect(page.getByRole('link', { name: 'Quillsearch, Larkmoor Cargo Bikes is broken' })).toBeVisible({
      timeout: 1000,
    });
  }).toPass({ timeout: 60_000 });
  await page.getByRole('link', { name: 'Quillsearch, Larkmoor Cargo Bikes is broken' }).click();
  await ready(page);
  await expect(
    page.getByRole('heading', { name: 'Quillsearch, Larkmoor Cargo Bikes refuses the key (401).' }),
  ).toBeVisible();

  const service = await context.newPage();
  await service.goto(`${places.quillsearch}/account`);
  await service.getByRole('button', { name: 'Make a key' }).click();
  const key = (await service.locator('#key').textContent())!;
  await service.close();
  await list(page)
    .getByRole('link', { name: /^Quillsearch/ })
    .click();
  await sheet.getByLabel('Another key').fill(key);
  await sheet.getByRole('button', { name: 'Save changes' }).click();
  await expect(sheet.getByLabel('Another key')).toHaveValue('');
  await page.getByRole('button', { name: /^Try Quillsearch/ }).click();
  await expect(page.getByText(/^It answers for rows/)).toBeVisible();
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('an account is paused and goes on; one that is typed wrong keeps what was typed', async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
  await open(page, '/connections');
  await list(page)
    .getByRole('link', { name: /^Wrenwick/ })
    .click();
  await page.getByRole('button', { name: /^Pause Wrenwick/ }).click();
  await expect(page.getByText('While it is paused, what would be told is held.')).toBeVisible();
  await page.getByRole('button', { name: /^Let Wrenwick/ }).click();
  await expect(page.getByRole('button', { name: /^Pause Wrenwick/ })).toBeVisible();
  await page.keyboard.press('n');
  await page.getByRole('combobox', { name: 'What to connect' }).selectOption('oakledger');
  await page.getByLabel('Address of its API').fill('oakledger.example');
  await page.getByLabel('What people call it').fill('Our other CRM');
  await page.getByRole('button', { name: 'Connect Oakledger' }).click();
  await expect(page.getByText(/must be an address such as https:\/\/api\.example/i)).toBeVisible();
  await page.reload();
  await ready(page);
  await page.getByRole('combobox', { name: 'What to connect' }).selectOption('oakledger');
  await expect(page.getByLabel('What people call it')).toHaveValue('Our other CRM');
});

test('somebody is invited by a link, joins with a name and password of their own, and sees what they may', async ({
  page,
  browser,
}) => {
  await signIn(page);
  await open(page, '/people');
  await page.getByLabel('Email').fill('anna@bakery.example');
  await page.getByRole('combobox', { name: 'As', exact: true }).selectOption('reader');
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = (await page.getByTestId('invitation').textContent())!;
  const other = await (await browser.newContext()).newPage();
  await other.goto(link);
  await expect(other.getByRole('heading', { name: 'Owner invites you to Larkmoor Cargo Bikes.' })).toBeVisible();
  await ready(other);
  await other.getByLabel('Your name').fill('Anna Pell');
  await other.getByLabel(/^A password of your own/).fill('short');
  await other.getByRole('button', { name: 'Join' }).click();
  await expect(other.getByText(/must have at least 12 characters/i)).toBeVisible();
  await other.getByLabel(/^A password of your own/).fill('a password of hers');
  await other.getByRole('button', { name: 'Join' }).click();
  await expect(other).toHaveURL(/\/sign-in/);
  await other.getByLabel('Password').fill('a password of hers');
  await other.getByRole('button', { name: 'Sign in' }).click();
  await expect(other).toHaveURL(home);
  await other.goto(`${home}/connections`);
  await ready(other);
  await expect(other.getByRole('button', { name: /Connect a platform/ })).toHaveCount(0);
  await other.goto(link);
  await expect(other.getByRole('heading', { name: /was taken up already/ })).toBeVisible();
  await other.context().close();

  await page.reload();
  await ready(page);
  const row = page.getByRole('row', { name: /Anna Pell/ });
  await row.getByLabel('Anna Pell sees money').click();
  await expect(row.getByLabel('Anna Pell sees money')).not.toBeChecked();
  await open(page, '/changes?find=Anna');
  await expect(page.getByRole('cell', { name: 'reader, sees people', exact: true })).toBeVisible();
});
