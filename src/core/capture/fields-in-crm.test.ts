import { describe, expect, it } from 'vitest';
import { fieldsInCrm, type FollowedSending } from './fields-in-crm';

const crm = { click_id: 'click_id', last_source: 'source', last_campaign: 'campaign' } as const;
const line = (field: string, reading: string, value: string) => ({
  rule: field,
  field,
  near: '',
  reading,
  value,
  state: 'filled' as const,
});
const sending = (fills: FollowedSending['fills'], record: Record<string, string>, form = 'test-ride') => ({
  form,
  fills,
  record,
});
const campaign = line('campaign', 'last_campaign', 'uk-27q1-fleet-winterproof');

describe('what a form carried, in the CRM', () => {
  it('is the same, changed, empty, or in no field at all', () => {
    const fills = [
      ...[campaign, line('click_id', 'click_id', 'Q1'), line('source', 'last_source', 'quillsearch')],
      line('placement', 'last_referrer_host', 'wren.example'),
    ];
    const found = fieldsInCrm(
      [sending(fills, { campaign: 'uk-27q1-fleet-wint', click_id: '', source: 'quillsearch' })],
      crm,
    );
    expect(found.map(({ field, state, how }) => [field, state, how])).toEqual([
      ['campaign', 'changed', 'cut at 18 characters'],
      ['click_id', 'empty', ''],
      ['source', 'same', ''],
      ['placement', 'ignored', ''],
    ]);
  });

  it('is read under the mapping’s name where the CRM has no field of the form’s own', () => {
    const fills = [line('utm_source', 'last_source', 'quillsearch')];
    expect(fieldsInCrm([sending(fills, { source: 'quillsearch' })], crm)).toMatchObject([
      { field: 'utm_source', state: 'same', crm: 'source' },
    ]);
    expect(fieldsInCrm([sending(fills, { source: '' })], crm)).toMatchObject([{ state: 'ignored', crm: '' }]);
  });

  it('is not looked for under the mapping’s name where a swap table words it', () => {
    const fills = [line('placement', 'last_source', 'search results')];
    const found = fieldsInCrm([sending(fills, { source: 'quillsearch' })], crm, (rule) => rule === 'placement');
    expect(found).toMatchObject([{ state: 'ignored', crm: '' }]);
  });

  it('is told by the newest sending that carried a value, with how many came out so', () => {
    const cut = sending([campaign], { campaign: 'uk-27q1-fleet-wint' });
    const whole = sending([campaign], { campaign: campaign.value });
    const none = sending([{ ...campaign, state: 'no_value' as never, value: '' }], { campaign: '' });
    expect(fieldsInCrm([none, cut, cut, whole], crm)).toMatchObject([{ state: 'changed', times: 2, of: 3 }]);
    expect(fieldsInCrm([whole, cut], crm)).toMatchObject([{ state: 'same', times: 1, of: 2 }]);
    expect(fieldsInCrm([none], crm)).toEqual([]);
  });
});
