import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { folderOf, makeFolders } from './folders';

const root = mkdtempSync(join(tmpdir(), 'folders-'));
afterAll(() => rmSync(root, { recursive: true }));
const folders = makeFolders(root);
const within = (...path: string[]) => join(root, ...path);

describe('a file for another program', () => {
  it('is there whole under its name, and nothing else is', async () => {
    expect(await folders.put('lark', 'partner', '/rows-1.csv', 'a,b\r\n1,2')).toBe('rows-1.csv');
    expect(readdirSync(within('lark', 'partner'))).toEqual(['rows-1.csv']);
    expect(readFileSync(within('lark', 'partner', 'rows-1.csv'), 'utf8')).toBe('a,b\r\n1,2');
  });

  it('never takes the place of another one', async () => {
    const names = await Promise.all(
      ['one', 'two', 'three'].map((text) => folders.put('lark', 'same', '/rows.csv', text)),
    );
    expect(new Set(names).size).toBe(3);
    for (const name of names) expect(name).toMatch(/^rows(-[0-9a-f]{6})?\.csv$/);
    const texts = names.map((name) => readFileSync(within('lark', 'same', name), 'utf8'));
    expect(texts).toEqual(['one', 'two', 'three']);
  });

  it('keeps to its folder, whatever its name is made of', async () => {
    expect(await folders.put('lark', 'partner', '/../../etc/a b?.csv', 'x')).toBe('etc-a-b-.csv');
    expect(await folders.put('lark', 'partner', '///', 'x')).toBe('rows.csv');
    expect(readdirSync(root)).toEqual(['lark']);
  });

  it('is listed and read by its business alone, the newest first', async () => {
    await folders.put('otter', 'partner', '/theirs.csv', 'theirs');
    const listed = await folders.list('otter');
    expect(listed).toMatchObject([{ folder: 'partner', name: 'theirs.csv', bytes: 6 }]);
    expect(await (await folders.read('otter', 'partner', 'theirs.csv')).text()).toBe('theirs');
    for (const [folder, name] of [
      ['partner', 'rows-1.csv'],
      ['../lark/partner', 'rows-1.csv'],
      ['partner', '../partner/theirs.csv'],
      ['..', 'otter'],
    ])
      await expect(folders.read('otter', folder!, name!)).rejects.toMatchObject({ code: 'AVX_NOT_FOUND' });
    expect(await folders.list('nobody')).toEqual([]);
  });

  it('says why a folder cannot be written to, and leaves nothing where it can', async () => {
    expect(await folders.whyNot('lark', 'tried')).toBe('');
    expect(readdirSync(within('lark', 'tried'))).toEqual([]);
    writeFileSync(within('lark', 'taken'), 'a file, and no folder');
    expect(await folders.whyNot('lark', 'taken')).toBe('EEXIST');
  });
});

it('an address is a folder only where it says so', () => {
  expect(folderOf('folder:partner')).toBe('partner');
  expect(folderOf('https://folder.example')).toBeNull();
});
