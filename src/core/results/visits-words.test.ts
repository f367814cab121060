import { describe, expect, it } from 'vitest';
import { askedVisits, settledVisits, visitFileColumns, visitsAddress, visitsSentence } from './visits-words';
import { visitsQuerySchema, type VisitsView } from './visits-view';

const viewOf = (given: Record<string, string>): VisitsView => {
  const { lead, whose, browser, first, columns, by, row, range, from = '', to = '' } = visitsQuerySchema.parse(given);
  return {
    sentence: { title: '', under: '' },
    asked: { lead, whose, browser, first, columns, by, row },
    range: { choice: range, firstDay: from, lastDay: to, cycleDays: null, release: 1 },
    ...{ rows: [], total: 0, page: 1, pageSize: 50, timeZone: 'Europe/London' },
  };
};
const again = (given: Record<string, string>) => {
  const view = viewOf(given);
  const address = visitsAddress(askedVisits(view), view.asked);
  return visitsQuerySchema.parse(Object.fromEntries(new URLSearchParams(address)));
};

describe('what visits are asked for', () => {
  it('is the same from its address', () => {
    const browser = '0b54c1c5-8f0c-4b54-9a3f-2f4f2b3a9d11';
    for (const given of [
      {},
      { lead: 'with', whose: 'everyone', columns: 'lead,channel' },
      { range: 'own', from: '2027-01-01', to: '2027-02-01' },
      { browser },
      { first: 'yes', by: 'source,day', row: '["a & b","2027-02-01"]' },
    ] as Record<string, string>[])
      expect(again(given)).toEqual(visitsQuerySchema.parse(given));
  });

  it('leaves out what cannot be read, and takes what is usual', () => {
    const usual = visitsQuerySchema.parse({});
    expect(visitsQuerySchema.parse({ lead: 'x', columns: 'x,y', row: '{"a":1}', by: 'nothing', page: '-1' })).toEqual(
      usual,
    );
    expect(usual.columns).toContain('campaign');
  });

  it('has each column once', () => {
    const asked = askedVisits(viewOf({ columns: 'lead' }));
    const { columns } = settledVisits({ ...asked, columns: [{ one: 'lead' }, { one: 'lead' }] });
    expect(columns).toEqual([{ one: 'lead' }, { one: 'channel' }]);
  });
});

describe('the sentence of visits', () => {
  const say = (given: Record<string, string>, total: number, withLead = 0) =>
    visitsSentence(visitsQuerySchema.parse(given), total, withLead).title;

  it('says how many there are, and how many have a lead', () => {
    expect(say({}, 1204, 33)).toBe('1,204 visits, 33 of them with a lead.');
    expect(say({}, 1, 0)).toBe('1 visit, none of them with a lead.');
    expect(say({ lead: 'with' }, 2)).toBe('2 visits with a lead.');
    expect(say({ lead: 'without', first: 'yes' }, 1)).toBe('1 first visit without a lead.');
  });

  it('names the row of figures that they are of, also one without a value', () => {
    expect(say({ by: 'source,campaign', row: '["letter",""]' }, 5, 1)).toBe(
      '5 visits of letter, no value, 1 of them with a lead.',
    );
    expect(say({ by: 'source', row: '["\\tdirect"]', lead: 'with' }, 5)).toBe('5 visits with a lead of direct.');
  });

  it('says what to do where there is none', () => {
    expect(visitsSentence(visitsQuerySchema.parse({}), 0, 0).under).toBe('Choose other days, or list more.');
  });
});

it('a file has the columns that are shown, between when and whose', () => {
  expect(visitFileColumns(['source', 'landing'])).toEqual({
    at: 'began',
    source: 'source',
    landing: 'landing page',
    visitor: 'browser',
  });
});
