import { expect, it } from 'vitest';
import { fillEffect, type SentForm } from './fill-effect';
import { nothingKept } from './keep';
import { fillRule, rules, start } from './rules.fixture';

const sent = (n: number, form: string, fields: string[], clickId = ''): SentForm => ({
  at: start + n,
  form,
  page: '/fleet',
  fields,
  kept: { ...nothingKept(), clicks: clickId ? [{ platform: 'quillsearch', clickId, at: start }] : [] },
});
const forms = [
  ...Array.from({ length: 7 }, (_, n) => sent(n, 'test-ride', ['mail', 'click_id'], `Q${n}`)),
  sent(8, 'test-ride', ['mail', 'click_id']),
  sent(9, 'call-back', ['mail', 'click_ref'], 'Q9'),
  sent(10, 'letter', ['mail'], 'Q10'),
];

it('says what a rule would have put into the forms that were sent, the last five, and what it just missed', () => {
  const effect = fillEffect(fillRule({ id: 'r', field: 'click_id', reading: 'click_id' }), forms, rules);
  expect(effect).toMatchObject({ sent: 10, filled: 7, noValue: 1, notFound: 2 });
  expect(effect.near).toEqual([{ form: 'call-back', field: 'click_ref', times: 1 }]);
  expect(effect.last.map(({ value }) => value)).toEqual(['Q6', 'Q5', 'Q4', 'Q3', 'Q2']);
});

it('counts only the forms that the rule is for', () => {
  const rule = fillRule({ id: 'r', field: 'click_ref', reading: 'click_id', forms: ['call-back'] });
  expect(fillEffect(rule, forms, rules)).toMatchObject({ sent: 1, filled: 1, near: [] });
  expect(fillEffect({ ...rule, pages: ['/shop'] }, forms, rules)).toMatchObject({ sent: 0, filled: 0 });
});

it('finds nothing by what was not recorded', () => {
  const rule = fillRule({ id: 'r', find: 'selector', field: '.ref', reading: 'click_id' });
  expect(fillEffect(rule, forms, rules)).toMatchObject({ sent: 10, filled: 0, notFound: 10, near: [] });
});
