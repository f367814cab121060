import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { larkmoorSetup } from '../demo/setup/business';
import { tell, type Measured } from './lib/measure';

const gzipped = (text: string | Buffer) => gzipSync(text, { level: 9 }).length;
const sizeOf = (name: string, bytes: number, most: number): Measured => {
  console.log(`${name}: ${bytes} of ${most} bytes, gzipped`);
  return { name, ratio: bytes / most, target: 1, better: 'lower', runs: 1, spread: 0 };
};

/** What a page loads: the engine, and with it the rules of the demo's release. */
const engine = readFileSync('dist/snippet/engine.js');
const elsewhere = readFileSync('dist/snippet/elsewhere.js');
const nowhere = 'http://nowhere.localhost:1';
const { release } = larkmoorSetup({ quillsearch: nowhere, oakledger: nowhere, key: (key) => key });
console.log(`the part for places outside, only where a release names some: ${gzipped(elsewhere)} bytes, gzipped`);
tell([
  sizeOf('snippet with engine', gzipped(engine), 7168),
  sizeOf('demo release', gzipped(JSON.stringify(release.content.capture)), 3072),
]);
