import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { larkmoorSetup } from '../demo/setup/business';
import type { CaptureRules } from '../src/core/capture';
import { captureRulesSchema } from '../src/core/capture/schema';
import { snippetParts, snippetScript } from '../src/core/capture/snippet-script';
import { tell, type Measured } from './lib/measure';

const gzipped = (text: string | Buffer) => gzipSync(text, { level: 9 }).length;
const sizeOf = (name: string, bytes: number, most: number): Measured => {
  console.log(`${name}: ${bytes} of ${most} bytes, gzipped`);
  return { name, ratio: bytes / most, target: 1, better: 'lower', runs: 1, spread: 0 };
};

const read = (name: string) => readFileSync(`dist/snippet/${name}.js`, 'utf8');
for (const name of snippetParts)
  console.log(`the part ${name}, only with releases that need it: ${gzipped(read(name))} bytes, gzipped`);
const nowhere = 'http://nowhere.localhost:1';
const { release } = larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (key) => key });
const rules = captureRulesSchema.parse(release.content.capture);

/** What most businesses have: touches, one platform's click ID, and fields that are filled. */
const usual: CaptureRules = {
  ...rules,
  keep: { ...rules.keep, clickIds: rules.keep.clickIds.slice(0, 1), values: [] },
  elsewhere: [],
  swaps: [],
  orders: [],
  fill: rules.fill.filter(({ swap }) => !swap),
};
const scriptOf = (rulesOf: CaptureRules) =>
  snippetScript({ business: 'larkmoor', release: 1, edge: nowhere, rules: rulesOf }, read);
console.log(`the demo's release, all that a page loads: ${gzipped(scriptOf(rules))} bytes, gzipped`);
tell([
  sizeOf('snippet with engine', gzipped(read('engine')), 7168),
  sizeOf('usual release', gzipped(scriptOf(usual)), 6144),
  sizeOf('events part', gzipped(read('events')), 4096),
]);
