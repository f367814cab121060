import { expect, type Page } from '@playwright/test';
import { ask, home, open, places, ready, setEvening, signIn, test } from './world';

const ad = '/fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=winterproof';

/** Types steps into the dock as a person does: each on a line, taken by Enter. */
async function type(page: Page, ...lines: string[]): Promise<void> {
  const field = page.getByRole('combobox', { name: 'Next step' });
  for (const line of lines) {
    await field.fill(line);
    // What is typed is taken, and not what is offered.
    await page.keyboard.press('Escape');
    await field.focus();
    await page.keyboard.press('Enter');
    await expect(field).toHaveValue('');
  }
}
/** Calls for the dock by its key, once it takes keys. */
async function call(page: Page): Promise<void> {
  await ready(page);
  await page.keyboard.press('r');
  await expect(page.getByRole('combobox', { name: 'Next step' })).toBeFocused();
}
const dock = (page: Page) => page.getByRole('region', { name: 'Rehearse' });

test('a pretend visitor is walked from any page by `r`, hop by hop, and nothing is sent', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await open(page, '');
  await call(page);
  await type(page, ad, 'send test-ride bikes=3', 'wait 9 days', 'stage Fleet assessed');
  const panel = dock(page);
  await expect(panel.getByRole('heading', { level: 2 })).toHaveText(
    'Every hop holds: Quillsearch would be told FLT-QUAL.',
  );
  await expect(panel.getByRole('row', { name: /^click ID/ })).toContainText('Rehearsed1');
  const steps = panel.getByRole('list', { name: 'Steps' });
  await expect(steps).toContainText('enquiry_sent went off');
  await expect(steps).toContainText('Meterhall is told fleet/ask/test-ride');
  const sent = panel.getByRole('region', { name: 'What would be sent' });
  await sent.getByText(/^Quillsearch.* is told FLT-QUAL/).click();
  await expect(sent.getByText('"visit_key": "Rehearsed1"')).toBeVisible();
  // The page’s own fault is seen before anybody runs into it.
  await panel.getByRole('button', { name: 'send test-ride bikes=3' }).click();
  await type(page, 'send call-back');
  await expect(panel.getByRole('heading', { level: 2 })).toHaveText('The click ID stopped at the CRM.');
  await expect(steps).toContainText('is not told FLT-QUAL');
  // Another page goes on with it.
  await open(page, '/leads');
  await expect(dock(page).getByRole('list', { name: 'Steps' })).toContainText('send call-back');
  // In a browser that caps cookies at 7 days the way back is another visitor's.
  await dock(page).getByRole('button', { name: 'Clear' }).click();
  await dock(page).getByRole('button', { name: 'Bring back what was here' }).click();
  await expect(dock(page).getByRole('list', { name: 'Steps' })).toContainText('send call-back');
  await dock(page).getByRole('button', { name: 'Clear' }).click();
  await type(page, ad, 'wait 9 days', 'come back to /fleet', 'send test-ride');
  await dock(page)
    .getByRole('button', { name: /^In a browser that/ })
    .click();
  await page.getByRole('menuitemcheckbox', { name: /ends script cookies after 7 days/ }).click();
  await page.keyboard.press('Escape');
  await expect(dock(page).getByRole('heading', { level: 2 })).toHaveText('Where this enquiry came from is not known.');
  await expect(dock(page)).toContainText('Cookies of this browser had ended since the page before.');
  // Somebody who sees through a page meanwhile goes on rehearsing.
  await open(page, '/try');
  await page.getByRole('button', { name: 'See through by what is live' }).click();
  await expect(page.getByRole('button', { name: 'End the trial' })).toBeVisible();
  await open(page, '/leads');
  await expect(dock(page).getByRole('heading', { level: 2 })).toHaveText('Where this enquiry came from is not known.');
  await dock(page).getByRole('button', { name: 'Look at your own browser' }).click();
  await expect(dock(page)).toContainText('Your tab works by what is live.');
  await dock(page).getByRole('button', { name: 'Back to the rehearsal' }).click();
  await expect(dock(page).getByRole('heading', { level: 2 })).toHaveText('Where this enquiry came from is not known.');
  await open(page, '/try');
  await page.getByRole('button', { name: 'End the trial' }).click();
  await expect(page.getByRole('button', { name: 'See through by what is live' })).toBeVisible();
});

