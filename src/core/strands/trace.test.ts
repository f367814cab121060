import { describe, expect, it } from 'vitest';
import { arrive, decideFills, nothingKept, type Hit } from '../capture';
import { day, hiddenFields, rules, start } from '../capture/rules.fixture';
import type { CrmRecord, CrmRule } from '../leads/schema';
import { changedOnTheWay, traceValues, type TraceInput } from './trace';
import { waysIn } from '../ways-in';
import type { Strand } from './types';

const id = '0190aaaa-0000-7000-8000-000000000001';
const address =
  'http://larkmoor.localhost/fleet?utm_source=Quillsearch&utm_medium=paid-search&utm_campaign=uk-27q1-fleet-winterproof&qsid=Q1';
const arrival = {
  at: start,
  address,
  referrer: 'http://quillsearch.localhost/?for=bikes',
  navigation: 'navigate',
} as const;
const { kept, decision } = arrive(nothingKept(), arrival, rules, { visitor: id, visit: id });
const hit: Hit = {
  id,
  at: start,
  release: 1,
  visitor: id,
  visit: id,
  address,
  referrer: arrival.referrer,
  kind: 'arrived',
  navigation: 'navigate',
  why: decision.because,
  kept: { works: true, first: kept.first, last: kept.last, clicks: kept.clicks },
};
const strand: Strand = {
  id: 's',
  kind: 'click',
  platform: 'quillsearch',
  clickId: 'Q1',
  firstAt: start,
  source: 'quillsearch',
  medium: 'paid-search',
  campaign: 'uk-27q1-fleet-winterproof',
  utmId: '',
  content: '',
  visitor: id,
  marked: '',
};
const crm: CrmRule = {
  account: 'oakledger',
  stages: { inOrder: ['Asked'], ended: [] },
  leadTokenField: 'avx_lead',
  fields: { click_id: 'click_id', source: 'source', campaign: 'campaign' },
};
const record = (fields: Record<string, string>): CrmRecord => ({
  deal: 'D',
  person: 'P',
  personName: 'Anna',
  company: '',
  madeAt: start + day,
  changedAt: start + day,
  stage: 'Asked',
  stageChanges: [],
  fields,
  amounts: {},
});
const form = { name: 'test-ride', page: '/fleet', fields: hiddenFields(['click_id', 'source']) };
const input = (change: Partial<TraceInput> = {}): TraceInput => ({
  way: waysIn.form,
  strand,
  arrival: hit,
  keptHit: hit,
  orderHit: null,
  isFetched: false,
  fills: decideFills(form, kept, rules).report,
  swapOf: () => '',
  crm,
  toldClickId: '',
  confirmed: false,
  record: record({ click_id: 'Q1', source: 'quillsearch', campaign: 'uk-27q1-fleet-wint' }),
  utmLowerCase: true,
  ...change,
});
const row = (value: string, change: Partial<TraceInput> = {}) => {
  const found = traceValues(input(change)).find((r) => r.value === value);
  return found && Object.fromEntries(Object.entries(found.cells).map(([hop, cell]) => [hop, cell.how || cell.state]));
};

describe('the values of a trace', () => {
  it('are the same from hop to hop, and the click ID goes on to the platform', () => {
    expect(row('click_id', { toldClickId: 'Q1', confirmed: true })).toEqual({
      clicked: 'first',
      landed: 'same',
      kept: 'same',
      form_sent: 'same',
      in_crm: 'same',
      qualified: 'not_seen',
      told: 'same',
      confirmed: 'same',
    });
  });

  it('say where one was cut in the CRM', () => {
    expect(row('campaign')).toMatchObject({ kept: 'same', in_crm: 'cut at 18 characters' });
  });

  it('say where one is empty although it was there before', () => {
    expect(row('click_id', { record: record({ click_id: '' }) })).toMatchObject({ form_sent: 'same', in_crm: 'empty' });
  });

  it('do not show a lower-cased source as changed, since that is the rule', () => {
    expect(row('source')).toMatchObject({ landed: 'same', kept: 'same' });
  });

  it('show the first referrer without its query, and not before the landing', () => {
    const cells = traceValues(input()).find((r) => r.value === 'first_referrer')!.cells;
    expect([cells.clicked!.state, cells.landed!.value]).toEqual(['not_seen', 'quillsearch.localhost/']);
  });

  it('do not show the referrer of a later landing as the first', () => {
    const first = { ...kept.first!, at: start - day, referrer: 'wren.example/' };
    const cells = traceValues(input({ keptHit: { ...hit, kept: { ...hit.kept, first } } as Hit })).find(
      (r) => r.value === 'first_referrer',
    )!.cells;
    expect([cells.landed!.state, cells.kept!.value]).toEqual(['not_seen', 'wren.example/']);
  });

  it('are what changed on the way where one was cut or emptied, and not where a swap table worded it', () => {
    const fills = decideFills(form, kept, rules).report.map((line) =>
      line.reading === 'last_source' ? { ...line, value: 'Quillsearch ads', rule: 'words' } : line,
    );
    const change = { fills, swapOf: (rule: string) => (rule === 'words' ? 'source-words' : '') };
    expect(row('source', { ...change, record: null })).toMatchObject({ form_sent: 'by the swap table source-words' });
    const changed = changedOnTheWay(
      traceValues(input({ ...change, record: record({ source: 'Quillsearch ads', campaign: 'uk-27q1-fleet-wint' }) })),
    );
    expect(changed).toEqual([
      { value: 'click_id', hop: 'in_crm', how: 'empty' },
      { value: 'campaign', hop: 'in_crm', how: 'cut at 18 characters' },
    ]);
  });

  it('leave out what was never there, and say “not seen” where nothing looked', () => {
    expect(row('content')).toBeUndefined();
    expect(row('medium')).toMatchObject({ form_sent: 'not_seen', in_crm: 'not_seen' });
    expect(row('click_id', { record: null, fills: null })).toMatchObject({ form_sent: 'not_seen', in_crm: 'not_seen' });
  });

  it('name another click ID in the browser than the one that arrived', () => {
    const other = {
      ...hit,
      kept: { ...hit.kept, clicks: [{ platform: 'quillsearch', clickId: 'Q9', at: start }] },
    } as Hit;
    expect(row('click_id', { keptHit: other })).toMatchObject({ kept: 'another value' });
  });
});
