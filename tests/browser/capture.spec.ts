import { expect, type Page } from '@playwright/test';
import { makeOthers, open, others, places, ready, release, setEvening, signIn, test } from './world';

/** Everything that this browser keeps of a visitor. */
const kept = (visitor: Page) =>
  visitor.evaluate(
    () =>
      document.cookie +
      Object.keys(localStorage)
        .filter((key) => key.startsWith('avx_'))
        .join(),
  );

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('the station names the faults that the demo’s traffic shows, each with its count and its mend', async ({
  page,
}) => {
  await open(page, '/leads');
  await page.keyboard.press('g');
  await page.keyboard.press('3');
  await expect(page).toHaveURL(/\/capture$/);
  const faults = page.getByRole('region', { name: 'Faults' });
  const row = (words: string | RegExp) => faults.getByRole('row').filter({ hasText: words });
  await expect(row('The form “Ask for a call back”: it sends the click ID as click_ref')).toContainText(
    'Rename the field and its rule to click_id.',
  );
  await expect(row(/\d+ arrivals from paid clicks came without qsid/)).toContainText(
    'Put a carry name into the links of',
  );
  await expect(row(/\d+ arrivals carried a mail address or a name in email/)).toContainText('larkmoor.localhost/fleet');
  await expect(row('tagged with the medium banner')).toContainText('Take the tags out of the link');
  await expect(row(/\d+ arrivals the platform left ~ad-name~ unfilled in utm_content/)).toContainText(
    'Correct the placeholder',
  );
  await expect(row(/came from larkmoor\.localhost\/guide, which reported nothing/)).toContainText('Paste the snippet');
  await expect(row('The snippet is on larkmoor.localhost/fleet/lease twice')).toContainText('Take out all but one');
  await expect(row(/WebKit forget visitors after 7 days/)).toContainText(
    'Let the website’s own subdomain set the cookies',
  );
  await expect(page.getByText(/The carry name lark_key saved the click ID of \d+ arrivals/)).toBeVisible();
});

test('what arrives on a page that is left before the snippet’s next task is kept and told', async ({ context }) => {
  await setEvening(context);
  const visitor = await context.newPage();
  const sent: string[] = [];
  visitor.on('request', (request) => {
    if (request.url().includes('/take/')) sent.push(request.postData() ?? '');
  });
  // No task of the first page’s ever has its turn.
  await visitor.addInitScript(() => {
    if (location.search.includes('left-at-once')) globalThis.setTimeout = (() => 0) as never;
  });
  await visitor.goto(`${places.larkmoor}/fleet?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=left-at-once`);
  await visitor.goto(`${places.larkmoor}/shop`);
  expect(await kept(visitor)).toContain('left-at-once');
  await expect.poll(() => sent.join()).toContain('utm_campaign=left-at-once');
});

test('a mail address in a link leaves neither the page nor anything in its cookies', async ({ context }) => {
  const visitor = await context.newPage();
  const sent: string[] = [];
  visitor.on('request', (request) => {
    if (request.url().includes('/take/')) sent.push(request.postData() ?? '');
  });
  await visitor.goto(
    `${places.larkmoor}/fleet?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=x&email=anna%2540bakery.example#to=anna@bakery.example`,
  );
  await expect.poll(() => sent.join()).toContain('"kind":"arrived"');
  expect(sent.join()).not.toContain('anna');
  expect(sent.join()).toContain('{"place":"query","name":"email","kind":"mail"}');
  const stored = await visitor.evaluate(() => document.cookie + JSON.stringify(localStorage));
  expect(stored).toContain('larkmoor-letter');
  expect(stored).not.toContain('anna');
  await visitor.close();
});

test('a click ID whose name the browser took out is restored from its carry name, before the form is filled', async ({
  browser,
}) => {
  const context = await browser.newContext();
  await setEvening(context);
  const visitor = await context.newPage();
  const tags = 'utm_source=quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof';
  await visitor.goto(`${places.larkmoor}/fleet?${tags}&lark_key=Qs-carried-over`);
  await expect(visitor.locator('[name=click_id]')).toHaveValue('Qs-carried-over');
  await visitor.goto(`${places.larkmoor}/fleet?${tags}&qsid=Qs-real&lark_key=Qs-other`);
  await expect(visitor.locator('[name=click_id]')).toHaveValue('Qs-real');
  await context.close();
});

