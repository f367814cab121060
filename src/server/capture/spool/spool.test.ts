import { appendFileSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { decodeRecords, encodeRecord } from './record';
import { openSpool } from './spool';

let folder: string;
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'spool-'))));
afterEach(() => rmSync(folder, { recursive: true }));

const files = () => readdirSync(folder).sort();
async function readAll(spool: ReturnType<typeof openSpool>, most = 100): Promise<string[]> {
  const all: string[] = [];
  for (let taken = await spool.take(most); taken; taken = await spool.take(most)) {
    all.push(...taken.texts);
    await taken.settle();
  }
  return all;
}

describe('a record', () => {
  it('is read back, and one cut off at the end is left for later, wherever it was cut', () => {
    fc.assert(
      fc.property(fc.array(fc.string({ unit: 'grapheme' }), { minLength: 1, maxLength: 8 }), fc.nat(), (texts, cut) => {
        const clean = texts.map((text) => Buffer.from(text).toString());
        const bytes = Buffer.concat(clean.map(encodeRecord));
        expect(decodeRecords(bytes, 100)).toEqual({ texts: clean, bytes: bytes.length, damaged: false });
        const part = decodeRecords(bytes.subarray(0, cut % bytes.length), 100);
        expect(part.damaged).toBe(false);
        expect(clean.slice(0, part.texts.length)).toEqual(part.texts);
        expect(part.texts.length).toBeLessThan(clean.length);
      }),
    );
  });

  it('with one bit changed is known to be damaged', () => {
    const bytes = Buffer.concat([encodeRecord('first'), encodeRecord('second')]);
    bytes[bytes.length - 1]! ^= 4;
    expect(decodeRecords(bytes, 100)).toEqual({ texts: ['first'], bytes: 13, damaged: true });
  });
});

describe('the spool', () => {
  it('gives back in order what was appended, once it was settled no more', async () => {
    const spool = openSpool(folder);
    const texts = Array.from({ length: 250 }, (_, i) => `hit ${i}`);
    await Promise.all(texts.map((text) => spool.append(text)));
    const taken = await spool.take(100);
    expect(taken!.texts).toEqual(texts.slice(0, 100));
    expect((await spool.take(100))!.texts).toEqual(texts.slice(0, 100));
    await taken!.settle();
    expect(await readAll(spool)).toEqual(texts.slice(100));
    await spool.close();
    expect(await readAll(spool)).toEqual([]);
    expect(files()).toEqual([]);
  });

  it('takes one record as soon as the one before is safe', async () => {
    const spool = openSpool(folder);
    await spool.close();
    for (let i = 0; i < 50; i++) await spool.append(`hit ${i}`);
    expect(await readAll(spool)).toHaveLength(50);
    await spool.close();
  });

  it('is taken up again after a kill: what was on the disk is there, a torn end is left out', async () => {
    const spool = openSpool(folder);
    await spool.append('answered');
    appendFileSync(join(folder, files()[0]!), encodeRecord('never answered').subarray(0, 12));
    const again = openSpool(folder);
    await again.append('later');
    expect(await readAll(again)).toEqual(['answered', 'later']);
    await again.close();
    await spool.close();
  });

  it('keeps a damaged file aside instead of losing or trusting it', async () => {
    const bytes = Buffer.concat([encodeRecord('good'), encodeRecord('bad'), encodeRecord('after')]);
    bytes[21]! ^= 1;
    writeFileSync(join(folder, '000000000001.spool'), bytes);
    const spool = openSpool(folder);
    expect(await readAll(spool)).toEqual(['good']);
    expect(files()).toEqual(['000000000001.spool.damaged']);
    expect(readFileSync(join(folder, files()[0]!)).length).toBe(bytes.length);
  });

  it('answers 503 while it cannot be written, and goes on once it can', async () => {
    const gone = join(folder, 'gone');
    const spool = openSpool(gone);
    rmSync(gone, { recursive: true });
    await expect(spool.append('x')).rejects.toMatchObject({ code: 'AVX_SPOOL_AWAY', status: 503 });
    expect(existsSync(gone)).toBe(false);
    openSpool(gone);
    await spool.append('y');
    expect(await readAll(spool)).toEqual(['y']);
    await spool.close();
  });
});
