import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fleetQualified } from '../outcomes/rule.fixture';
import type { Strand } from '../strands';
import { enquiryHops, inOrderOfProgress, type CrmRecord, type CrmRule, type Deal, type EnquiryState } from '.';

const day = 86_400_000;
const asked = Date.UTC(2027, 0, 10, 9);
const strand: Strand = {
  id: 's',
  kind: 'click',
  platform: 'quillsearch',
  clickId: 'Q1',
  firstAt: asked - 3 * day,
  source: 'quillsearch',
  medium: 'paid-search',
  campaign: 'c',
  utmId: '',
  content: '',
  visitor: 'v',
  marked: '',
};
const enquiry: EnquiryState = {
  id: 'e',
  sentAt: asked,
  strand,
  form: 'test-ride',
  sentField: 'click_id',
  sentValue: 'Q1',
  release: 1,
  wayIn: 'form',
  sentOn: null,
  wasNone: '',
};
const crm: CrmRule = {
  account: 'oakledger',
  stages: { inOrder: ['Asked', 'Fleet assessed'], ended: ['Not this time'] },
  leadTokenField: 'avx_lead',
  fields: { click_id: 'click_id', source: 'source' },
};
const outcome = fleetQualified;
const record = (change: Partial<CrmRecord> = {}): CrmRecord => ({
  deal: 'D-1',
  person: 'P-1',
  personName: 'Anna',
  company: 'Bakery Oriel',
  madeAt: asked + 1000,
  changedAt: asked + 1000,
  stage: 'Asked',
  stageChanges: [{ stage: 'Asked', at: asked + 1000 }],
  fields: { click_id: 'Q1', source: 'quillsearch' },
  amounts: {},
  ...change,
});
const follow = (
  change: Partial<EnquiryState>,
  read: CrmRecord | (CrmRecord | Deal)[] | null,
  now = asked + day / 2,
  at?: number,
) =>
  enquiryHops(
    { ...enquiry, ...change },
    (Array.isArray(read) ? read : read ? [read] : []).map(dealOf),
    crm,
    outcome,
    at ?? null,
    now,
  );
/** A deal that the CRM still has. */
const dealOf = (given: CrmRecord | Deal): Deal =>
  'record' in given ? given : { record: given, goneAt: null, mergedInto: '' };
const hop = (result: ReturnType<typeof follow>, name: string) => result.hops.find((row) => row.hop === name)!;

describe('In CRM', () => {
  it('waits a day for the record, then it is lost', () => {
    const waiting = follow({}, null);
    expect(hop(waiting, 'in_crm')).toMatchObject({ state: 'waiting', reason: { code: 'crm_not_yet' } });
    expect(waiting.again).toBe(asked + day);
    expect(hop(follow({}, null, asked + day), 'in_crm')).toMatchObject({
      state: 'lost',
      reason: { code: 'crm_never' },
    });
  });

  it('is made where the record holds the very value', () => {
    expect(hop(follow({}, record()), 'in_crm')).toMatchObject({ state: 'made_it', at: asked + 1000 });
  });

  it('is lost where the form sends another field than the CRM reads, and says which', () => {
    const read = record({ fields: { click_id: '', source: 'quillsearch' } });
    expect(hop(follow({ form: 'call-back', sentField: 'click_ref' }, read), 'in_crm')).toMatchObject({
      state: 'lost',
      reason: { code: 'crm_field_differs', form: 'call-back', sent: 'click_ref', read: 'click_id' },
    });
  });

  it('is lost where the value is empty, or not the same to the letter', () => {
    expect(hop(follow({}, record({ fields: {} })), 'in_crm').reason).toEqual({
      code: 'crm_value_empty',
      read: 'click_id',
    });
    expect(hop(follow({}, record({ fields: { click_id: 'q1' } })), 'in_crm').reason).toEqual({
      code: 'crm_value_changed',
      read: 'click_id',
    });
  });
});

