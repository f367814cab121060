import { createRequire } from 'node:module';
import { readFileSync } from 'node:fs';
import { expect, type Page } from '@playwright/test';
import { ask, home, open, owner, places, setEvening, signIn, signInByHand, test } from './world';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

interface Violation {
  id: string;
  nodes: { target: string[]; failureSummary: string }[];
}

type Axe = { run(options: object): Promise<{ violations: Violation[] }> };

/** What axe finds wrong on the page as it stands; in the dark theme only what depends on colours. */
async function faults(page: Page): Promise<string[]> {
  await page.evaluate(axe);
  const found: string[] = [];
  for (const [colorScheme, options] of [
    ['light', {}],
    ['dark', { runOnly: ['color-contrast', 'link-in-text-block'] }],
  ] as const) {
    await page.emulateMedia({ colorScheme });
    const { violations } = await page.evaluate(
      (given) => (globalThis as unknown as { axe: Axe }).axe.run(given),
      options,
    );
    for (const { id, nodes } of violations)
      found.push(...nodes.map((node) => `${id} in the ${colorScheme} theme: ${node.target.join(' ')}`));
  }
  return found;
}

let trace = '';
let strand = '';
let file = '';
test.beforeAll(async () => {
  const cookie = await signInByHand(owner);
  const read = async (what: string) =>
    JSON.parse((await ask(`${places.avrix}/api/b/larkmoor/${what}`, { headers: { cookie } })).body) as {
      rows: { id: string; enquiryId: string }[];
    };
  trace = `/leads/${(await read('strands?hop=in_crm&state=lost')).rows[0]!.enquiryId}`;
  const brought = await ask(`${places.avrix}/api/b/larkmoor/report-backs/files/bring?name=conversions.csv`, {
    method: 'POST',
    headers: { cookie, origin: places.avrix },
    body: 'click_id,outcome,happened_at\nQ-1,lease signed,soon\n',
  });
  file = `/report-backs/files/${(JSON.parse(brought.body) as { id: string }).id}`;
  strand = `/strands/${(await read('strands?hop=form_sent&state=left')).rows[0]!.id}`;
});

const views: [name: string, path: () => string][] = [
  ['the line', () => ''],
  ['strands', () => '/strands?hop=in_crm&state=lost'],
  ['a strand', () => strand],
  ['leads', () => '/leads'],
  ['Trace', () => trace],
  ['Plan', () => '/plan?tag=utm_medium'],
  ['Campaign names', () => '/plan/names'],
  ['Sources', () => '/plan/sources?source=baker-weekly'],
  ['Do they agree?', () => '/plan/channels?medium=display'],
  ['Campaigns', () => '/plan/campaigns?new=yes'],
  ['Off plan', () => '/plan/off-plan'],
  ['Share', () => '/plan/share'],
  ['Capture', () => '/capture'],
  ['Kept', () => '/capture/kept'],
  ['Fields', () => '/capture/fields'],
  ['Fields as a grid', () => '/capture/fields?as=grid'],
  ['Swap tables', () => '/capture/swaps'],
  ['Forms seen', () => '/capture/forms'],
  ['Elsewhere', () => '/capture/elsewhere'],
  ['Not customers', () => '/capture/no-customer'],
  ['Arrivals', () => '/capture/arrivals?kind=click_id_gone&name=qsid'],
  ['Install', () => '/capture/install'],
  ['Links', () => '/links?campaign=uk-27q1-fleet-letter'],
  ['Make many', () => '/links/many'],
  ['Links made', () => '/links/made'],
  ['Connections', () => '/connections'],
  ['a new connection', () => '/connections?new=yes&kind=quillsearch'],
  ['an own platform', () => '/connections/platforms?new=yes'],
  ['an own CRM', () => '/connections/crms?new=yes'],
  ['People', () => '/people'],
  ['Change log', () => '/changes'],
  ['Events', () => '/events'],
  ['a new event', () => '/events?new=yes'],
  ['Readings', () => '/events/readings'],
  ['Events told', () => '/events/told'],
  ['Records', () => '/leads/records'],
  ['CRM', () => '/leads/crm'],
  ['Written back', () => '/leads/writes?new=yes'],
  ['Answers', () => '/leads/answers'],
  ['Segments', () => '/leads/segments?new=yes'],
  ['Bring leads in', () => '/leads/import'],
  ['Routines', () => '/leads/routines'],
  ['A new routine', () => '/leads/routines?new=yes'],
  ['Emails', () => '/leads/emails'],
  ['How emails are sent', () => '/leads/emails/set-up'],
  ['Calls', () => '/leads/calls?new=yes'],
  ['How calls come in', () => '/leads/calls/set-up'],
  ['Lead forms', () => '/leads/forms'],
  ['Repair', () => '/leads/repair'],
  ['Outcomes', () => '/report-backs'],
  ['Queue', () => '/report-backs/queue'],
  ['Outcomes of a subscription', () => '/report-backs/subscription'],
  ['Postbacks', () => '/report-backs/postbacks'],
  ['Files', () => '/report-backs/files'],
  ['Compare', () => '/report-backs/compare'],
  ['A file of conversions', () => file],
  ['A sender of postbacks', () => '/report-backs/postbacks/new'],
  ['Figures', () => '/results?by=channel,campaign&range=weeks13'],
  ['Behind a figure', () => '/results/behind?of=leads&range=weeks13'],
  ['Just in', () => '/results/just-in'],
  ['Cost', () => '/results/cost?range=weeks13'],
  ['Visits', () => '/results/visits'],
  ['Months', () => '/results/months'],
  ['Ripeness', () => '/results/ripeness'],
  ['Three counts', () => '/results/three-counts'],
  ['Behind three counts', () => '/results/three-counts/behind?of=lost_before_crm'],
  ['Funnel', () => '/results/funnel?by=channel'],
  ['Behind a funnel', () => '/results/funnel/behind?step=1&end=lost&by=channel'],
  ['Short links', () => '/links/short?path=bakery'],
  ['Page checks', () => '/links/checks'],
  ['Not live', () => '/not-live'],
  ['Try it', () => '/try'],
  ['Saved rehearsals', () => '/rehearsals'],
  ['you', () => '/you'],
];

