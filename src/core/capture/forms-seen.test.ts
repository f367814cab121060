import { describe, expect, it } from 'vitest';
import { judgeForms, readingFor, type SeenOnPage } from './forms-seen';
import type { FieldInCrm } from './fields-in-crm';
import { fillRule, rules as fixture, start } from './rules.fixture';

const rules = {
  ...fixture,
  forms: [
    { name: 'test-ride', words: 'Ask for a test ride', counts: 'enquiry' as const },
    { name: 'call-back', words: 'Ask for a call back', counts: 'enquiry' as const },
  ],
  fill: [
    fillRule({ id: 'click', field: 'click_id', reading: 'click_id' }),
    fillRule({ id: 'source', field: 'source', reading: 'last_source' }),
  ],
};
const crm = { click_id: 'click_id', last_source: 'source' } as const;
const seen = (form: string, hidden: string[], more: Partial<SeenOnPage> = {}): SeenOnPage => ({
  form,
  page: 'larkmoor.localhost/fleet',
  lastAt: start,
  fills: [],
  fields: [{ name: 'mail', hidden: false }, ...hidden.map((name) => ({ name, hidden: true }))],
  ...more,
});
const problems = (...forms: SeenOnPage[]) =>
  judgeForms(forms, rules, crm).forms.flatMap((one) => one.problems.map((problem) => ({ form: one.form, ...problem })));

describe('a form that was seen', () => {
  it('is sound where every hidden field is filled under the name that the CRM reads', () => {
    const { forms, idle } = judgeForms([seen('test-ride', ['click_id', 'source', 'avx_lead'])], rules, crm);
    expect(forms).toMatchObject([{ words: 'Ask for a test ride', problems: [] }]);
    expect(forms[0]!.fields.map(({ name, rules: by }) => [name, by.join()])).toEqual([
      ['click_id', 'click'],
      ['source', 'source'],
      ['avx_lead', ''],
    ]);
    expect(idle).toEqual([]);
  });

  it('has a field of nearly the right name: that is named before anybody sent it', () => {
    expect(problems(seen('call-back', ['click_ref', 'source', 'avx_lead']))).toEqual([
      { form: 'call-back', code: 'near', rule: 'click', field: 'click_id', near: 'click_ref' },
    ]);
  });

  it('fills a field that the CRM reads under another name', () => {
    const fill = [fillRule({ id: 'click', field: 'click_ref', reading: 'click_id' }), rules.fill[1]!];
    const { forms } = judgeForms([seen('call-back', ['click_ref', 'source', 'avx_lead'])], { ...rules, fill }, crm);
    expect(forms[0]!.problems).toEqual([{ code: 'unread', field: 'click_ref', reading: 'click_id', crm: 'click_id' }]);
  });

  it('is told by what the CRM holds of its sendings: cut, ignored, or read after all', () => {
    const one = { form: 'test-ride', times: 3, of: 3 };
    const judged = (name: string, more: Partial<FieldInCrm>) => {
      const fill = [fillRule({ id: 'source', field: name, reading: 'last_source' })];
      const known = { ...one, field: name, reading: 'last_source', crm: 'source', how: '', ...more } as FieldInCrm;
      return judgeForms([seen('test-ride', [name, 'avx_lead'])], { ...rules, fill }, crm, [known]).forms[0]!.problems;
    };
    expect(judged('utm_source', { state: 'same' })).toEqual([]);
    expect(judged('source', { state: 'changed', how: 'cut at 18 characters' })).toEqual([
      { code: 'changed', field: 'source', crm: 'source', how: 'cut at 18 characters', times: 3, of: 3 },
    ]);
    expect(judged('source', { state: 'ignored', crm: '' })).toEqual([
      { code: 'ignored', field: 'source', reading: 'last_source', times: 3, of: 3 },
    ]);
  });

  it('misses no field whose value another field carries', () => {
    const fill = [rules.fill[1]!, fillRule({ id: 'utm', field: 'utm_source', reading: 'last_source' })];
    const { forms } = judgeForms([seen('test-ride', ['utm_source', 'avx_lead'])], { ...rules, fill }, crm);
    expect(forms[0]!.problems).toEqual([
      { code: 'unread', field: 'utm_source', reading: 'last_source', crm: 'source' },
    ]);
  });

  it('has a field nobody fills, a field that is missing, and no lead token', () => {
    expect(problems(seen('test-ride', ['click_id', 'utm_campaign', 'session']))).toEqual([
      { form: 'test-ride', code: 'missing', rule: 'source', field: 'source' },
      { form: 'test-ride', code: 'unfilled', field: 'utm_campaign', reading: 'last_campaign' },
      { form: 'test-ride', code: 'unfilled', field: 'session', reading: null },
      { form: 'test-ride', code: 'no_token' },
    ]);
  });

  it('that nobody follows is asked only for what its names ask for', () => {
    expect(problems(seen('letter', ['list', 'utm_source']))).toEqual([
      { form: 'letter', code: 'unfilled', field: 'utm_source', reading: 'last_source' },
    ]);
  });

  it('stands on several pages, and its newest sight counts', () => {
    const { forms } = judgeForms(
      [
        seen('test-ride', ['click_ref', 'avx_lead']),
        seen('test-ride', ['click_id', 'source', 'avx_lead'], { page: 'larkmoor.localhost/nl', lastAt: start + 1 }),
      ],
      rules,
      crm,
    );
    expect(forms).toMatchObject([{ pages: ['larkmoor.localhost/fleet', 'larkmoor.localhost/nl'], problems: [] }]);
  });

  it('leaves a rule idle that it does not match', () => {
    const fill = [...rules.fill, fillRule({ id: 'x', find: 'label', field: 'Reference', reading: 'click_id' })];
    const sight = seen('test-ride', ['click_id', 'source', 'avx_lead']);
    expect(judgeForms([sight], { ...rules, fill }, crm).idle.map(({ id }) => id)).toEqual(['x']);
    const told = { ...sight, fills: [{ rule: 'x', field: 'Reference', near: '', state: 'filled' as const }] };
    expect(judgeForms([told], { ...rules, fill }, crm).idle).toEqual([]);
  });
});

it.each([
  ['utm_source', 'last_source'],
  ['Campaign', 'last_campaign'],
  ['first-landing-page', 'first_landing'],
  ['utm_id', 'last_id'],
  ['first_utm_medium', 'first_medium'],
  ['first_content', 'first_content'],
  ['id', null],
  ['click_ref', 'click_id'],
  ['qsid', 'click_id'],
  ['company', null],
])('the name %s asks for %s', (name, reading) => expect(readingFor(name, rules)).toBe(reading));
