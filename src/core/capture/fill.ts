import { newestClick } from './keep';
import type { CaptureRules, FillReport, FillRule, Kept } from './schema';

/** The hidden field that every tracked form carries: a token made for each sending, passed on to the CRM. */
export const leadTokenField = 'avx_lead';

/** A form as the page sees it: its name and the names and present values of its hidden fields. */
export interface SeenForm {
  name: string;
  hidden: { name: string; value: string }[];
}

/** One value to put into one hidden field. */
export interface Fill {
  field: string;
  value: string;
}

/** The value of a reading from what is kept; '' where there is none. */
export function readValue(rule: Pick<FillRule, 'reading' | 'platform'>, kept: Kept): string {
  switch (rule.reading) {
    case 'click_id':
      return newestClick(kept.clicks, rule.platform || undefined)?.clickId ?? '';
    case 'first_source':
      return kept.first?.source ?? '';
    case 'last_source':
      return kept.last?.source ?? '';
    case 'last_medium':
      return kept.last?.medium ?? '';
    case 'last_campaign':
      return kept.last?.campaign ?? '';
    case 'last_content':
      return kept.last?.content ?? '';
    case 'last_term':
      return kept.last?.term ?? '';
    case 'first_referrer':
      return kept.first?.referrer ?? '';
    case 'first_landing':
      return kept.first?.landing ?? '';
  }
}

/**
 * Decides what goes into the hidden fields of a form, and reports for every fill rule what became of it: filled, had a
 * value already, the visit had no value, the field is missing, or only one of nearly the same name is there.
 */
export function decideFills(form: SeenForm, kept: Kept, rules: CaptureRules): { fills: Fill[]; report: FillReport[] } {
  const fills: Fill[] = [];
  const report: FillReport[] = [];
  const ruled = new Set(rules.fill.map((rule) => rule.field));
  for (const rule of rules.fill) {
    if (rule.forms.length > 0 && !rule.forms.includes(form.name)) continue;
    const value = readValue(rule, kept);
    const line = { rule: rule.id, field: rule.field, near: '', reading: rule.reading, value };
    const field = form.hidden.find((f) => f.name === rule.field);
    if (!field) {
      const near = form.hidden.find((f) => !ruled.has(f.name) && isNear(f.name, rule.field));
      report.push({
        ...line,
        state: near ? 'near' : 'not_found',
        near: near?.name ?? '',
        value: '',
      });
    } else if (value === '') {
      report.push({ ...line, state: 'no_value' });
    } else if (rule.when === 'empty' && field.value !== '' && field.value !== value) {
      report.push({ ...line, state: 'had_value', value: field.value.slice(0, 300) });
    } else {
      fills.push({ field: rule.field, value });
      report.push({ ...line, state: 'filled' });
    }
  }
  return { fills, report };
}

/** True for names that a person would take for the same: case and separators aside, or sharing their first word. */
export function isNear(name: string, wanted: string): boolean {
  const plain = (text: string) => text.toLowerCase().replace(/[^a-z0-9]/g, '');
  const firstWord = (text: string) => text.toLowerCase().split(/[^a-z0-9]+/)[0] ?? '';
  if (name === wanted) return false;
  if (plain(name) === plain(wanted)) return true;
  return firstWord(name) === firstWord(wanted) && !['utm', 'first', 'last'].includes(firstWord(wanted));
}
