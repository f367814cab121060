import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { setTimeout as wait } from 'node:timers/promises';
import { larkmoorSetup } from '../demo/setup/business';
import { captureRulesSchema } from '../src/core/capture/schema';
import { freshCue, freshEvent } from '../src/core/events/words';
import { snippetScript } from '../src/core/capture/snippet-script';
import { startChromium } from './lib/devtools';
import { tell } from './lib/measure';

/** How much slower than this machine the pretend one is. */
const slowdown = 4;
const opens = 9;
const nowhere = 'http://nowhere.localhost:1';
const { release } = larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (key) => key });
const rules = captureRulesSchema.parse(release.content.capture);
/** Thirty events of every sort that a page looks out for. */
const events = {
  ...{ readings: [], wires: [], presses: true },
  events: Array.from({ length: 30 }, (_, n) => ({
    ...freshEvent(),
    name: `event_${n}`,
    cues: [
      { ...freshCue((['arrives', 'presses', 'sends', 'reads_to', 'leaves_for'] as const)[n % 5]), text: `#part-${n}` },
    ],
    conditions: [{ reading: 'path', test: 'begins' as const, not: false, text: '/' }],
    reads: ['path', 'last_source'],
  })),
};

const hidden = ['click_id', 'source', 'medium', 'campaign', 'content', 'first_referrer', 'placement', 'avx_lead'];
const page = (script: string) => `<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Fleet</title>
${script ? `<script src="${script}" async></script>` : ''}</head><body><h1>Ask for a test ride</h1>
<form name="test-ride"><input name="mail">${hidden.map((name) => `<input type="hidden" name="${name}">`).join('')}</form>
<p><a href="http://larkmoor-fleet.localhost/offer">See a sample offer</a></p></body></html>`;

/** The same page without the line and with it; the edge's doors answer as little as they may. */
const server = createServer((request, response) => {
  const { port } = server.address() as AddressInfo;
  const path = request.url!.split('?')[0];
  const html = { 'content-type': 'text/html' };
  if (path === '/bare' || path === '/ours' || path === '/events')
    return void response.writeHead(200, html).end(page(path === '/bare' ? '' : `${path}.js`));
  if (path !== '/ours.js' && path !== '/events.js') return void response.writeHead(204).end();
  const known = { business: 'larkmoor', release: 1, edge: `http://larkmoor.localhost:${port}`, rules };
  const setup = path === '/events.js' ? { ...known, events } : known;
  const body = snippetScript(setup, (name) => readFileSync(`dist/snippet/${name}.js`, 'utf8'));
  response.writeHead(200, { 'content-type': 'text/javascript' }).end(body);
});
await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
const { port } = server.address() as AddressInfo;
const chromium = await startChromium();

/** What a page tells of itself once it rests: its tasks of 50 ms and more, which browsers report as long. */
const watch = `globalThis.long = []; new PerformanceObserver((list) => long.push(...list.getEntries().map((one) => one.duration)))
  .observe({ type: 'longtask', buffered: true });`;

/** The main thread's work (ms) from opening a page until it rests, and its longest task where that was long. */
async function open(path: string): Promise<{ work: number; longest: number }> {
  const tab = await chromium.openTab();
  const metric = async (name: string) =>
    (await tab.ask<{ metrics: { name: string; value: number }[] }>('Performance.getMetrics')).metrics.find(
      (one) => one.name === name,
    )!.value * 1000;
  const evaluate = async <Value>(expression: string) =>
    (await tab.ask<{ result: { value: Value } }>('Runtime.evaluate', { expression, returnByValue: true })).result.value;
  await tab.ask('Emulation.setCPUThrottlingRate', { rate: slowdown });
  await tab.ask('Performance.enable');
  await tab.ask('Page.enable');
  await tab.ask('Page.addScriptToEvaluateOnNewDocument', { source: watch });
  const before = await metric('TaskDuration');
  const query = '?utm_source=quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof&qsid=Qs1';
  await tab.ask('Page.navigate', { url: `http://larkmoor.localhost:${port}${path}${query}` });
  // It rests once its work has not grown for a while.
  for (let [work, still] = [0, 0]; still < 5;) {
    await wait(100);
    const now = await metric('TaskDuration');
    still = now - work < 2 ? still + 1 : 0;
    work = now;
  }
  const work = (await metric('TaskDuration')) - before;
  const longest = Math.max(0, ...(await evaluate<number[]>('long')));
  await tab.end();
  return { work, longest };
}

const median = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!;
const bare: Awaited<ReturnType<typeof open>>[] = [];
const ours: typeof bare = [];
const withEvents: typeof bare = [];
for (const path of ['/bare', '/ours', '/events']) await open(path);
for (let i = 0; i < opens; i++) {
  bare.push(await open('/bare'));
  ours.push(await open('/ours'));
  withEvents.push(await open('/events'));
}
const workOf = (all: typeof bare) => median(all.map(({ work }) => work));
const longestOf = (all: typeof bare) => median(all.map(({ longest }) => longest)).toFixed(0);
console.log(
  `main thread at ${slowdown}× slowdown, medians of ${opens} opens
  without the line  ${workOf(bare).toFixed(0)} ms, longest long task ${longestOf(bare)} ms
  with it           ${workOf(ours).toFixed(0)} ms, longest long task ${longestOf(ours)} ms, ${(workOf(ours) / workOf(bare)).toFixed(2)} times as much
  with 30 events    ${workOf(withEvents).toFixed(0)} ms, longest long task ${longestOf(withEvents)} ms`,
);
await chromium.end();
server.close();
tell([]);
