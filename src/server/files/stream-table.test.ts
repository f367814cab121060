import fc from 'fast-check';
import { stringify } from 'csv-stringify/sync';
import { describe, expect, it } from 'vitest';
import { readTable } from './read-table';
import { streamTable, type StreamedRow } from './stream-table';

async function* inChunks(bytes: Buffer, size: number): AsyncGenerator<Buffer> {
  for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
}
async function streamed(bytes: Buffer, size = 7) {
  const { columns, rows } = await streamTable(inChunks(bytes, size));
  const all: StreamedRow[] = [];
  for await (const row of rows) all.push(row);
  return { columns, rows: all };
}

describe('a table that is read as it comes', () => {
  it('is the same as read as a whole, wherever it is cut', async () => {
    const cell = fc.string({ unit: fc.constantFrom('a', 'é', ' ', ',', ';', '"', '\n', '1', '=') });
    const tables = fc.array(fc.tuple(cell, cell), { minLength: 1, maxLength: 5 });
    await fc.assert(
      fc.asyncProperty(tables, fc.constantFrom(1, 3, 100), async (given, size) => {
        const bytes = Buffer.from(stringify([['one', 'two'], ...given], { quoted: true }));
        const { rows } = await readTable(bytes, []);
        expect(await streamed(bytes, size)).toEqual({ columns: ['one', 'two'], rows });
      }),
      { numRuns: 40 },
    );
  });

  it('has semicolons or UTF-16, and names the row that does not fit', async () => {
    const text = 'Click_ID;Amount\nQ1;12,50\nQ2;1;2\nQ3\n';
    const wanted = [
      { row: 2, cells: { click_id: 'Q1', amount: '12,50' } },
      { row: 3, was: 'it has 3 cells, the heading 2', fix: expect.any(String) },
      { row: 4, cells: { click_id: 'Q3', amount: '' } },
    ];
    expect((await streamed(Buffer.from(text))).rows).toEqual(wanted);
    expect((await streamed(Buffer.from(`\ufeff${text}`, 'utf16le'))).rows).toEqual(wanted);
  });

  it.each([
    ['in another encoding', Buffer.from(`a,b\n${'x,y\n'.repeat(50)}b\xe4,c`, 'latin1'), /letters are not in UTF-8/],
    ['with a quotation mark left open', Buffer.from('a,b\n1,2\n"3'), /The file is no CSV/],
  ])('%s is wrong as a whole', async (_, bytes, words) => {
    await expect(streamed(bytes)).rejects.toThrow(words);
  });

  it('of nothing has no columns', async () => {
    expect(await streamed(Buffer.alloc(0))).toEqual({ columns: [], rows: [] });
  });
});
