import { expect } from '@playwright/test';
import { follow, letFirstGo, makeKey, pass, paste, Person, signUp } from './person';
import { places, ready, setEvening, test } from './world';

/* An installation in which nobody has made anything, set up by hand until a platform confirms an outcome. */

test.use({ isEmpty: true, actionTimeout: 10_000 });
test.describe.configure({ mode: 'serial', timeout: 180_000 });

test('from an empty installation to a confirmed outcome, in under 60 actions', async ({ page, browser }) => {
  const person = new Person(page);
  await setEvening(page.context());
  await signUp(person, 'Larkmoor Bikes');
  const { home } = person;
  await paste(person);

  // The CRM: a key from it, and its webhook's address and secret to it.
  const token = await makeKey(person, `${places.oakledger}/programs`);
  await person.open(`${home}/connections?new=yes`);
  await person.pick('What to connect', 'Oakledger');
  await person.field('Address of its API', places.oakledger);
  await person.field('Key it knows you by', token);
  await person.button('Connect Oakledger');
  const hook = (await page.getByTestId('hook').textContent())!;
  const secret = (await page.getByTestId('secret').textContent())!;
  await person.open(`${places.oakledger}/programs`);
  await person.field('Address', hook);
  await person.field('Secret', secret);
  await person.button('Save');

  // The platform: a key from its account, and the outcome made known there.
  const key = await makeKey(person, `${places.quillsearch}/account`);
  await person.open(`${places.quillsearch}/account`);
  await person.field('Add one', 'FLT-QUAL');
  await person.button('Make');
  await person.open(`${home}/connections?new=yes`);
  await person.pick('What to connect', 'Quillsearch');
  await person.field('Address of its API', places.quillsearch);
  await person.field('Key it knows you by', key);
  await person.button('Connect Quillsearch');
  await person.button('Try Quillsearch');
  await expect(page.getByText(/It answers for rows; of this pretend one it said/)).toBeVisible();

  // The form, once its page was opened: what it sends counts, and its field gets the click ID.
  await follow(person);

  // What the CRM's fields hold, and its stages.
  await person.open(`${home}/leads/crm`);
  await person.button(/^Take its \d stages$/);
  await person.button('Add to draft');
  await person.settled();

  // The outcome, and who is told of it.
  await person.open(`${home}/report-backs?new=yes`);
  await person.pick('Stage', 'Fleet assessed');
  await person.field('Code of the outcome', 'FLT-QUAL');
  await person.field('What people call it', 'Fleet assessed');
  await person.button('Add to draft');
  await person.settled();
  await person.button('Tell Quillsearch of it');
  await person.press(
    page.getByRole('region', { name: 'Telling quillsearch' }).getByRole('button', { name: 'Add to draft' }),
  );
  await expect(page.getByRole('region', { name: 'Telling quillsearch' }).getByText('In the draft,')).toBeVisible();
  await person.press(page.getByRole('region', { name: 'Qualified' }).getByRole('button', { name: 'Add to draft' }));
  await expect(page.getByRole('region', { name: 'Qualified' }).getByText('In the draft,')).toBeVisible();

  await person.link(/^\d+ not live$/);
  await expect(page).toHaveURL(/\/not-live$/);
  await ready(page);
  await person.field('Call it', 'First set-up');
  await person.button(/^Make \d+ rules live$/);
  await expect(page.getByText(/^Release 2 is live\./)).toBeVisible();

  // Somebody clicks an ad and asks for a test ride.
  const visitor = new Person(await (await browser.newContext()).newPage());
  await setEvening(visitor.page.context());
  await visitor.page.goto(places.quillsearch);
  await expect(async () => {
    await visitor.page.goto(places.quillsearch);
    await visitor.page.getByRole('link', { name: 'Cargo bikes that start on ice' }).click();
    await expect(visitor.page.locator('[name=click_id]')).toHaveValue(/^Qs/, { timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  await visitor.field('Your name', 'Anna Lamb');
  await visitor.field('Business', 'Otter Bakery');
  await visitor.field('Email', 'anna@otter-bakery.example');
  await visitor.button('Ask for a test ride');

  // Sales moves the deal; Avrix sees it, counts it, tells it once its time has come.
  await expect(async () => {
    await page.goto(`${places.oakledger}/?find=Otter`);
    await page.getByRole('link', { name: /^D-/ }).click({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await person.press(page.getByRole('button', { name: /Fleet assessed/ }));
  await expect(async () => {
    await page.goto(`${home}/leads`);
    await page.getByRole('link', { name: 'Otter Bakery' }).click({ timeout: 1000 });
    await expect(page.getByText('Counted').first()).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  const trace = page.url();
  await letFirstGo(person);
  await pass(4, [page, visitor.page]);
  await expect(async () => {
    await page.goto(trace);
    await expect(page.getByRole('heading', { name: /confirmed it/ })).toBeVisible({ timeout: 1500 });
  }).toPass({ timeout: 60_000 });
  const actions = person.actions + visitor.actions;
  console.log(`from an empty installation to Confirmed: ${actions} actions`);
  expect(actions).toBeLessThan(60);
  await visitor.page.context().close();
});
