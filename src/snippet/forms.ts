import { decideFills, leadTokenField, type CaptureRules, type FillReport, type Kept } from '../core/capture';

const nameOf = (form: HTMLFormElement) => form.getAttribute('name') ?? form.id;

const hiddenFields = (form: HTMLFormElement) =>
  [...form.elements].filter(
    (field): field is HTMLInputElement => field instanceof HTMLInputElement && field.type === 'hidden',
  );

/** The followed forms of this page. */
export const followedForms = (rules: CaptureRules) =>
  [...document.forms].filter((form) => rules.forms.some((followed) => followed.name === nameOf(form)));

/** Fills a form's hidden fields and tells what became of each rule. */
export function fillForm(form: HTMLFormElement, kept: Kept, rules: CaptureRules): FillReport[] {
  const fields = hiddenFields(form);
  const seen = { name: nameOf(form), hidden: fields.map(({ name, value }) => ({ name, value })) };
  const { fills, report } = decideFills(seen, kept, rules);
  for (const { field, value } of fills)
    for (const input of fields) if (input.name === field && input.value !== value) input.value = value;
  return report;
}

/** Everything a form hit says of a form that is being sent; puts the lead token into its field. */
export function describeSending(form: HTMLFormElement, leadToken: string, kept: Kept, rules: CaptureRules) {
  const fills = fillForm(form, kept, rules);
  for (const input of hiddenFields(form)) if (input.name === leadTokenField) input.value = leadToken;
  const names = [...form.elements].map((field) => field.getAttribute('name') ?? '').filter((name) => name !== '');
  return { form: nameOf(form), fields: [...new Set(names)].slice(0, 100), fills };
}
