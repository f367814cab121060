import type { FieldInCrm } from './fields-in-crm';
import { isFor, isNear, leadTokenField } from './fill';
import type { CaptureRules, FillRule, FormOnPage, Reading } from './schema';

/** A form on one page (host and path), as it stood there last (ms). */
export interface SeenOnPage extends FormOnPage {
  page: string;
  lastAt: number;
}

export type FormProblem =
  /** A rule looks for `field`; only `near` is there. */
  | { code: 'near'; rule: string; field: string; near: string }
  /** A rule is for this form; the field is not there. */
  | { code: 'missing'; rule: string; field: string }
  /** A hidden field that no rule fills, and the reading that its name asks for. */
  | { code: 'unfilled'; field: string; reading: Reading | null }
  /** A field carries a reading that the CRM reads under another name. */
  | { code: 'unread'; field: string; reading: Reading; crm: string }
  /** What the field carried is another value, or none, in the CRM's field. */
  | { code: 'changed'; field: string; crm: string; how: string; times: number; of: number }
  /** What the field carried is in no field of the CRM's records. */
  | { code: 'ignored'; field: string; reading: Reading; times: number; of: number }
  /** The form carries no lead token; its enquiries can be joined by guess only. */
  | { code: 'no_token' };

export interface JudgedForm {
  form: string;
  /** '' where its sendings are not followed. */
  words: string;
  pages: string[];
  lastAt: number;
  /** Its hidden fields, with the rules that fill each. */
  fields: { name: string; rules: string[] }[];
  problems: FormProblem[];
}

/** Which field of the CRM holds which reading. */
export type CrmFields = Partial<Record<Reading, string>>;

/**
 * Holds every form that was seen against the fill rules and against what the CRM reads: a field nobody fills,
 * a rule nobody matches, and a field of nearly the right name are named before anybody has sent the form. What was sent
 * already says more: a field counts by what the CRM holds of it.
 *
 * @param inCrm what became of fields' values in the CRM
 * @returns the forms, those with problems first, and the rules that no form matched
 */
export function judgeForms(
  seen: SeenOnPage[],
  rules: CaptureRules,
  crm: CrmFields,
  inCrm: FieldInCrm[] = [],
): { forms: JudgedForm[]; idle: FillRule[] } {
  const matched = new Set<string>();
  const byForm = new Map<string, SeenOnPage[]>();
  for (const one of seen) byForm.set(one.form, [...(byForm.get(one.form) ?? []), one]);

  const forms = [...byForm].map(([form, sights]): JudgedForm => {
    const followed = rules.forms.find(({ name }) => name === form);
    const words = followed?.words ?? '';
    // Of a sign-up only its lead token is to arrive: nothing else of it is read in the CRM.
    const isEnquiry = followed?.counts === 'enquiry';
    const newest = sights.reduce((a, b) => (b.lastAt > a.lastAt ? b : a));
    const hidden = newest.fields.filter((field) => field.hidden);
    const own = rules.fill.filter((rule) => isFor(rule, { name: form, page: pathOf(newest.page) }));
    const found = new Map(own.map((rule) => [rule, fieldOf(rule, newest)]));
    for (const [rule, field] of found) if (field !== null) matched.add(rule.id);
    const isFilled = (name: string) => own.filter((rule) => found.get(rule) === name);
    const isCarried = ({ reading, platform, swap }: FillRule) =>
      own.some(
        (o) => (found.get(o) ?? null) !== null && o.reading === reading && o.platform === platform && !o.swap === !swap,
      );
    const problems: FormProblem[] = [];

    for (const rule of own) {
      if (found.get(rule) !== null) continue;
      const near = hidden.find(({ name }) => isFilled(name).length === 0 && isNear(name, rule.field));
      // A rule for every form misses its field on many that never had it; only forms that are followed are to have it.
      if (near) problems.push({ code: 'near', rule: rule.id, field: rule.field, near: near.name });
      // What another field carries is not missing, whatever the CRM makes of that field.
      else if ((rule.forms.includes(form) || isEnquiry) && !isCarried(rule))
        problems.push({ code: 'missing', rule: rule.id, field: rule.field });
    }
    for (const { name } of hidden) {
      const [rule] = isFilled(name);
      // What a swap table makes of a reading is another thing than the reading.
      const wanted = rule && !rule.swap && crm[rule.reading];
      const known = inCrm.find((one) => one.form === form && one.field === name);
      // One that somebody in sales wrote over is no fault of the field.
      if (rule && known && (known.state === 'changed' || known.state === 'empty') && known.times * 2 >= known.of) {
        const { crm: holder, how, times, of } = known;
        problems.push({ code: 'changed', field: name, crm: holder, how: how || 'empty', times, of });
      } else if (rule && wanted && wanted !== name && known?.state !== 'same')
        problems.push({ code: 'unread', field: name, reading: rule.reading, crm: wanted });
      else if (rule && known?.state === 'ignored')
        problems.push({ code: 'ignored', field: name, reading: rule.reading, times: known.times, of: known.of });
      const isNamed = problems.some((problem) => problem.code === 'near' && problem.near === name);
      const reading = readingFor(name, rules);
      if (!rule && !isNamed && name !== leadTokenField && (isEnquiry || reading))
        problems.push({ code: 'unfilled', field: name, reading });
    }
    if (words && !newest.fields.some(({ name }) => name === leadTokenField)) problems.push({ code: 'no_token' });
    return {
      form,
      words,
      pages: sights.map(({ page }) => page).sort(),
      lastAt: newest.lastAt,
      problems,
      fields: hidden.map(({ name }) => ({ name, rules: isFilled(name).map(({ id }) => id) })),
    };
  });
  forms.sort(
    (a, b) =>
      b.problems.length - a.problems.length ||
      Number(a.words === '') - Number(b.words === '') ||
      a.form.localeCompare(b.form),
  );
  return { forms, idle: rules.fill.filter(({ id }) => !matched.has(id)) };
}