test('it is walked for real: each hop is ticked as it happens, nothing is counted, and all of it is cleaned up', async ({
  context,
}) => {
  await setEvening(context);
  const page = await context.newPage();
  await signIn(page);
  await open(page, '/leads');
  const leads = await page.getByRole('heading', { level: 1 }).textContent();
  await call(page);
  await type(page, `${ad}&qsid=Qs-walked`);
  const panel = dock(page);
  await panel.getByRole('button', { name: 'Walk it for real' }).click();
  const opened = context.waitForEvent('page');
  await panel.getByRole('link', { name: 'Open the page' }).click();
  const site = await opened;
  await expect(site).toHaveURL(/utm_campaign=winterproof/);
  const walk = panel.getByRole('region', { name: 'Walk it for real' });
  await expect(walk.getByRole('row', { name: /^click ID/ })).toContainText('Qs-walked');
  await site.getByLabel('Name').fill('A walker');
  await site.getByLabel('Email').fill('walker@larkmoor.example');
  await site.getByRole('button', { name: 'Ask for a test ride' }).click();
  await expect(site.getByText('Thank you, we have it')).toBeVisible();
  await expect(walk).toContainText('enquiry_sent went off.');
  await expect(walk.getByText(/^The CRM made the record D-\d+\.$/)).toBeVisible({ timeout: 30_000 });
  await site.close();
  await walk.getByRole('button', { name: 'End and clean up' }).click();
  await expect(panel.getByText(/^The record D-\d+ was taken out of Oakledger/)).toBeVisible();
  const deal = /D-\d+/.exec((await panel.getByText(/was taken out of/).textContent())!)![0];
  expect((await ask(`${places.oakledger}/deals/${deal}`)).status).toBe(404);
  await open(page, '/leads');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(leads!);
});

test('what is being written is rehearsed, and a saved rehearsal stops a release that breaks it', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await page.goto(`${home}/events?event=enquiry_sent`);
  await ready(page);
  await call(page);
  await type(page, ad, 'send test-ride');
  const panel = dock(page);
  const expected = panel.getByLabel('enquiry_sent goes off once');
  await expected.check();
  await panel.getByLabel('Save it as').fill('A test ride is an enquiry');
  await panel.getByRole('button', { name: 'Save rehearsal' }).click();
  await expect(panel.getByText('Saved: it runs before each release.')).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();

  await page.getByRole('combobox', { name: 'Form, cue 1' }).fill('test-ride-nl');
  await page.keyboard.press('Escape');
  await panel.getByRole('button', { name: 'Rehearse' }).click();
  await expect(panel.getByText('enquiry_sent does not go off, which was expected otherwise')).toBeVisible();
  // What is live is as it was.
  await panel.getByRole('button', { name: 'by the draft' }).click();
  await page.getByRole('menuitemradio', { name: 'what is live' }).click();
  await expect(panel.getByLabel('enquiry_sent goes off once')).toBeChecked();
  await panel.getByRole('button', { name: 'by what is live' }).click();
  await page.getByRole('menuitemradio', { name: 'the draft' }).click();
  await expect(panel.getByText('enquiry_sent does not go off, which was expected otherwise')).toBeVisible();
  await panel.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByText('In the draft,')).toBeVisible();

  await open(page, '/not-live');
  const saved = page.getByRole('region', { name: 'Saved rehearsals' });
  await expect(saved).toContainText(
    'Stops it: “A test ride is an enquiry”. Expected: enquiry_sent goes off once. Now: enquiry_sent does not go off.',
  );
  await page.getByLabel('Call it').fill('Dutch form alone');
  const live = page.getByRole('button', { name: 'Make it live' });
  await expect(live).toBeDisabled();
  // An owner may overrule it with a reason, which stays with the release.
  await page.getByLabel('Make it live all the same, because').fill('The old form goes today');
  await live.click();
  await expect(page.getByText(/^Release \d+ is live\./)).toBeVisible();
  await open(page, '/rehearsals');
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('1 saved rehearsal would stop the next release.');
  await page.getByRole('button', { name: 'Retire A test ride is an enquiry' }).click();
  await expect(page.getByText('does not run before releases any more')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Open A test ride is an enquiry' }).click();
  await expect(dock(page)).toContainText('enquiry_sent does not go off, which was expected otherwise');
});
