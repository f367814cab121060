import { expect, type Page } from '@playwright/test';
import { makeOthers, open, others, places, ready, signIn, test } from './world';

/* A business made in the interface, beside the demo's; every page of it is there before anything has arrived. */

test.describe.configure({ mode: 'serial' });

const stations = [
  ...[
    '',
    '/leads',
    '/strands?hop=landed',
    '/plan',
    '/plan/names',
    '/plan/channels',
    '/plan/sources',
    '/plan/campaigns',
  ],
  ...['/plan/off-plan', '/plan/share', '/links', '/links/many', '/links/made', '/links/short', '/links/checks'],
  ...['/capture', '/capture/install', '/capture/kept', '/capture/fields', '/capture/forms', '/capture/elsewhere'],
  ...['/connections', '/connections?new=yes', '/connections/platforms?new=yes', '/connections/crms?new=yes'],
  ...[
    '/people',
    '/changes',
    '/leads/records',
    '/leads/crm',
    '/leads/writes',
    '/leads/answers',
    '/leads/import',
    '/leads/segments',
    '/leads/routines',
    '/leads/emails',
    '/leads/emails/set-up',
    '/leads/calls',
    '/leads/calls/set-up',
    '/leads/forms',
    '/leads/repair',
    '/events',
    '/events?new=yes',
    '/events/readings',
    '/events/told',
    '/report-backs',
    '/report-backs?new=yes',
    '/report-backs/queue',
    '/report-backs/subscription',
    '/results',
    '/results?by=campaign,content,day&count=profit,profit_per_visitor&credit=decay.7&range=weeks13',
    '/results/behind?of=leads',
    '/results/just-in',
    '/results/cost',
    '/results?count=cost,cost_per_lead,return_on_cost&by=campaign',
    '/results/visits',
    '/results/visits?lead=with&range=weeks13&by=channel&row=%5B%22%22%5D',
    '/results/months',
    '/results/ripeness',
    '/results/three-counts',
    '/results/three-counts/behind?of=nobody',
    '/results/funnel',
    '/results/funnel/behind?step=1&end=lost',
    '/report-backs/postbacks',
    '/report-backs/postbacks/new',
    '/report-backs/files',
    '/report-backs/compare',
  ],
  ...[
    '/capture/swaps',
    '/capture/no-customer',
    '/capture/arrivals',
    '/not-live',
    '/rehearsals',
    '/releases',
    '/tokens',
    '/you',
  ],
];

async function fillIn(page: Page, name: string, website: string): Promise<void> {
  await page.getByLabel('Name').fill(name);
  await page.getByLabel('Address of its website').fill(website);
}

test('who owns a business makes another one from its name, and has its line at once', async ({ page }) => {
  await signIn(page);
  await open(page, '');
  await page.locator('summary').filter({ hasText: 'Larkmoor Cargo Bikes' }).click();
  await page.getByRole('link', { name: 'Make another business' }).click();
  await ready(page);
  // The browser's own zone is a beginning.
  await expect(page.getByLabel('Time zone its days begin in')).not.toHaveValue('');
  await page.getByRole('button', { name: 'Make business' }).click();
  await expect(page.getByText('must say what it is called')).toBeVisible();
  await fillIn(page, 'Bakery Oriel', 'larkmoor.localhost');
  await page.getByLabel('Currency').fill('EUR');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Make business' }).click();
  // What was typed stays; what is wrong is said of its field.
  await expect(page.getByText(/larkmoor\.localhost belongs to another business here/)).toBeVisible();
  await expect(page.getByLabel('Name')).toHaveValue('Bakery Oriel');
  await page.getByLabel('Address of its website').fill('https://oriel.localhost/bread');
  await expect(page.getByText('Paste the snippet into oriel.localhost.')).toBeVisible();
  await page.getByRole('button', { name: 'Make business' }).click();
  await expect(page).toHaveURL(`${places.avrix}/b/bakery-oriel`);
  await expect(page.getByRole('heading', { name: 'Nothing has arrived yet: paste the snippet first.' })).toBeVisible();
  await page.getByRole('link', { name: 'Install the snippet' }).click();
  await expect(page).toHaveURL(`${places.avrix}/b/bakery-oriel/capture/install`);
  await expect(page.getByText(/<script src=.*\/b\/bakery-oriel\.js/).first()).toBeVisible();
});

test('every page of a business without anything in it opens, and says something', async ({ page }) => {
  const wrong: string[] = [];
  page.on('pageerror', (error) => wrong.push(String(error)));
  await signIn(page);
  for (const path of stations) {
    const answer = await page.goto(`${places.avrix}/b/bakery-oriel${path}`);
    expect(answer!.status(), path).toBe(200);
    // The page about oneself has nothing that reads itself anew.
    if (path !== '/you') await ready(page);
    await expect(page.locator('h1'), path).toHaveText(/\w/);
  }
  expect(wrong).toEqual([]);
});

test('who owns none cannot make one, and sees none of it', async ({ page }) => {
  await makeOthers();
  await signIn(page, others.reader);
  await page.goto(`${places.avrix}/new`);
  await expect(page.getByRole('heading', { name: 'You may not make a business here.' })).toBeVisible();
  const answer = await page.goto(`${places.avrix}/b/bakery-oriel`);
  expect(answer!.status()).toBe(404);
  const said = await page.evaluate(async () => {
    const made = await fetch('/api/businesses', {
      method: 'POST',
      body: JSON.stringify({ name: 'X', website: 'x.example', timeZone: 'UTC', currency: 'EUR' }),
    });
    return [made.status, ((await made.json()) as { code: string }).code];
  });
  expect(said[0]).toBe(403);
});
