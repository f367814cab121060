import { expect } from '@playwright/test';
import { follow, letFirstGo, makeKey, pass, paste, Person, signUp } from './person';
import { places, ready, setEvening, test } from './world';

/* A platform and a CRM that Avrix knows nothing of, described by hand until the platform confirms an outcome. */

test.use({ isEmpty: true, actionTimeout: 10_000 });
test.describe.configure({ mode: 'serial', timeout: 240_000 });

const example = {
  record: {
    number: 1042,
    stage: 'Talking',
    updated: '2027-02-14T10:00:00.000Z',
    contact: { name: 'Bo Reed', email: 'bo@reed.example', phone: '' },
    firm: 'Reed Parcel',
    value: 540,
    extra: { click_id: 'p0011', avx_lead: '019bc41a-0c43-73b6-aa70-6ce7ae64bc50' },
  },
};

test('a platform and a CRM described by hand carry a value to its confirmation', async ({ page, browser }) => {
  const person = new Person(page);
  await setEvening(page.context());
  await signUp(person, 'Larkmoor Bikes');
  const { home } = person;
  await paste(person);
  await person.open(`${places.larkmoor}/office`);
  await person.pick('Forms are handed to', 'Plain CRM');
  await person.button('Save');

  // The CRM: what is where in a record, from one example; it sends them sealed with HMAC.
  await person.open(`${home}/connections/crms?new=yes`);
  await person.field('What people call it', 'Plain CRM');
  await person.pick('How it proves itself', 'an HMAC-SHA256 of the body, in hex');
  await person.field('Header of the proof', 'plain-signature');
  await person.field('Where the records are in what it sends', '/record');
  await person.field('An example of a record', JSON.stringify(example));
  await person.button('What /stage is');
  await person.press(page.getByRole('menuitemradio', { name: 'the stage' }));
  await person.button('Read 8 values by their names');
  await person.button('Add to draft');
  await person.settled();
  await person.link('Connect Plain CRM');
  await ready(page);
  await person.field('Address of its API', places.plainCrm);
  await person.button('Connect Plain CRM');
  const hook = (await page.getByTestId('hook').textContent())!;
  const secret = (await page.getByTestId('secret').textContent())!;
  await person.open(places.plainCrm);
  await person.field('Send records to', hook);
  await person.field('Secret', secret);
  await person.button('Save');

  // The ad network: its click ID, its limits, its call and what it answers.
  const key = await makeKey(person, `${places.plainAds}/account`);
  await person.open(`${home}/connections/platforms?new=yes`);
  await person.field('What people call it', 'Plain Ads');
  await person.field('Query names of its click ID', 'pcid');
  await person.field('Source it counts as', 'plain-ads');
  await person.pick('How a repeat is recognised', 'recognised by its event ID');
  await person.field('Path', '/v1/conversions');
  await person.field('Header of the key', 'x-plain-key');
  await person.field('Before the key', '');
  await person.pick('Rows in a call', 'A call has a list of rows');
  await person.field('Where the list of rows is', '/conversions');
  await person.field('Place 1', '/click/id');
  await person.pick('How it answers', 'A word in the answer says it of each row');
  await person.field('Where the answers are', '/results');
  await person.field('Where the event ID is', '/id');
  await person.field('Where it says how it is', '/result');
  await person.field('Means told before', 'duplicate');
  await person.button('Add to draft');
  await person.settled();
  await person.link('Connect an account of Plain Ads');
  await ready(page);
  await person.field('Address of its API', places.plainAds);
  await person.field('Key it knows you by', key);
  await person.button('Connect Plain Ads');
  await person.button('Try Plain Ads');
  await expect(page.getByText('It answers for rows; of this pretend one it said “unknown click”.')).toBeVisible();

  await follow(person);
  await person.open(`${home}/leads/crm`);
  await person.field('Field of the lead token', 'lead_token');
  await page.keyboard.press('Escape');
  for (const stage of ['New', 'Talking', 'Measured', 'Signed']) {
    await person.field('Name of a stage', stage);
    await person.button('Add stage');
  }
  await person.button('Add to draft');
  await person.settled();
  await person.open(`${home}/report-backs?new=yes`);
  await person.pick('Stage', 'Measured');
  await person.field('Code of the outcome', 'FLT-QUAL');
  await person.field('What people call it', 'Fleet assessed');
  await person.pick('What it is worth', 'the amount');
  await person.field('Amount field', 'value');
  await page.keyboard.press('Escape');
  await person.button('Add to draft');
  await person.settled();
  await person.button('Tell Plain Ads of it');
  const telling = page.getByRole('region', { name: 'Telling plain-ads' });
  await person.press(telling.getByRole('button', { name: 'Add to draft' }));
  await expect(telling.getByText('In the draft,')).toBeVisible();
  const qualified = page.getByRole('region', { name: 'Qualified' });
  await person.press(qualified.getByRole('button', { name: 'Add to draft' }));
  await expect(qualified.getByText('In the draft,')).toBeVisible();
  await person.link(/^\d+ not live$/);
  await ready(page);
  await person.field('Call it', 'First set-up');
  await person.button(/^Make \d+ rules live$/);
  await expect(page.getByText(/^Release 2 is live\./)).toBeVisible();

  const visitor = new Person(await (await browser.newContext()).newPage());
  await setEvening(visitor.page.context());
  await expect(async () => {
    await visitor.page.goto(places.plainAds);
    await visitor.page.getByRole('link', { name: 'A bike that carries the morning’s bread' }).click();
    await expect(visitor.page.locator('[name=click_id]')).toHaveValue(/^p/, { timeout: 2000 });
  }).toPass({ timeout: 60_000 });
  await visitor.field('Your name', 'Anna Lamb');
  await visitor.field('Business', 'Otter Bakery');
  await visitor.field('Email', 'anna@otter-bakery.example');
  await visitor.button('Ask for a test ride');

  await expect(async () => {
    await page.goto(places.plainCrm);
    await page.getByLabel('Stage of Otter Bakery').selectOption('Measured', { timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await person.button('Move');
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
    await expect(page.getByRole('heading', { name: 'Every hop made it: Plain Ads confirmed it.' })).toBeVisible({
      timeout: 1500,
    });
  }).toPass({ timeout: 60_000 });
  await page.goto(`${places.plainAds}/account`);
  await expect(page.getByRole('heading', { name: /^1 conversions of/ })).toBeVisible();
  console.log(`described by hand: ${person.actions + visitor.actions} actions`);
  await visitor.page.context().close();
});