test('a form that appears late is filled, and one that was never sent is seen and judged', async ({
  page,
  browser,
}) => {
  const context = await browser.newContext();
  await setEvening(context);
  const visitor = await context.newPage();
  await visitor.goto(`${places.larkmoor}/care?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=late`);
  await visitor.evaluate(() => {
    const form = document.createElement('form');
    form.name = 'late-form';
    form.innerHTML = '<input type="hidden" name="source"><input type="hidden" name="utm_term"><input name="mail">';
    document.body.append(form);
  });
  await expect(visitor.locator('form[name=late-form] [name=source]')).toHaveValue('larkmoor-letter');
  await expect(async () => {
    await open(page, '/capture/forms');
    await expect(page.getByRole('region', { name: 'late-form', exact: true })).toContainText('Not followed', {
      timeout: 500,
    });
  }).toPass();
  const form = page.getByRole('region', { name: 'late-form', exact: true });
  await expect(form).toContainText('Nothing fills the hidden field utm_term.Fill it with the term.');
  await form.getByRole('button', { name: 'Count its sendings as enquiries' }).click();
  await expect(form).toContainText('It has no hidden field avx_lead');
  await expect(page.getByRole('link', { name: '1 not live' })).toBeVisible();
  await form.getByRole('link', { name: 'Write a rule' }).click();
  await page.waitForURL(/capture\/fields/);
  await ready(page);
  await expect(page.getByLabel('Field', { exact: true })).toHaveValue('utm_term');
  // What its name asks for is offered, for the form that was looked at.
  await expect(page.getByLabel('Reading')).toHaveValue('last_term');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByRole('link', { name: '2 not live' })).toBeVisible();
  await open(page, '/not-live');
  await expect(page.getByText('The field utm_term of late-form gets the term.')).toBeVisible();
  await expect(page.getByText('Each sending of the form late-form is an enquiry, called late-form.')).toBeVisible();
  await page.getByRole('button', { name: 'Drop them all' }).click();
  await expect(page.getByRole('heading', { name: 'Everything is live.' })).toBeVisible();
  await context.close();
});

test('fields of a frame of the same origin are filled too', async ({ browser }) => {
  const context = await browser.newContext();
  await setEvening(context);
  const visitor = await context.newPage();
  await visitor.goto(`${places.larkmoor}/shop?utm_source=larkmoor-letter&utm_medium=email&utm_campaign=frame`);
  await visitor.evaluate(() => {
    const frame = document.createElement('iframe');
    document.body.append(frame);
    frame.contentDocument!.body.innerHTML = '<form name="framed"><input type="hidden" name="campaign"></form>';
    document.body.append(document.createElement('p'));
  });
  await expect(visitor.frameLocator('iframe').locator('[name=campaign]')).toHaveValue('frame');
  await context.close();
});

test('a fill rule shows what it would have put into the forms that were sent, and what it just missed', async ({
  page,
}) => {
  await open(page, '/capture/fields');
  const effect = page.getByRole('region', { name: 'Effect' });
  await expect(effect).toContainText(/Would have filled \d+ of \d+ forms sent/);
  await page.locator('h1').click();
  await page.keyboard.press('n');
  await page.getByLabel('Field', { exact: true }).fill('click_id');
  await page.getByLabel('Forms').fill('call-back');
  await page.getByLabel('Reading').selectOption({ label: 'the click ID' });
  await expect(effect).toContainText(/Just missed \d+: the form call-back has click_ref\./);
  await effect.getByRole('button', { name: 'Take it in' }).click();
  await expect(page.getByLabel('Field', { exact: true })).toHaveValue('click_ref');
  await expect(effect).toContainText(/Would have filled [1-9]\d* of \d+ forms sent/);
});

test('a shorter life of touches shows how many enquiries would have lost theirs', async ({ page }) => {
  await open(page, '/capture/kept');
  const effect = page.getByRole('region', { name: 'Effect' });
  await expect(effect).toContainText(/Of \d+ enquiries in 13 weeks/);
  await page.getByLabel('Days a click ID is kept').first().fill('1');
  const cells = effect.getByRole('definition');
  await expect(async () => {
    const [, , live, after] = await cells.allTextContents();
    expect(Number(after)).toBeLessThan(Number(live));
  }).toPass();
  await page.getByLabel('Days a click ID is kept').first().fill('500');
  await page.getByRole('button', { name: 'Add to draft' }).click();
  await expect(page.getByRole('alert')).toContainText('must be 1 to 400 days');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByLabel('Days a click ID is kept').first()).toHaveValue('90');
});