for (const [name, path] of views)
  test(`${name} has no fault that axe finds, breaks no content policy, and shows no scroll bar sideways`, async ({
    page,
  }) => {
    const errors: string[] = [];
    page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
    page.on('pageerror', (error) => errors.push(error.message));
    await signIn(page);
    const answer = await page.goto(home + path());
    const policy = answer!.headers()['content-security-policy']!;
    for (const directive of ["default-src 'self'", "frame-ancestors 'none'", "object-src 'none'"])
      expect(policy).toContain(directive);
    expect(policy).not.toContain('unsafe');
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    expect(await faults(page)).toEqual([]);
    expect(errors).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth)).toBeLessThanOrEqual(0);
  });

test('sign-in has no fault that axe finds', async ({ page }) => {
  await page.goto(`${places.avrix}/sign-in?problem=Email+and+password+do+not+belong+together.`);
  expect(await faults(page)).toEqual([]);
});

test('the open dock has no fault that axe finds, and covers no end of its page', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await open(page, '/events');
  await page.keyboard.press('r');
  const field = page.getByRole('combobox', { name: 'Next step' });
  await field.fill('/fleet?utm_source=quillsearch');
  await page.keyboard.press('Escape');
  await field.press('Enter');
  await expect(page.getByRole('region', { name: 'Rehearse' })).toContainText('Keeps the click ID');
  expect(await faults(page)).toEqual([]);
  await page.keyboard.press('Tab');
  await page.evaluate(() => scrollTo(0, document.documentElement.scrollHeight));
  const [end, dock] = await Promise.all([
    page.locator('main').evaluate((main) => main.getBoundingClientRect().bottom),
    page.getByRole('region', { name: 'Rehearse' }).evaluate((one) => one.getBoundingClientRect().top),
  ]);
  expect(end).toBeLessThanOrEqual(dock + 1);
});

test('what is found anywhere has no fault that axe finds', async ({ page }) => {
  await setEvening(page.context());
  await signIn(page);
  await open(page, '/events');
  await page.keyboard.press('Control+k');
  await page.getByRole('dialog').getByRole('combobox').fill('fleet');
  await expect(page.getByRole('dialog').getByRole('option').first()).toBeVisible();
  expect(await faults(page)).toEqual([]);
});
