import { mkdirSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { needBuild } from './lib/build.mjs';
import { needModules } from './lib/modules.mjs';
import { browser, database, needNode, needPackages } from './lib/packages.mjs';
import { inRoot } from './lib/paths.mjs';
import { freePorts } from './lib/ports.mjs';
import { endOnSignal, makeEnds } from './lib/program.mjs';
import { main, say } from './lib/say.mjs';
import { standinPorts, startWorld } from './lib/world.mjs';

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
        standinsPort: await freePorts(port + 10, standinPorts),
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
  const browser = await chrome.newContext({
    viewport: { width: 1280, height: 800 },
    colorScheme: 'light',
    reducedMotion: 'reduce',
  });
  mkdirSync(folder, { recursive: true });
  const take = async (page, name, url, { goesOn = false } = {}) => {
    if (url) await page.goto(url);
    await page.evaluate(() => document.fonts.ready);
    // A page that goes on reading never comes to rest.
    await (goesOn ? page.locator('html[data-ready]').waitFor() : page.waitForLoadState('networkidle'));
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

  const page = await browser.newPage();
  /** Until its script runs a page takes no typing. */
  const visit = async (url) => {
    await page.goto(url);
    await page.locator('html[data-ready]').waitFor();
  };
  const home = `${places.avrix}/b/larkmoor`;
  await signIn(page);
  await take(page, 'line', home);
  await page.goto(`${home}/strands?range=weeks4&hop=in_crm&state=lost`);
  await page.locator('tbody a').first().click();
  await page.waitForURL(/\/leads\//);
  await take(page, 'trace-lost');
  await take(page, 'leads', `${home}/leads?segment=${await makeSegment(page)}`);
  await take(page, 'queue', `${home}/report-backs/queue`);
  const figures = 'count=qualified,leads,cost,cost_per_qualified&by=channel,campaign&range=weeks13';
  await visit(`${home}/results?${figures}`);
  await page.getByRole('region', { name: 'Figures' }).waitFor();
  await take(page, 'figures');
  const steps = [
    { kind: 'page', test: 'begins', value: '/fleet' },
    { kind: 'page', test: 'pattern', value: '^/fleet/(lease|call-back)', skip: true },
    { kind: 'form', value: 'test-ride' },
    { kind: 'outcome', value: 'FLT-QUAL' },
  ];
  await take(page, 'funnel', `${home}/results/funnel?by=channel&steps=${encodeURIComponent(JSON.stringify(steps))}`);
  await take(page, 'three-counts', `${home}/results/three-counts`);
  await take(page, 'routine', `${home}/leads/routines`);
  await page.goto(`${home}/strands?range=weeks4&hop=confirmed&state=made_it`);
  await page.locator('tbody a').first().click();
  await page.waitForURL(/\/leads\//);
  await take(page, 'trace-confirmed');
  await take(page, 'plan', `${home}/plan?tag=utm_medium`);
  await visit(`${home}/links?campaign=uk-27q1-fleet-letter`);
  await page.locator('#tag-utm_content').fill('top');
  await page.keyboard.press('Tab');
  await take(page, 'links');
  await visit(`${home}/capture`);
  await take(page, 'capture');
  await visit(`${home}/events?event=enquiry_sent`);
  await page.getByRole('button', { name: 'Take out cue 2' }).click();
  await page.getByRole('heading', { name: /^Caught / }).waitFor();
  await page
    .getByText('Just missed')
    .waitFor()
    .catch(() => undefined);
  await take(page, 'events');
  await visit(`${home}/events?event=enquiry_sent`);
  await rehearse(page, [
    '/fleet?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof',
    'send call-back',
    'wait 9 days',
    'stage Fleet assessed',
  ]);
  await take(page, 'rehearsal');
  await page.getByRole('button', { name: 'Clear' }).click();
  await page.getByRole('button', { name: 'Close' }).click();
  await visit(`${home}/try`);
  await page.getByRole('button', { name: 'See through by what is live' }).click();
  await page.getByRole('combobox', { name: 'The page to begin at' }).fill(`${places.larkmoor}/fleet/call-back`);
  await page.keyboard.press('Escape');
  const [seen] = await Promise.all([
    page.context().waitForEvent('page'),
    page.getByRole('link', { name: 'Open it' }).click(),
  ]);
  await seen.getByText('Form call-back, an enquiry').waitFor();
  await seen.getByRole('button', { name: 'Other corner' }).click();
  await seen.evaluate(() => addEventListener('click', (event) => event.preventDefault()));
  await seen.getByRole('link', { name: '01632 960018' }).press('Enter');
  await seen.getByText('went off, because').waitFor();
  await take(seen, 'see-through');
  await seen.close();
  await page.getByRole('button', { name: 'End the trial' }).click();
  await visit(`${home}/events?event=enquiry_sent`);
  await page.getByRole('button', { name: /^Tell Quillsearch/ }).click();
  const wire = page.getByRole('region', { name: 'Telling quillsearch' });
  await wire.getByLabel('Name, part 1').fill('flt-ask');
  await wire.getByRole('button', { name: 'Add to draft' }).click();
  await wire.getByText('In the draft,').waitFor();
  await visit(`${home}/not-live`);
  await page.getByText('Quillsearch does not know').waitFor();
  await take(page, 'not-live');
  await page.getByRole('button', { name: 'Drop it' }).click();
  await page.getByRole('heading', { name: /^Everything is live/ }).waitFor();
  await comeIn(chrome, places.larkmoor);
  await visit(`${home}/results/just-in`);
  await page.getByText('larkmoor-letter').first().waitFor();
  await take(page, 'just-in', '', { goesOn: true });
  await visit(`${home}/connections`);
  await page.getByRole('link', { name: /^Quillsearch/ }).click();
  await page.getByRole('button', { name: /^Try / }).click();
  await page.getByText(/^It answers for rows/).waitFor();
  await page.evaluate(() => scrollTo(0, 0));
  await take(page, 'connections');
  await take(page, 'outcomes', `${home}/report-backs`);

  await chrome.close();
}

/** A segment as somebody keeps it. @returns its ID */
async function makeSegment(page) {
  await page.goto(page.url().replace(/\/leads\/.*$/, '/leads/segments?new=yes'));
  await page.locator('html[data-ready]').waitFor();
  await page.getByLabel('Name').fill('Winterproof, not answered yet');
  await page.getByLabel('Part of the touch, condition 1').selectOption('campaign');
  await page.getByLabel('Values, condition 1').fill('uk-27q1-fleet-winterproof');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'and …' }).click();
  await page.getByLabel('What is looked at, condition 2').selectOption('quality');
  await page.getByRole('button', { name: 'Save segment' }).click();
  await page.waitForURL(/segment=/);
  return new URL(page.url()).searchParams.get('segment');
}

/** Walks lines in the dock. */
async function rehearse(page, lines) {
  await page.locator('html[data-keys]').waitFor();
  await page.keyboard.press('r');
  const field = page.getByRole('combobox', { name: 'Next step' });
  for (const line of lines) {
    await field.fill(line);
    await page.keyboard.press('Escape');
    await field.focus();
    await page.keyboard.press('Enter');
  }
  await page.getByText('is not told').first().waitFor();
}

/** Somebody comes to the website by a letter, as a browser does that says nothing of being a program. */
async function comeIn(chrome, larkmoor) {
  const plain = await chrome.newPage();
  const userAgent = (await plain.evaluate(() => navigator.userAgent)).replace('Headless', '');
  await plain.close();
  const browser = await chrome.newContext({ userAgent });
  const page = await browser.newPage();
  const letter = 'utm_source=larkmoor-letter&utm_medium=email&utm_campaign=uk-27q1-fleet-letter&utm_content=top';
  for (const path of [`/?${letter}`, '/fleet', '/fleet/lease']) {
    const taken = page.waitForResponse((response) => response.url().includes('/take/'));
    await page.goto(larkmoor + path);
    await taken;
  }
  await browser.close();
}