describe('an enquiry with several deals', () => {
  const second = record({ deal: 'D-2', madeAt: asked + day, stage: 'Fleet assessed', fields: {} });

  it('is in the CRM where one of them holds the value, since the first was made', () => {
    expect(hop(follow({}, [second, record()]), 'in_crm')).toMatchObject({ state: 'made_it', at: asked + 1000 });
    expect(hop(follow({}, [second, record({ fields: {} })]), 'in_crm')).toMatchObject({ state: 'lost' });
  });

  it('is as far as its furthest deal: one that is there before one that is gone, one that goes on before one that ended', () => {
    const deal = (name: string, stage: string, goneAt: number | null = null): Deal => ({
      record: record({ deal: name, stage }),
      goneAt,
      mergedInto: '',
    });
    const deals = [
      deal('D-1', 'Asked'),
      deal('D-2', 'Not this time'),
      deal('D-3', 'Fleet assessed', asked),
      deal('D-4', 'Fleet assessed'),
      deal('D-5', 'Fleet assessed'),
    ];
    const order = ['D-4', 'D-5', 'D-1', 'D-2', 'D-3'];
    fc.assert(
      fc.property(fc.shuffledSubarray(deals, { minLength: 5 }), (shuffled) => {
        expect(inOrderOfProgress(shuffled, crm.stages).map((one) => one.record.deal)).toEqual(order);
      }),
    );
  });
});

describe('Qualified', () => {
  it('waits, and looks again when the click becomes too old', () => {
    const waiting = follow({}, record());
    expect(hop(waiting, 'qualified')).toMatchObject({
      state: 'waiting',
      reason: { code: 'not_qualified_yet', stage: 'Asked' },
    });
    expect(waiting.again).toBe(strand.firstAt + 80 * day);
  });

  it('is left where the deal ended', () => {
    const ended = record({ stage: 'Not this time', stageChanges: [{ stage: 'Not this time', at: asked + day }] });
    expect(hop(follow({}, ended), 'qualified')).toMatchObject({ state: 'left', at: asked + day });
  });

  it('is left where the CRM deleted the record, or merged it into another that goes on', () => {
    const gone = { record: record(), goneAt: asked + day };
    expect(hop(follow({}, [{ ...gone, mergedInto: '' }]), 'qualified')).toMatchObject({
      state: 'left',
      at: asked + day,
      reason: { code: 'deal_deleted' },
    });
    expect(hop(follow({}, [{ ...gone, mergedInto: 'D-7' }]), 'qualified').reason).toEqual({
      code: 'deal_merged',
      deal: 'D-1',
      into: 'D-7',
    });
  });

  it('is made at the time of the outcome, and lost where the click was too old by then', () => {
    expect(hop(follow({}, record(), asked + 5 * day, asked + 4 * day), 'qualified')).toMatchObject({
      state: 'made_it',
      at: asked + 4 * day,
    });
    expect(hop(follow({}, record(), asked + 99 * day, strand.firstAt + 96 * day), 'qualified')).toMatchObject({
      state: 'lost',
      reason: { code: 'click_too_old', days: 96, limit: 80 },
    });
  });
});

describe('an enquiry without any known click', () => {
  it('has its earlier hops unknown, never lost', () => {
    const alone = follow({ strand: { ...strand, kind: 'enquiry', clickId: '' }, form: '' }, record());
    expect(alone.hops.slice(0, 4).map((row) => row.state)).toEqual(['unknown', 'unknown', 'unknown', 'unknown']);
    expect(hop(alone, 'in_crm').state).toBe('made_it');
  });
});

describe('a lead of a platform’s own form', () => {
  const sent = { ...enquiry, wayIn: 'lead_form' as const, form: 'A test ride', sentField: '', sentValue: '' };
  const sentOn = { platform: 'Tessaloop', keptDays: 60, fetchedAt: asked + 1000 };
  const hopsOf = (given: EnquiryState, records: CrmRecord[] = []) =>
    enquiryHops(
      given,
      records.map((one) => dealOf(one)),
      crm,
      outcome,
      null,
      asked + day,
    ).hops.map(({ hop, state, reason, wayIn }) => [wayIn, hop, state, reason?.code ?? '']);

  it('was sent and fetched there, and goes on in the CRM as every enquiry', () => {
    expect(hopsOf({ ...sent, sentOn }, [record()])).toEqual([
      ['lead_form', 'sent_there', 'made_it', ''],
      ['lead_form', 'fetched', 'made_it', ''],
      ['lead_form', 'in_crm', 'made_it', ''],
      ['lead_form', 'qualified', 'waiting', 'not_qualified_yet'],
    ]);
  });

  it('that was gone before it was fetched is lost there, and nothing is said of it after', () => {
    expect(hopsOf({ ...sent, sentOn: { ...sentOn, fetchedAt: null } })).toEqual([
      ['lead_form', 'sent_there', 'made_it', ''],
      ['lead_form', 'fetched', 'lost', 'gone_there'],
    ]);
  });
});
