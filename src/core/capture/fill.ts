import { newestClick } from './lasting';
import { swapValue } from './swap';
import type { CaptureRules, FillReport, FillRule, Kept, Reading, Touch } from './schema';

/** The hidden field that every tracked form carries: a token made for each sending, passed on to the CRM. */
export const leadTokenField = 'avx_lead';

/** A field as the page sees it. */
export interface SeenField {
  name: string;
  id: string;
  label: string;
  /** True where no visitor sees it: only then is what stands in it ours to report. */
  hidden: boolean;
  value: string;
}

/** A form as the page sees it, with the fields that could be filled. */
export interface SeenForm {
  name: string;
  /** Path of the page. */
  page: string;
  fields: SeenField[];
  /** Whether a field is the one that a selector of the page's language means. */
  matches?: (field: number, selector: string) => boolean;
}

/** One value to put into one field, named by its place in the form. */
export interface Fill {
  field: number;
  value: string;
}

/** The value of a reading from what is kept. `of`: whose click ID, or which kept value. */
export function readOf(reading: Reading, of: string, { clicks, values, ...kept }: Kept): string {
  if (reading === 'click_id') return newestClick(clicks, of || undefined)?.clickId ?? '';
  if (reading === 'kept_value') return values.find(({ name }) => name === of)?.value ?? '';
  // Every other reading is named by its touch and the part of it; a place's host stands before its first slash.
  const [touch, part, host] = reading.split('_') as ['first' | 'last', keyof Touch | 'id', string?];
  const value = String(kept[touch]?.[part === 'id' ? 'utmId' : part] ?? '');
  return host ? value.split('/')[0]! : value;
}

/** What a fill rule puts in: its reading, through its swap table where it names one; what it gives otherwise where there is none. */
export function readValue(
  { reading, platform, otherwise = '', swap }: Pick<FillRule, 'reading' | 'platform'> & Partial<FillRule>,
  kept: Kept,
  swaps: CaptureRules['swaps'] = [],
): string {
  const value = readOf(reading, platform, kept);
  const table = swap ? swaps.find(({ name }) => name === swap) : undefined;
  return (table ? swapValue(table, value, (other) => readOf(other, '', kept)) : value) || otherwise;
}

/** True where a rule is for a form on a page: for all, or for those it names; pages by how their paths begin. */
export const isFor = ({ forms, pages }: FillRule, form: Pick<SeenForm, 'name' | 'page'>): boolean =>
  (forms.length === 0 || forms.includes(form.name)) &&
  (pages.length === 0 || pages.some((page) => form.page.startsWith(page)));

function findField({ find, field }: FillRule, { fields, matches }: SeenForm): number {
  const plain = (text: string) =>
    text
      .trim()
      .replace(/[\s*:]+$/, '')
      .toLowerCase();
  return fields.findIndex((one, index) =>
    find === 'selector'
      ? matches?.(index, field)
      : find === 'label'
        ? plain(one.label) === plain(field)
        : one[find] === field,
  );
}

/**
 * Decides what goes into the fields of a form, and reports for every fill rule that is for it what became of it:
 * filled, had a value already, the visit had no value, the field is missing, or only one of nearly the same name is
 * there. Where two rules find one field, the first one's value holds.
 */
export function decideFills(form: SeenForm, kept: Kept, rules: CaptureRules): { fills: Fill[]; report: FillReport[] } {
  const fills: Fill[] = [];
  const report: FillReport[] = [];
  const ruled = new Set(rules.fill.map((rule) => rule.field));
  for (const rule of rules.fill) {
    if (!isFor(rule, form)) continue;
    const wanted = readValue(rule, kept, rules.swaps);
    const line = { rule: rule.id, field: rule.field, near: '', reading: rule.reading, value: wanted };
    const at = findField(rule, form);
    const field = form.fields[at];
    if (!field) {
      const near =
        rule.find === 'selector'
          ? undefined
          : form.fields.find(({ hidden, name }) => hidden && !ruled.has(name) && isNear(name, rule.field));
      report.push({ ...line, state: near ? 'near' : 'not_found', near: near?.name ?? '', value: '' });
    } else if (wanted === '') {
      report.push({ ...line, state: 'no_value' });
    } else if (rule.when === 'empty' && field.value !== '' && field.value !== wanted) {
      report.push({ ...line, state: 'had_value', value: field.hidden ? field.value.slice(0, 300) : '' });
    } else {
      if (!fills.some((fill) => fill.field === at)) fills.push({ field: at, value: wanted });
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
