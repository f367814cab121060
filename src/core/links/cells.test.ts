import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fillDown, pasteCells, readTabbed, writeTabbed } from './cells';

const columns = ['landing', 'utm_source', 'utm_medium'];
const row = (landing: string, source = '', medium = '') => ({
  landing,
  tags: { ...(source ? { utm_source: source } : {}), ...(medium ? { utm_medium: medium } : {}) },
});

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
  it('go in from the cell that is marked, with rows added as needed', () => {
    expect(pasteCells([row('a')], columns, { row: 0, column: 'utm_source' }, [['x', 'y'], ['z']], 100)).toEqual([
      row('a', 'x', 'y'),
      row('', 'z'),
    ]);
  });
  it('with a heading go where it says', () => {
    const cells = [
      ['utm_medium', 'landing'],
      ['email', 'l.example'],
    ];
    expect(pasteCells([], columns, { row: 0, column: 'landing' }, cells, 100)).toEqual([row('l.example', '', 'email')]);
  });
  it('beyond the greatest number of rows are left out', () => {
    expect(pasteCells([], columns, { row: 0, column: 'landing' }, [['a'], ['b'], ['c']], 2)).toHaveLength(2);
  });
});

it('filling down copies one value into the rows below', () => {
  const rows = [row('a', 'x'), row('b'), row('c', 'y')];
  expect(fillDown(rows, 'utm_source', 0, 1)).toEqual([row('a', 'x'), row('b', 'x'), row('c', 'y')]);
});
