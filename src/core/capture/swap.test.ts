import { describe, expect, it } from 'vitest';
import { readValue } from './fill';
import { nothingKept } from './keep';
import type { SwapTable, Touch } from './schema';
import { swapValue } from './swap';

const table: SwapTable = {
  name: 'placements',
  rows: [
    { value: 'display', gives: 'a banner', take: 'last_referrer_host' },
    { value: 'Quillsearch', gives: 'search results', take: '' },
    { value: 'gone', gives: '', take: '' },
  ],
  otherwise: { gives: '', take: 'itself' },
};
const host = () => 'grainmarket.example';

describe('a swap table', () => {
  it.each([
    ['quillsearch', 'search results'],
    ['QUILLSEARCH', 'search results'],
    ['display', 'grainmarket.example'],
    ['gone', ''],
    ['Letter', 'Letter'],
    ['', ''],
  ])('makes of %j %j', (value, made) => expect(swapValue(table, value, host)).toBe(made));

  it('gives its words where the other reading is empty', () => {
    expect(swapValue(table, 'display', () => '')).toBe('a banner');
  });

  it('says one thing of all others', () => {
    expect(swapValue({ ...table, otherwise: { gives: 'other', take: '' } }, 'Letter', host)).toBe('other');
  });

  it('stands between a fill rule’s reading and its field', () => {
    const last = { source: 'display', referrer: 'grainmarket.example/prices' } as Touch;
    const kept = { ...nothingKept(), last, values: [{ name: 'p', value: 'BW', at: 1 }] };
    const rule = { reading: 'last_source', platform: '', swap: 'placements' } as const;
    expect(readValue(rule, kept, [table])).toBe('grainmarket.example');
    expect(readValue({ ...rule, otherwise: 'nowhere' }, nothingKept(), [table])).toBe('nowhere');
    expect(readValue({ ...rule, swap: 'unknown' }, kept, [table])).toBe('display');
    expect(readValue({ reading: 'kept_value', platform: 'p' }, kept)).toBe('BW');
    expect(readValue({ reading: 'kept_value', platform: 'q' }, kept)).toBe('');
    expect(readValue({ reading: 'last_referrer_host', platform: '' }, kept)).toBe('grainmarket.example');
  });
});
