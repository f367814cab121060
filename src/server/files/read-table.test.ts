import ExcelJS from 'exceljs';
import fc from 'fast-check';
import JSZip from 'jszip';
import { describe, expect, it } from 'vitest';
import { readFileBody, readTable } from './read-table';
import { tableResponse } from './write-table';

const read = (text: string | Buffer, needs: string[] = []) => readTable(Buffer.from(text), needs);
const bytesOf = async (response: Response) => Buffer.from(await response.arrayBuffer());

const texts = fc.string({
  unit: fc.constantFrom('a', 'B', 'é', ' ', ',', ';', '"', "'", '=', '+', '-', '@', '\n', '1'),
});
const tables = fc.array(fc.tuple(texts, texts), { minLength: 1, maxLength: 6 }).map((rows) =>
  // A row of nothing is none; what stands around a cell is trimmed.
  rows.map(([a, b]) => [`x${a}`.trim(), b.trim()]),
);

describe('a table written to a file', () => {
  it.each(['csv', 'xlsx'] as const)('as %s is read back as it was', async (format) => {
    await fc.assert(
      fc.asyncProperty(tables, async (rows) => {
        const { rows: back, problems } = await readTable(
          await bytesOf(await tableResponse('t', format, [['one', 'two'], ...rows])),
          ['one', 'two'],
        );
        expect(problems).toEqual([]);
        const clean = (text: string) => text.replace(/\r\n?/g, '\n');
        expect(back.map(({ cells }) => [clean(cells.one!), clean(cells.two!)])).toEqual(rows);
      }),
      { numRuns: format === 'csv' ? 100 : 10 },
    );
  });

  it('as CSV has no cell that a spreadsheet would run', async () => {
    const cells = ['=1+1', '+1', '-1', '@x', '\t=1', 'fine'];
    const text = (await bytesOf(await tableResponse('t', 'csv', [['one'], ...cells.map((cell) => [cell])]))).toString();
    for (const line of text.replace('\ufeff', '').split('\n').slice(1, -1))
      expect(line.replace(/^"/, '')).not.toMatch(/^[=+\-@\t]/);
  });
});

/** A workbook with one filled row and whatever else is done to its sheet. */
async function workbookOf(change: (sheet: ExcelJS.Worksheet) => void): Promise<Buffer> {
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet('S');
  sheet.addRows([['name'], ['a']]);
  change(sheet);
  return Buffer.from(await workbook.xlsx.writeBuffer());
}

/** A workbook whose first sheet's text was changed. */
async function rezipped(bytes: Buffer, change: (xml: string) => string): Promise<Buffer> {
  const zip = await JSZip.loadAsync(bytes);
  const sheet = 'xl/worksheets/sheet1.xml';
  zip.file(sheet, change(await zip.file(sheet)!.async('string')));
  return zip.generateAsync({ type: 'nodebuffer' });
}

describe('a file that was made to be too much', () => {
  const memory = () => process.memoryUsage().rss / 2 ** 20;

  it('with one far cell is read as what stands in it', async () => {
    const bytes = await workbookOf((sheet) => (sheet.getCell('XFD1048576').value = 'far'));
    const before = memory();
    const { rows, problems } = await read(bytes);
    expect(rows).toEqual([{ row: 2, cells: { name: 'a' } }]);
    expect(problems).toMatchObject([{ row: 1_048_576, was: 'the cell XFD1048576 has no heading above it' }]);
    expect(memory() - before).toBeLessThan(300);
  });

  it('with thirty thousand columns is refused before anything is built of them', async () => {
    const wide = `name${',x'.repeat(29_999)}\n${`a${','.repeat(29_999)}\n`.repeat(100)}`;
    await expect(read(wide)).rejects.toThrow('The file has 30,000 columns. Read in at most 200 of them');
    const cells = `${Array.from({ length: 150 }, (_, n) => `c${n}`).join(',')}\n${'x\n'.repeat(15_000)}`;
    await expect(read(cells)).rejects.toThrow('The file has 15,000 rows of 150 columns. Read in at most 400,000 cells');
  });

  it('that ends its thread is an answer, and the next file is read', { timeout: 60_000 }, async () => {
    const merged = await workbookOf((sheet) => sheet.mergeCells('A3:C3'));
    const bytes = await rezipped(merged, (xml) => xml.replace('A3:C3', 'A3:XFD1048576'));
    await expect(readTable(bytes, [], 2000)).rejects.toThrow(
      /^The file takes more .*\. Save the one sheet as CSV, or in parts/,
    );
    expect((await read('name\na\n')).rows).toHaveLength(1);
  });
});

describe('a file from outside', () => {
  it('is read with commas, semicolons or tabs, in UTF-8 or UTF-16', async () => {
    const wanted = [{ row: 2, cells: { name: 'bäckerei', note: 'x' } }];
    for (const text of ['name,note\nbäckerei,x', 'Name;Note\r\nbäckerei;x\r\n', '\ufeffname\tnote\nbäckerei\tx']) {
      expect((await read(text)).rows).toEqual(wanted);
      expect((await read(Buffer.from(`\ufeff${text.replace('\ufeff', '')}`, 'utf16le'))).rows).toEqual(wanted);
    }
  });

  it('with a row that does not fit names it and takes the others', async () => {
    const { rows, problems } = await read('name,note\na,1\nb,2,3\nc\n');
    expect(rows.map(({ row, cells }) => [row, cells.name, cells.note])).toEqual([
      ...[
        [2, 'a', '1'],
        [4, 'c', ''],
      ],
    ]);
    expect(problems).toMatchObject([{ row: 3, was: 'it has 3 cells, the heading 2' }]);
  });

  it('with a formula in a cell names it and takes the others', async () => {
    const workbook = new ExcelJS.Workbook();
    const sheet = workbook.addWorksheet('S');
    sheet.addRows([
      ['name'],
      ['a'],
      [{ formula: '1+1', result: 2 }],
      [new Date('2027-01-14T00:00:00Z')],
      [new Date('2027-01-14T09:42:00Z')],
    ]);
    const { rows, problems } = await read(Buffer.from(await workbook.xlsx.writeBuffer()));
    expect(rows.map(({ cells }) => cells.name)).toEqual(['a', '2027-01-14', '2027-01-14 09:42:00']);
    expect(problems).toEqual([{ row: 3, was: '“name” holds a formula', fix: 'Paste its result as a value.' }]);
  });

  it.each([
    [
      'with other columns',
      'title\nx',
      /^The file has no column “name”; it has title\. Its first row must name name\.$/,
    ],
    ['in another encoding', Buffer.from('name\nb\xe4ckerei', 'latin1'), /^The file’s letters are not in UTF-8\./],
    ['that is cut off', Buffer.from('PK\u0003\u0004 and no more'), /^The file is a workbook that cannot be read\./],
    ['with a quotation mark left open', 'name\n"a', /^The file is no CSV: /],
    [
      'with too many rows',
      `name\n${'x\n'.repeat(20_001)}`,
      /^The file has more than 20,000 rows\. Read in at most 20,000/,
    ],
    ['with nothing in it', '', /^The file has no column “name”; it has none\./],
  ])('%s is refused as a whole, with what would be right', async (_, text, words) => {
    await expect(read(text, ['name'])).rejects.toThrow(words);
  });

  it('whose workbook unpacks to far more than it holds is refused before it is read', { timeout: 60_000 }, async () => {
    const workbook = new ExcelJS.Workbook();
    const sheet = workbook.addWorksheet('S');
    const long = 'a'.repeat(32_000);
    for (let i = 0; i < 2500; i++) sheet.addRow([`${i}${long}`]);
    const bytes = Buffer.from(await workbook.xlsx.writeBuffer());
    expect(bytes.length).toBeLessThan(2 ** 20);
    await expect(readTable(bytes, [])).rejects.toThrow(/^The workbook unpacks to more than 60 MB\. /);
  });

  it('that is too large is not read to its end', async () => {
    let sent = 0;
    const body = new ReadableStream({
      pull(controller) {
        sent += 1;
        controller.enqueue(new Uint8Array(2 ** 20));
      },
    });
    const request = new Request('http://x.example', { method: 'POST', body, duplex: 'half' } as RequestInit);
    await expect(readFileBody(request)).rejects.toMatchObject({ code: 'AVX_BODY_TOO_LARGE' });
    expect(sent).toBeLessThan(10);
  });
});
