import { describe, expect, it } from 'vitest';
import { lossClass, lossClasses, type Reason } from './codes';
import { lossStation, reasonWords } from './words';

const all: Reason[] = [
  { code: 'cookies_blocked' },
  { code: 'not_kept' },
  { code: 'kept_changed' },
  { code: 'visit_ended' },
  { code: 'visit_running' },
  { code: 'form_no_rule', form: 'f' },
  { code: 'form_field_missing', form: 'f', field: 'a' },
  { code: 'form_field_near', form: 'f', field: 'a', near: 'b' },
  { code: 'form_value_differs', form: 'f', field: 'a' },
  { code: 'crm_not_yet' },
  { code: 'crm_never' },
  { code: 'crm_field_differs', form: 'f', sent: 'a', read: 'b' },
  { code: 'crm_value_empty', read: 'a' },
  { code: 'crm_value_changed', read: 'a' },
  { code: 'not_qualified_yet', stage: 'Asked' },
  { code: 'not_paid_yet' },
  { code: 'probably_same', as: 'LK-1' },
  { code: 'disqualified', stage: 'Not this time' },
  { code: 'click_too_old', days: 96, limit: 80 },
  { code: 'told_too_late', days: 13, limit: 12 },
  { code: 'no_platform_to_tell' },
  { code: 'no_account', platform: 'Quillsearch' },
  { code: 'no_click_in_crm' },
  { code: 'crm_click_differs' },
  { code: 'no_worth', field: 'lease_profit' },
  { code: 'not_due' },
  { code: 'not_answered', status: '500' },
  { code: 'maybe_taken', platform: 'Quillsearch' },
  { code: 'no_customer', mark: 'bot' },
  { code: 'left_stage', stage: 'Fleet assessed', leftFor: 'Not this time' },
  { code: 'refused', platform: 'Quillsearch', answer: 'no such click' },
  { code: 'not_in_report', platform: 'Quillsearch' },
  { code: 'unexplained' },
];
const mendable = all.filter((reason) => lossClass(reason) !== 'unexplained' || reason.code === 'unexplained');

describe('the words for a reason', () => {
  it.each(all)('$code is a sentence with a capital, and short', (reason) => {
    const { text, short } = reasonWords(reason);
    expect(text).toMatch(/^[\p{Lu}]/u);
    expect(text + short).not.toMatch(/undefined|[!]/);
    expect(short.length).toBeLessThan(48);
  });

  it.each(mendable)('$code, a loss, says one thing to do', (reason) => expect(reasonWords(reason).mend).not.toBe(''));

  it('names the form by its words', () => {
    const { text } = reasonWords({ code: 'form_no_rule', form: 'f' }, () => 'the form “Ask”');
    expect(text).toContain('“Ask”');
  });
});

describe('where a loss belongs', () => {
  it('is one station for each hop', () => {
    expect(
      (['landed', 'kept', 'form_sent', 'in_crm', 'qualified', 'told', 'confirmed'] as const).map(lossStation),
    ).toEqual(['Links', 'Capture', 'Capture', 'Leads', 'Report-backs', 'Report-backs', 'Report-backs']);
  });

  it('has a class for every reason, unexplained the last', () => {
    expect(new Set(all.map(lossClass)).size).toBeGreaterThan(4);
    expect(lossClass(null)).toBe(lossClasses.at(-1));
  });
});
