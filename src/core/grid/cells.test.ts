import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Cells, fillDown, pasteCells, placeCells, readTabbed, writeTabbed } from './cells';

const columns = [
  { key: 'landing', heading: 'Landing page' },
  { key: 'utm_source', heading: 'Source' },
  { key: 'utm_medium', heading: 'Medium' },
];
const at = (row: number, key: string) => ({ row, key });

describe('cells of a spreadsheet', () => {
  it('come back as they were copied', () => {
    const cell = fc.string({ unit: fc.constantFrom('a', 'b', '"', '\t', '\n', ' ', 'é') }).map((text) => text.trim());
    const rows = fc.array(fc.array(cell, { minLength: 2, maxLength: 2 }), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(rows, (cells) => {
        fc.pre(cells.every((line) => line.some((text) => text !== '')));
        expect(readTabbed(writeTabbed(cells))).toEqual(cells);
      }),
    );
  });
  it('that begin with a quotation mark nobody closed swallow no row', () => {
    expect(readTabbed('"Ride\tprinted\nrow two\tprinted')).toEqual([
      ['"Ride', 'printed'],
      ['row two', 'printed'],
    ]);
  });
  it('go in from the cell that is marked, with rows added as needed', () => {
    expect(pasteCells([{ landing: 'a' }], columns, at(0, 'utm_source'), [['x', 'y'], ['z']], 100)).toEqual([
      { landing: 'a', utm_source: 'x', utm_medium: 'y' },
      { utm_source: 'z' },
    ]);
  });
  it.each([
    ['keys', 'utm_medium', 'landing'],
    ['headings', 'medium', 'Landing page'],
  ])('under %s go where they say', (_, medium, landing) => {
    expect(
      placeCells(columns, [
        [medium, landing],
        ['email', 'l.example'],
      ]),
    ).toEqual([{ utm_medium: 'email', landing: 'l.example' }]);
  });
  it('beyond the greatest number of rows are left out', () => {
    expect(pasteCells([], columns, at(0, 'landing'), [['a'], ['b'], ['c']], 2)).toHaveLength(2);
  });
});

describe('filling down', () => {
  const rows: Cells[] = [{ utm_source: 'x' }, { utm_source: 'y' }, {}, { utm_source: 'z' }];
  const sources = (first: number, last: number) =>
    fillDown(rows, 'utm_source', first, last).map(({ utm_source }: { utm_source?: string }) => utm_source);
  it('copies the first of the marked cells into those below it, and no further', () => {
    expect(sources(1, 2)).toEqual(['x', 'y', 'y', 'z']);
  });
  it('of one cell takes what stands above it', () => {
    expect(sources(2, 2)).toEqual(['x', 'y', 'y', 'z']);
    expect(sources(0, 0)).toEqual(['x', 'y', undefined, 'z']);
  });
});
