import { expect } from '@playwright/test';
import { generate, type DemoEvent } from '../../demo/generator/journeys';
import { sizes } from '../../demo/generator/sizes';
import { evening, follow, open, places, setEvening, signIn, test } from './world';

/* How long after their click outcomes come; what recent clicks still bring; and what comes too late. */

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
});

test('half and nine in ten are said, recent weeks are left out of more and fewer, and what comes too late names an earlier stage', async ({
  page,
}) => {
  await open(page, '/results/ripeness');
  const heading = page.getByRole('heading', { level: 1 });
  await expect(heading).toHaveText(/^Half of FLT-QUAL come within \d+ days, nine in ten within \d+\.$/);
  await expect(page.getByText(/^What clicks of the last \d+ weeks bring is about \d+ % complete\.$/)).toBeVisible();
  const weeks = page.getByRole('region', { name: 'Weeks of clicks' }).locator('tbody tr');
  await expect(weeks).toHaveCount(13);
  await expect(weeks.first()).toContainText('too early');
  await expect(weeks.last()).toContainText(/as usual|more than usual|fewer than usual/);
  const late = page.getByRole('region', { name: 'What comes too late' });
  await expect(late.getByRole('listitem').filter({ hasText: 'after 7 days' })).toContainText(
    /\d+ of \d+ came later\. ?Count “\w+” as well/,
  );
  await page.getByRole('combobox', { name: 'By what' }).selectOption('channel');
  await expect(page).toHaveURL(/by=channel/);
  const delays = page.getByRole('region', { name: 'Days from click to outcome' });
  await expect(delays.locator('tbody tr').first()).toContainText('Paid search');
});

test('the days are those that the demo’s leads took', async ({ page }) => {
  const events = generate(sizes.small, evening, places.quillsearch).filter(({ at }) => at < evening);
  const all = <Kind extends DemoEvent['kind']>(kind: Kind) =>
    events.filter((event): event is Extract<DemoEvent, { kind: Kind }> => event.kind === kind);
  await open(page, '/results/ripeness');
  const rows = await page.evaluate(
    async () =>
      (await (await fetch('/api/b/larkmoor/results/ripeness?by=platform')).json()) as {
        rows: { text: string; count: number; half: number | null }[];
      },
  );
  const found = rows.rows.find(({ text }) => text === 'quillsearch')!;
  // Enquiries by form: of each the last click before it, and the first move to the stage or past it.
  const qualified = new Map<string, number>();
  for (const { mail, stage, at } of all('stage'))
    if (['Fleet assessed', 'Offer', 'Signed'].includes(stage) && !qualified.has(mail)) qualified.set(mail, at);
  const days = all('form').flatMap(({ browser, at, person }) => {
    const reached = qualified.get(person.mail);
    const click = all('click').findLast((one) => one.browser === browser && one.at < at && one.lands);
    return click && click.works && reached ? Math.floor((reached - click.at) / 86_400_000) : [];
  });
  expect(days.length).toBeGreaterThan(20);
  const middle = days.sort((a, b) => a - b)[Math.ceil(days.length / 2) - 1]!;
  // Calls come besides.
  expect(found.count).toBeGreaterThanOrEqual(days.length);
  expect(found.count).toBeLessThanOrEqual(days.length * 1.2);
  expect(Math.abs(found.half! - middle)).toBeLessThanOrEqual(2);
});

test('beside the line it says how complete what its clicks bring is, where they are followed', async ({ page }) => {
  await open(page, '');
  const ripe = page.getByText(
    /^Half of FLT-QUAL come within .+ of the click, nine in ten within \d+\. Of what these days’ clicks will bring, about \d+ % has come\./,
  );
  await expect(ripe).toBeVisible();
  await follow(page, page.getByRole('link', { name: 'By source and week' }));
  await expect(page).toHaveURL(/\/results\/ripeness\?outcome=FLT-QUAL/);
  await open(page, '?view=happened');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(ripe).toHaveCount(0);
});
