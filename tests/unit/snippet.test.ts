import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';

const meta = JSON.parse(readFileSync('dist/snippet/meta.json', 'utf8')) as { inputs: Record<string, unknown> };

describe('the snippet as it is served', () => {
  it('holds the engine, a hash and nothing else: no words, no server', () => {
    for (const file of Object.keys(meta.inputs))
      expect(file).toMatch(/^(src\/(snippet|core\/capture|core\/events)|node_modules\/@noble\/hashes)\//);
  });

  // The aim is 7,168: docs/decisions/0010-exact-rules-before-bytes.md.
  it('stays within 9,650 bytes, gzipped', () => {
    expect(gzipSync(readFileSync('dist/snippet/engine.js')).length).toBeLessThan(9650);
  });

  it('sets events off within 4,096 bytes, gzipped', () => {
    expect(gzipSync(readFileSync('dist/snippet/events.js')).length).toBeLessThan(4096);
  });
});
