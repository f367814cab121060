import { expect } from '@playwright/test';
import { pass } from './person';
import { open, places, setEvening, signIn, test } from './world';

test.describe.configure({ mode: 'serial' });
test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('what the social platform kept too short is said to be gone, a test lead is left out, and the chat that passes none on is named', async ({
  page,
}) => {
  await open(page, '/leads/forms');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'All 17 leads fetched from platforms’ own forms are in the CRM.',
  );
  await expect(page.getByText('3 were gone before they were fetched. 1 test lead is left out.')).toBeVisible();
  await expect(page.getByText(/Tessaloop passes no test lead on that is made in the chat\./)).toBeVisible();
  const fetched = page.getByRole('region', { name: 'Fetched' });
  await expect(fetched.getByRole('row').filter({ hasText: 'test lead, not counted' })).toHaveCount(1);
  await fetched.getByRole('button', { name: 'Sent there' }).click();
  const [gone] = await fetched.getByRole('row').filter({ hasText: 'gone before it was fetched' }).all();
  await gone!.getByRole('link', { name: 'not fetched' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'What this person sent was gone before it was fetched.',
  );
  await expect(page.getByText('Tessaloop keeps what people sent for 60 days')).toBeVisible();
});

test('they have a line of their own, whose loss opens its rows', async ({ page }) => {
  await open(page, '?way=lead_form&range=own&from=2026-11-20&to=2027-02-15');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(
    'Of 20 leads sent on platforms’ own forms, 17 are in the CRM with what they came by.',
  );
  const line = page.getByRole('table', { name: 'The line: strands at each hop' });
  await expect(line.getByRole('rowheader')).toHaveText([
    'Sent there',
    'Fetched',
    'In CRM',
    'Qualified',
    'Told',
    'Confirmed',
  ]);
  const losses = page.getByRole('region', { name: 'Losses' });
  const gone = losses.getByRole('row').filter({ hasText: 'keeps what people sent for 60 days' });
  await gone.getByRole('link', { name: '3', exact: true }).click();
  await expect(page.getByRole('row').filter({ hasText: 'Sent there' })).toHaveCount(3);
});

test('a form that is sent in the feed is fetched within minutes, made a record of in the CRM, and found', async ({
  page,
  context,
}) => {
  const feed = await context.newPage();
  await feed.goto(places.tessaloop);
  await feed.getByRole('link', { name: 'Leave your details here' }).first().click();
  await feed.getByLabel('Name').fill('Isla Farrow');
  await feed.getByLabel('Company').fill('Farrow Flour');
  await feed.getByLabel('Email').fill('isla@farrow-flour.example');
  await feed.getByRole('button', { name: 'Send to Larkmoor Cargo Bikes' }).click();
  await expect(feed.getByRole('heading', { name: 'Sent' })).toBeVisible();
  // A test in the chat is thanked for and goes nowhere.
  await feed.goto(`${places.tessaloop}/form/F-1?place=chat`);
  await feed.getByLabel('Name').fill('Chat Test');
  await feed.getByLabel('Email').fill('chat@larkmoor.example');
  await feed.getByLabel('This is a test lead').check();
  await feed.getByRole('button', { name: 'Send to Larkmoor Cargo Bikes' }).click();
  await expect(feed.getByRole('heading', { name: 'Sent' })).toBeVisible();
  await feed.close();
  await pass(0.2, [page]);
  const row = page.getByRole('region', { name: 'Fetched' }).getByRole('row').filter({ hasText: 'Farrow Flour' });
  await expect(async () => {
    await open(page, '/leads/forms');
    await expect(row).toContainText(/in the CRM D-\d+/, { timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await expect(page.getByText('Chat Test')).toHaveCount(0);
  await row.getByRole('link', { name: 'Farrow Flour' }).click();
  await expect(page.getByText('Sent “A test ride at your door” on Tessaloop, from the ad rain-still')).toBeVisible();
  await expect(page.getByRole('row', { name: /^click ID tl-.* same same/ })).toBeVisible();
});

test('fetching is stopped and begun again by keys alone, and the forms’ links get our tags beside their own', async ({
  page,
}) => {
  await open(page, '/leads/forms');
  await page.getByRole('button', { name: 'Add tags to 2 links' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText('All of them carry our tags.')).toBeVisible();
  await expect(
    page.getByText(/guide\?utm_content=thank-you&utm_source=tessaloop&utm_medium=paid-social.*#contents/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Stop fetching' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('What is fetched').selectOption('what is sent from now on');
  await page.getByLabel('Consent').selectOption('agree on the form that');
  await page.getByRole('button', { name: 'Fetch leads' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Fetched: what is sent since .*, set by Owner/)).toBeVisible();
  await page.reload();
  await expect(page.getByText('People agree on the form that platforms may be told what comes of it.')).toBeVisible();
});
