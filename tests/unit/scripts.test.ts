import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { hashOf, makeDataDir, secret } from '../../scripts/lib/paths.mjs';
import { freePorts } from '../../scripts/lib/ports.mjs';
import { makeEnds } from '../../scripts/lib/program.mjs';
import { forgetHalfLoaded } from '../../scripts/lib/world.mjs';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'scripts-'))));
afterEach(() => rmSync(folder, { recursive: true }));

describe('what was started', () => {
  it('is ended newest first, each once, and nothing may start after', async () => {
    const order: string[] = [];
    const ends = makeEnds();
    for (const name of ['database', 'application', 'stand-ins']) ends.add(async () => void order.push(name));
    const extra = ends.add(async () => void order.push('demo'));
    await extra();
    await ends.all();
    await ends.all();
    expect(order).toEqual(['demo', 'stand-ins', 'application', 'database']);
    expect(() => ends.check()).toThrow();
  });
});

describe('a generated secret', () => {
  it('is made once, of 32 bytes, for this user only', () => {
    const made = secret(folder, 'key');
    expect(made).toMatch(/^[0-9a-f]{64}$/);
    expect(secret(folder, 'key')).toBe(made);
    expect(statSync(join(folder, 'key')).mode & 0o777).toBe(0o600);
  });
});

describe('the data directory', () => {
  it('that cannot be made is said in a sentence', () => {
    writeFileSync(join(folder, 'file'), '');
    expect(() => makeDataDir(join(folder, 'file', 'x'))).toThrow(
      /^The data directory .*file\/x cannot be made: ENOTDIR/,
    );
  });
});

describe('the hash of sources', () => {
  it('changes with a content or a name, and not with the time of a file', () => {
    writeFileSync(join(folder, 'a'), '1');
    const first = hashOf([folder]);
    writeFileSync(join(folder, 'a'), '1');
    expect(hashOf([folder])).toBe(first);
    writeFileSync(join(folder, 'a'), '2');
    const second = hashOf([folder]);
    writeFileSync(join(folder, 'b'), '');
    expect(new Set([first, second, hashOf([folder])]).size).toBe(3);
  });
});

describe('free ports', () => {
  it('are neighbours, none of them taken', async () => {
    const base = await freePorts(6200, 3);
    const server = createServer().listen(base + 1, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    expect(await freePorts(base, 3)).toBeGreaterThan(base);
    server.close();
  });
});

describe('a demo that was loaded only in part', () => {
  const loading = () => join(folder, 'demo-is-loading');
  beforeEach(() => {
    for (const name of ['mariadb', 'spool', 'standins']) mkdirSync(join(folder, name));
    writeFileSync(join(folder, 'spool', '1.jsonl'), 'a hit of the business that is no more');
    for (const name of ['demo', 'demo-is-loading', 'secret-key']) writeFileSync(join(folder, name), '');
  });

  it('leaves nothing of itself behind, hits on their way included', () => {
    forgetHalfLoaded(folder, true, loading());
    expect(readdirSync(folder)).toEqual(['secret-key']);
  });

  it('in a database of somebody else’s is theirs to empty', () => {
    expect(() => forgetHalfLoaded(folder, false, loading())).toThrow(/Empty that database, remove .*spool and /);
    expect(readdirSync(folder)).toHaveLength(6);
  });
});
