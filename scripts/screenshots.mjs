import { mkdirSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { browser, database, needNode, needPackages } from './lib/packages.mjs';
import { inRoot } from './lib/paths.mjs';
import { freePorts } from './lib/ports.mjs';
import { endOnSignal, makeEnds } from './lib/program.mjs';
import { main, say } from './lib/say.mjs';
import { startWorld } from './lib/world.mjs';

const folder = inRoot('docs', 'screenshots');
const lastDay = '2027-02-15';

/** Every main view, made from the demo data at 1280x800. */
await main(async () => {
  needNode();
  needPackages({ ...database, ...browser });
  needModules();
  await needBuild();
  const ends = makeEnds();
  endOnSignal(ends);
  const password = randomBytes(9).toString('hex');
  const dataDir = inRoot('.data', `screenshots-${process.pid}`);
  const port = await freePorts(4400, 1);
  try {
    const { places } = await startWorld(
      {
        dataDir,
        port,
        standinsPort: await freePorts(port + 10, 3),
        demo: 'demo',
        lastDay,
        testSwitch: randomBytes(16).toString('hex'),
        env: { AVRIX_OWNER_PASSWORD: password },
      },
      ends,
    );
    await takeAll(places, password);
  } finally {
    await ends.all();
    rmSync(dataDir, { recursive: true, force: true });
  }
});

async function takeAll(places, password) {
  const { chromium } = await import('@playwright/test');
  const asRoot = process.getuid?.() === 0 ? ['--no-sandbox'] : [];
  const chrome = await chromium.launch({
    executablePath: '/usr/bin/chromium-headless-shell',
    args: [...asRoot, '--disable-gpu', '--font-render-hinting=none'],
  });
  const open = async (colorScheme) =>
    (
      await chrome.newContext({ viewport: { width: 1280, height: 800 }, colorScheme, reducedMotion: 'reduce' })
    ).newPage();
  mkdirSync(folder, { recursive: true });
  const take = async (page, name, url) => {
    if (url) await page.goto(url);
    await page.evaluate(() => document.fonts.ready);
    await page.waitForLoadState('networkidle');
    await page.screenshot({ path: `${folder}/${name}.png` });
    say(`docs/screenshots/${name}.png`);
  };
  const signIn = async (page) => {
    await page.goto(`${places.avrix}/sign-in`);
    await page.getByLabel('Email').fill('owner@larkmoor.example');
    await page.getByLabel('Password').fill(password);
    await page.getByRole('button', { name: 'Sign in' }).click();
    await page.waitForURL(/\/b\/larkmoor/);
  };

  const page = await open('light');
  /** Until its script runs a page takes no typing. */
  const visit = async (url) => {
    await page.goto(url);
    await page.locator('html[data-ready]').waitFor();
  };
  const home = `${places.avrix}/b/larkmoor`;
  await signIn(page);
  await take(page, 'line', home);
  await take(page, 'line-orders', `${home}?way=order`);
  await page.goto(`${home}/strands?range=weeks4&hop=in_crm&state=lost`);
  await page.locator('tbody a').first().click();
  await page.waitForURL(/\/leads\//);
  await take(page, 'trace-lost');
  await take(page, 'leads', `${home}/leads`);
  await page.goto(`${home}/strands?range=weeks4&hop=confirmed&state=made_it`);
  await page.locator('tbody a').first().click();
  await page.waitForURL(/\/leads\//);
  await take(page, 'trace-confirmed');
  await take(page, 'plan', `${home}/plan?tag=utm_medium`);
  await take(page, 'plan-names', `${home}/plan/names`);
  await take(page, 'plan-agree', `${home}/plan/channels?medium=display`);
  await visit(`${home}/links?campaign=uk-27q1-fleet-letter`);
  await page.locator('#tag-utm_content').fill('top');
  await page.keyboard.press('Tab');
  await take(page, 'links');
  await visit(`${home}/links/many`);
  await page.getByRole('combobox', { name: 'Tag set' }).selectOption({ label: 'Letter, top and foot' });
  const pages = ['/fleet', '/fleet/lease', '/fleet/call-back', '/shop', '/care', '/guide'];
  await page.getByLabel('Pages, one a line').fill(pages.map((path) => places.larkmoor + path).join('\n'));
  await page.getByRole('button', { name: 'Put 12 together' }).click();
  await page.getByLabel('Content, row 4', { exact: true }).fill('Second place');
  await page.getByRole('button', { name: 'Repair 1' }).waitFor();
  await take(page, 'links-grid');
  await visit(`${home}/links/checks`);
  await page
    .getByLabel('Links or pages, one a line')
    .fill([`${places.edge}/go/larkmoor/bakery`, ...pages.map((path) => `${places.larkmoor}${path}`)].join('\n'));
  await page.getByRole('button', { name: 'Check 7 pages' }).click();
  await page.getByRole('heading', { name: /checked pages ha(ve|s) something wrong/ }).waitFor();
  await take(page, 'page-checks');
  await take(page, 'short-links', `${home}/links/short?path=cargo-fair`);
  await visit(`${home}/capture`);
  await take(page, 'capture');
  await visit(`${home}/capture/forms`);
  await take(page, 'forms-seen');
  await visit(`${home}/try`);
  await page.getByRole('button', { name: 'Begin a trial' }).click();
  await page.getByRole('combobox', { name: 'The page to begin at' }).fill(`${places.larkmoor}/fleet`);
  await page.keyboard.press('Escape');
  const [tried] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('link', { name: 'Open it' }).click(),
  ]);
  await page.getByRole('heading', { name: /fields filled/ }).waitFor();
  await tried.close();
  await take(page, 'try');
  await page.getByRole('button', { name: 'End the trial' }).click();
  await visit(`${places.avrix}/new`);
  await page.getByLabel('Name').fill('Bakery Oriel');
  await page.getByLabel('Address of its website').fill('https://www.oriel.example');
  await page.getByLabel('Time zone its days begin in').fill('Europe/Dublin');
  await page.keyboard.press('Escape');
  await page.getByLabel('Currency').fill('EUR');
  await page.keyboard.press('Escape');
  await take(page, 'new-business');
  const night = await open('dark');
  await signIn(night);
  await take(night, 'line-night', home);

  await take(page, 'standin-larkmoor', `${places.larkmoor}/fleet`);
  await page.goto(`${places.oakledger}/?stage=Signed`);
  await page.locator('tbody a').first().click();
  await take(page, 'standin-oakledger');
  await chrome.close();
}