const pathOf = (page: string): string => page.slice(page.indexOf('/')) || '/';

/** The name of the field that a rule finds on a form; null where it finds none. */
function fieldOf(rule: FillRule, { fields, fills }: SeenOnPage): string | null {
  if (rule.find === 'name') return fields.find(({ name }) => name === rule.field)?.name ?? null;
  // Only the page can tell; it did for the rules of its own release.
  const told = fills.find((fill) => fill.rule === rule.id);
  return told && told.state !== 'not_found' && told.state !== 'near' ? rule.field : null;
}

const byWord: [RegExp, Reading][] = [
  [/^(utm)?source$|^lastsource$/, 'last_source'],
  [/^(utm)?medium$|^lastmedium$/, 'last_medium'],
  [/^(utm)?campaign$|^lastcampaign$/, 'last_campaign'],
  [/^(utm)?content$/, 'last_content'],
  [/^(utm)?term$/, 'last_term'],
  [/^utmid$|^campaignid$/, 'last_id'],
  [/^first(utm)?source$/, 'first_source'],
  [/^first(utm)?medium$/, 'first_medium'],
  [/^first(utm)?campaign$/, 'first_campaign'],
  [/^first(utm)?content$/, 'first_content'],
  [/^first(utm)?term$/, 'first_term'],
  [/^first(utm)?id$|^firstcampaignid$/, 'first_id'],
  [/^(first)?referrer$/, 'first_referrer'],
  [/^(first)?landing(page)?$/, 'first_landing'],
  [/^click(id|ref|key)?$/, 'click_id'],
];

/** The reading that a field's name asks for, or null. */
export function readingFor(name: string, { keep }: Pick<CaptureRules, 'keep'>): Reading | null {
  const plain = name.toLowerCase().replace(/[^a-z0-9]/g, '');
  if (
    keep.clickIds.some(({ parameter, alsoAs }) => [parameter, ...alsoAs].some((name) => name.toLowerCase() === plain))
  )
    return 'click_id';
  return byWord.find(([words]) => words.test(plain))?.[1] ?? null;
}
