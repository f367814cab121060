import { expect } from '@playwright/test';
import { generate, type DemoEvent } from '../../demo/generator/journeys';
import { sizes } from '../../demo/generator/sizes';
import { evening, open, places, setEvening, signIn, test } from './world';

/*
 * What the figures say of the demo is what its people did: worked out anew from the events that it is made of, in the
 * plainest way, by nothing that the application has.
 */

const begin = Date.parse('2026-11-17T00:00:00Z');
const end = evening;
const events = generate(sizes.small, end, places.quillsearch).filter(({ at }) => at < end);
type Of<Kind extends DemoEvent['kind']> = Extract<DemoEvent, { kind: Kind }>;
const all = <Kind extends DemoEvent['kind']>(kind: Kind) =>
  events.filter((event): event is Of<Kind> => event.kind === kind);
const lately = ({ at }: DemoEvent) => at >= begin;

/** In pence: what a part costs, and what it cost the shop. */
const parts: Record<string, [price: number, cost: number]> = {
  'rain-cover': [8900, 4150],
  'second-lock': [5400, 2280],
  'brake-pads': [3150, 1210],
};
const delivery = 600;
const orders = all('order')
  .filter(lately)
  .map(({ at, browser, part, count }) => {
    const [price, cost] = parts[part]!;
    const total = price * count + delivery;
    const tax = Math.round(total - total / 1.2);
    return { at, browser, total, profit: total - delivery - tax - cost * count };
  });
const sum = (numbers: number[]) => numbers.reduce((total, one) => total + one, 0);

/** The ads and partners that brought a browser before a moment, the oldest first; none where it keeps no cookies. */
const broughtBy = ({ browser, at }: { browser: number; at: number }) =>
  [...all('click'), ...all('partner_click')]
    .filter((event) => event.browser === browser && event.at < at && event.works)
    .sort((a, b) => a.at - b.at)
    .map(({ kind }) => (kind === 'click' ? 'quillsearch' : 'wrenwick'));
const ordersBy = (which: 0 | -1) => {
  const counts: Record<string, number> = {};
  for (const order of orders) {
    const source = broughtBy(order).at(which) ?? 'not known';
    counts[source] = (counts[source] ?? 0) + 1;
  }
  return counts;
};

test.beforeEach(async ({ page, context }) => {
  await setEvening(context);
  await signIn(page);
  await open(page, '');
});

interface Read {
  counted: string[];
  sums: { figures: number[] };
  rows: { cells: { text: string }[]; figures: number[] }[];
}
const figures = (page: Parameters<typeof open>[0], query: string): Promise<Read> =>
  page.evaluate(
    async (asked) =>
      (await (await fetch(`/api/b/larkmoor/results/figures?range=weeks13&against=none&${asked}`)).json()) as Read,
    query,
  );

test('orders, what they brought, and the visits of partners, are those that people made', async ({ page }) => {
  const { sums } = await figures(page, 'count=outcome.SHP-PAID,won,revenue,profit');
  expect(orders.length).toBeGreaterThan(20);
  expect(sums.figures).toEqual([
    orders.length * 1000,
    orders.length * 1000,
    sum(orders.map(({ total }) => total)),
    sum(orders.map(({ profit }) => profit)),
  ]);
  const { rows } = await figures(page, 'count=visits&by=source');
  expect(rows.find(({ cells }) => cells[0]!.text === 'wrenwick')!.figures).toEqual([
    all('partner_click').filter(lately).length,
  ]);
});

for (const [credit, which] of [
  ['last', -1],
  ['first', 0],
] as const)
  test(`orders are credited to the ${credit} of what brought their browsers`, async ({ page }) => {
    const { rows } = await figures(page, `count=outcome.SHP-PAID&by=source&credit=${credit}`);
    const found = rows.flatMap(({ cells, figures: [n] }) => (n ? [[cells[0]!.text, n / 1000] as const] : []));
    expect(Object.fromEntries(found)).toEqual(ordersBy(which));
  });

/** What ads cost in pence by campaign on the days that are shown: by clicks of an account in New York's days and dollars. */
function costs(): Record<string, number> {
  const hour = 3_600_000;
  const cents = new Map<string, number>();
  for (const { at, ad, key } of all('click')) {
    // In all of these weeks New York is five hours behind London.
    const group = `${new Date(at - 5 * hour).toISOString().slice(0, 10)} ${ad}`;
    cents.set(group, (cents.get(group) ?? 0) + 90 + ((key.charCodeAt(4) * 7) % 180));
  }
  const found: Record<string, number> = {};
  for (const [group, amount] of cents) {
    const [day, ad] = group.split(' ') as [string, string];
    const pence = Math.floor((amount * (day < '2027-01-01' ? 76 : 81) + 50) / 100);
    // 19 of its hours are of the same day in London; the odd penny is of the part that loses most by rounding down.
    const [same, next] = [Math.floor((pence * 19) / 24), Math.floor((pence * 5) / 24)];
    const odd = pence - same - next;
    const isSame = odd === 1 && (pence * 19) % 24 >= (pence * 5) % 24;
    const following = new Date(Date.parse(day) + 24 * hour).toISOString().slice(0, 10);
    const campaign = ad.slice(0, ad.lastIndexOf('.'));
    for (const [of, part] of [
      [day, same + (isSame ? odd : 0)],
      [following, next + (isSame ? 0 : odd)],
    ] as const)
      if (of >= '2026-11-17' && of <= '2027-02-15') found[campaign] = (found[campaign] ?? 0) + part;
  }
  return found;
}

test('ads cost what each click did, of an account with another currency and time zone, to the penny', async ({
  page,
}) => {
  const { rows } = await figures(page, 'count=cost&by=source,campaign');
  const shown = rows.flatMap(({ cells: [source, campaign], figures: [cost] }) =>
    source!.text === 'quillsearch' && cost ? [[campaign!.text, cost] as const] : [],
  );
  expect(Object.fromEntries(shown)).toEqual(costs());
});

test('the CRM holds as many at the stage as salespeople moved there, and every count comes down to it', async ({
  page,
}) => {
  const counts = await page.evaluate(
    async () =>
      (await (
        await fetch('/api/b/larkmoor/results/three-counts?outcome=FLT-QUAL&axis=outcome&start=website&end=crm')
      ).json()) as { end: { count: number }; claims: { known: number } },
  );
  const moved = new Map<string, number>();
  for (const { mail, stage, at } of all('stage'))
    if (['Fleet assessed', 'Offer', 'Signed'].includes(stage)) moved.set(mail, Math.min(at, moved.get(mail) ?? at));
  // A record that was merged is no more.
  for (const { mail } of all('merge')) moved.delete(mail);
  const expected = [...moved.values()].filter((at) => at >= begin).length;
  expect(expected).toBeGreaterThan(10);
  expect(counts).toMatchObject({ end: { count: expected }, claims: { known: expected } });
});
