import { expect } from '@playwright/test';
import { build } from 'esbuild';
import { day, rules as fixture, start, valueRule } from '../../src/core/capture/rules.fixture';
import type { Arrival, Hit } from '../../src/core/capture';
import { answers } from './engine-answers';
import { hitsOf, places, setEvening, test } from './world';

const rules = {
  ...fixture,
  keep: { ...fixture.keep, values: [valueRule({ name: 'lark_van' })] },
  carry: [{ platform: 'quillsearch', name: 'lark_ref' }],
};

/** Addresses on which programs differ, or once differed: scripts, broken escapes, letters that grow, telephones, mails. */
const queries = [
  ...['', 'qsid=Q1', 'qsid=Q1&tsl=T1', 'qsid=&qsid=Q2', 'qsid={x}&qsid=Q3', 'qsid=a+b%2Bc%20', 'lark_ref=Q4'],
  ...[`qsid=${'Q'.repeat(400)}`, `tsl=${'%F0%9F%9A%B2'.repeat(120)}`, 'qsid=%E0%A4&utm_id=42', 'utm_term=only'],
  ...['配', '🚲', 'İ', 'ß', 'é', 'x'].flatMap((one) =>
    [80, 144, 199, 260].map((n) => {
      const value = encodeURIComponent(one.repeat(n));
      return `utm_source=${value}&utm_medium=${value}&utm_campaign=${value}&utm_content=${value}&utm_term=${value}&lark_van=${value}`;
    }),
  ),
  ...['who=anna%40b.example%', 'q=J%F6rg%20joerg%40b.example', 'm=анна@почта.рф', 'm=anna%2540%E4%BE%8B.jp'],
  ...['next=%2Fx%3Femail%3DAnna', 'c=(212)%20555-0198', 'c=%2B44+20+7946+0018', 'order=000000123', 'at=51.507351,-0.1'],
  ...['a=\ud800b', 'utm_source=\ud83d', 'utm_campaign=%ED%A0%80', 'x=%C0%80&y=%F5%80%80%80', '&&=&a==b&'],
];
const arrivals = queries.map((query, n): Arrival => ({
  at: start + n * day,
  address: `http://larkmoor.localhost/fleet?${query}#part`,
  referrer: ['', 'https://w.example/a?b', 'android-app://w.example.app/', 'http://larkmoor.localhost/'][n % 4]!,
  navigation: (['navigate', 'navigate', 'reload', 'back_forward', 'prerender'] as const)[n % 5]!,
}));

test('the engine answers the same in Chromium and in Node: addresses, touches, cookies', async ({ page }) => {
  const { outputFiles } = await build({
    entryPoints: ['tests/browser/engine-answers.ts'],
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'ENGINE',
    target: 'es2021',
  });
  await page.goto('about:blank');
  await page.addScriptTag({ content: outputFiles[0]!.text });
  const there = await page.evaluate(
    ([all, by]) => (globalThis as unknown as { ENGINE: { answers: typeof answers } }).ENGINE.answers(all, by),
    [arrivals, rules] as const,
  );
  expect(JSON.parse(there)).toEqual(JSON.parse(answers(arrivals, rules)));
});

const arrived = (hits: Hit[]) =>
  hits.flatMap((hit) =>
    hit.kind === 'arrived' ? [`${new URL(hit.address).pathname} ${hit.navigation} ${hit.why}`] : [],
  );

test('Back in a page that changes its address by itself is a step through the history, and reports no link', async ({
  context,
}) => {
  await setEvening(context);
  const page = await context.newPage();
  const hits = hitsOf(page);
  await page.goto(`${places.larkmoor}/fleet?utm_source=letter&utm_medium=email`);
  await expect.poll(() => arrived(hits)).toEqual(['/fleet navigate campaign_values']);
  await page.evaluate(() => history.pushState(null, '', '/fleet/sizes'));
  await page.goBack();
  await expect
    .poll(() => arrived(hits))
    .toEqual(['/fleet navigate campaign_values', '/fleet/sizes navigate own_page', '/fleet back_forward history_step']);
});

test('a page that is prepared in the background arrives when it is shown', async ({ context }) => {
  await setEvening(context);
  await context.addInitScript(() => {
    let isPrepared = true;
    Object.defineProperty(document, 'prerendering', { get: () => isPrepared });
    Object.assign(globalThis, {
      show() {
        isPrepared = false;
        document.dispatchEvent(new Event('prerenderingchange'));
      },
    });
  });
  const page = await context.newPage();
  const hits = hitsOf(page);
  await page.goto(`${places.larkmoor}/fleet?utm_source=letter&qsid=Qs-prepared`);
  await page.waitForFunction(() => document.querySelectorAll('script[src*="/r/"]').length > 0);
  await page.waitForLoadState('networkidle');
  expect(arrived(hits)).toEqual([]);
  expect(await page.evaluate(() => document.cookie)).not.toContain('avx_');
  await page.evaluate(() => (globalThis as unknown as { show: () => void }).show());
  await expect.poll(() => arrived(hits)).toEqual(['/fleet navigate click_id_new']);
  await expect(page.locator('[name=click_id]')).toHaveValue('Qs-prepared');
});

test('a click ID that comes with a reload, as after a consent banner, is kept and filled', async ({ browser }) => {
  // Without a clock of its own: a stopped one hides from a page how it was loaded.
  const page = await (await browser.newContext()).newPage();
  const hits = hitsOf(page);
  // The first load never reaches the snippet.
  await page.route('**/b/larkmoor.js', (route) => route.abort());
  await page.goto(`${places.larkmoor}/fleet?utm_campaign=c1&qsid=Qs-reloaded`);
  await page.unroute('**/b/larkmoor.js');
  await page.reload();
  await expect.poll(() => arrived(hits)).toEqual(['/fleet reload click_id_new']);
  await expect(page.locator('[name=click_id]')).toHaveValue('Qs-reloaded');
  await expect(page.locator('[name=source]')).toHaveValue('quillsearch');
  await page.context().close();
});
