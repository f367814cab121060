import { describe, expect, it } from 'vitest';
import { files } from './tables';

describe('a list that is exported', () => {
  it('runs nothing as a formula, also where a program splits at other signs, and keeps quotes and line ends', async () => {
    const rows = [
      { a: '=1+1', b: '@x' },
      { a: '-2', b: 'say "yes"\nnow' },
      { a: 'x;=1+1', b: 'x\t=1+1' },
    ];
    const text = await files.writeList('leads', [rows], { a: 'first', b: 'second' }).text();
    expect(text).toBe(`"first","second"\n"'=1+1","'@x"\n"'-2","say ""yes""\nnow"\n"x;=1+1","x\t=1+1"\n`);
  });

  it('has the columns wanted, in their order, and nothing where nothing is known', async () => {
    const rows = [{ a: 7, b: null, c: 'left out' }];
    const file = files.writeList('leads', [rows], { b: 'second', a: 'first' });
    expect([await file.text(), file.headers.get('content-type'), file.headers.get('content-disposition')]).toEqual([
      '"second","first"\n"","7"\n',
      'text/csv; charset=utf-8',
      'attachment; filename="leads.csv"',
    ]);
  });

  it('has its headings alone where the list is empty', async () => {
    const none: { a: string }[] = [];
    expect(await files.writeList('leads', [none], { a: 'first' }).text()).toBe('"first"\n');
  });

  it('is read no faster than it is taken, whatever its length', async () => {
    let read = 0;
    function* parts() {
      for (; read < 500; read += 1) yield Array.from({ length: 100 }, () => ({ a: 'x'.repeat(100) }));
    }
    const reader = files.writeList('leads', parts(), { a: 'first' }).body!.getReader();
    await reader.read();
    await reader.read();
    const early = read;
    let bytes = 0;
    for (let part = await reader.read(); !part.done; part = await reader.read()) bytes += part.value.length;
    expect([early < 50, read, bytes > 500 * 100 * 100]).toEqual([true, 500, true]);
  });
});