test('how long a platform’s click ID is kept is changed, and a carry name is taken out, in the draft only', async ({
  page,
}) => {
  await open(page, '/capture/kept');
  const rule = page.getByRole('region', { name: 'Click ID of Tessaloop' });
  await expect(rule.getByLabel('Query name of the click ID')).toHaveValue('tsl');
  await rule.getByLabel('Days a click ID is kept').fill('14');
  await rule.getByRole('button', { name: 'Add to draft' }).click();
  await expect(rule.getByText('In the draft,')).toBeVisible();
  await page.getByRole('region', { name: 'Carry names' }).getByRole('button', { name: 'Take the name out' }).click();
  await expect(page.getByText('No carry name is known')).toBeVisible();
  await open(page, '/capture/fields');
  await expect(page.getByLabel('Whose, or which')).toHaveValue('');
  await open(page, '/not-live');
  await expect(page.getByText('The click ID of Tessaloop comes as tsl and is kept 14 days')).toBeVisible();
  await expect(page.getByText('The click ID of Quillsearch also travels as lark_key.')).toBeVisible();
  await page.getByRole('button', { name: 'Drop them all' }).click();
  await expect(page.getByRole('heading', { name: 'Everything is live.' })).toBeVisible();
});

test('the line is copied, and the pages where it was seen are listed', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await open(page, '/capture/install');
  await page.locator('h1').click();
  await page.keyboard.press('c');
  await expect
    .poll(() => page.evaluate(() => navigator.clipboard.readText()))
    .toMatch(/^<script src="http:\/\/avrix-edge\.localhost:\d+\/b\/larkmoor\.js" async><\/script>$/);
  await expect(page.getByRole('row').filter({ hasText: 'larkmoor.localhost/fleet/call-back' })).toContainText('seen');
  await expect(page.getByRole('region', { name: 'Email for your developer' })).toContainText(
    'this snippet goes into the head of every page of larkmoor.localhost',
  );
});

test('an empty business is told to install the line, and finds no fault', async ({ page, context }) => {
  await makeOthers();
  await context.clearCookies();
  await signIn(page, others.stranger);
  await page.goto(`${places.avrix}/b/otherby/capture`);
  await expect(page.getByRole('heading', { name: 'No page has reported yet.' })).toBeVisible();
  await page.getByRole('link', { name: 'Install the snippet' }).click();
  await expect(
    page.getByRole('heading', { name: 'Paste the snippet into every page of otherby.localhost.' }),
  ).toBeVisible();
});

test.describe('where consent is required', () => {
  const makeLive = async (page: Page, choice: string, name: string, count?: string) => {
    await open(page, '/capture/kept');
    await page.getByLabel('Before consent').selectOption({ label: choice });
    if (count) await page.getByLabel('Who did not agree').selectOption({ label: count });
    await page.getByRole('button', { name: 'Add to draft' }).click();
    await release(page, name);
  };
  const say = (visitor: Page, measurement: string) =>
    visitor.evaluate((detail) => document.dispatchEvent(new CustomEvent('avrix:consent', { detail })), {
      measurement,
      advertising: measurement,
    });

  test('nothing is kept or sent before “yes”, nothing is lost by waiting, and “no” clears it', async ({
    page,
    browser,
  }) => {
    await makeLive(
      page,
      'nothing before somebody agreed to measurement',
      'Ask first',
      'counted without any identifier',
    );
    const context = await browser.newContext();
    await setEvening(context);
    const visitor = await context.newPage();
    const sent: string[] = [];
    const answers: number[] = [];
    visitor.on('request', (request) => {
      if (request.url().includes('/take/')) sent.push(request.postData() ?? '');
    });
    visitor.on('response', (answer) => {
      if (answer.url().includes('/take/')) answers.push(answer.status());
    });
    const letter = 'utm_source=larkmoor-letter&utm_medium=email';
    // Who leaves without a word is a count, and nothing else.
    await visitor.goto(`${places.larkmoor}/fleet/lease?${letter}&utm_campaign=unasked`);
    await visitor.waitForLoadState('networkidle');
    // Nothing goes along to other places either.
    await expect(visitor.getByRole('link', { name: 'See a sample offer' })).toHaveAttribute('href', /\/offer$/);
    await visitor.goto(`${places.larkmoor}/fleet?${letter}&utm_campaign=asked`);
    await visitor.waitForLoadState('networkidle');
    await say(visitor, 'not asked');
    expect(await kept(visitor)).toBe('');
    expect(sent).toEqual([]);

    await say(visitor, 'yes');
    await expect(visitor.locator('[name=campaign]')).toHaveValue('asked');
    await expect.poll(() => sent.join()).toContain('"consent":{"measurement":"yes","advertising":"yes"}');
    expect(await kept(visitor)).toContain('avx_last');

    await say(visitor, 'no');
    expect(await kept(visitor)).toBe('');
    await expect.poll(() => sent.join()).toContain('"kind":"consent"');
    await expect.poll(() => answers.length).toBeGreaterThan(1);
    expect(new Set(answers), 'nothing of it was refused').toEqual(new Set([204]));
    await expect(async () => {
      await open(page, '');
      await expect(page.getByText(/1 landing between Landed and Kept of people who did not agree/)).toBeVisible({
        timeout: 500,
      });
    }).toPass();
    await context.close();
    await makeLive(page, 'without asking for consent', 'As before');
  });
});
