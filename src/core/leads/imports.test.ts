import { describe, expect, it } from 'vitest';
import { readImport, readImportColumns } from './imports';

const now = Date.UTC(2027, 1, 15, 17);
const timeOf = (text: string) => (Number.isNaN(Date.parse(text)) ? null : Date.parse(text));
const read = (cells: Record<string, string>) =>
  readImport(readImportColumns(Object.keys(cells)).columns, cells, timeOf, now);

describe('A lead of a file', () => {
  it('is read by what its columns are called, and those that are not read are named', () => {
    const { columns, notRead } = readImportColumns(['Full name', 'E-Mail', 'UTM source', 'Shoe size', 'Date']);
    expect(columns).toMatchObject({ name: 'Full name', mail: 'E-Mail', source: 'UTM source', enquiredAt: 'Date' });
    expect(notRead).toEqual(['Shoe size']);
  });

  it('says who it is, and is known again by its number, else by who and when', () => {
    expect(read({ email: 'Ines@oriel.example', date: '2027-02-01' })).toMatchObject({
      ok: true,
      lead: { key: 'ines@oriel.example 2027-02-01', mail: 'Ines@oriel.example' },
    });
    expect(read({ id: '7', name: 'Ines', company: 'Oriel' })).toMatchObject({
      ok: true,
      lead: { key: 'id 7', enquiredAt: now },
    });
    expect(read({ name: 'Ines' })).toMatchObject({ ok: false, field: 'mail', was: 'it does not say who it is' });
  });

  it('is refused with what is wrong, and what would be right', () => {
    expect(read({ email: 'ines at oriel' })).toMatchObject({ ok: false, field: 'mail' });
    expect(read({ email: 'a@oriel.example', phone: 'none' })).toMatchObject({ ok: false, field: 'telephone' });
    expect(read({ email: 'a@oriel.example', date: 'soon' })).toMatchObject({ ok: false, was: '“soon” is no time' });
    expect(read({ email: 'a@oriel.example', date: '2027-03-15' })).toMatchObject({ ok: false, field: 'enquiredAt' });
    expect(read({ email: 'a@oriel.example', date: '2027-02-01', clicked_at: '2027-02-02' })).toMatchObject({
      ok: false,
      field: 'clickedAt',
    });
    expect(read({ email: 'a@oriel.example', name: 'x'.repeat(121) })).toMatchObject({ ok: false, field: 'name' });
  });
});
