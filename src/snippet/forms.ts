import {
  decideFills,
  leadTokenField,
  type CaptureRules,
  type FillReport,
  type FormOnPage,
  type Kept,
} from '../core/capture';

/* A form's own properties may be hidden behind fields of their names, so forms are read by the browser's own ways only. */
const { Element: elements, HTMLFormElement: formElements } = globalThis as Partial<typeof globalThis>;
const getElements = Object.getOwnPropertyDescriptor(formElements?.prototype ?? {}, 'elements')?.get;
const attributeOf = (form: HTMLFormElement, name: string): string | null =>
  (elements?.prototype ?? form).getAttribute.call(form, name);
const fieldsOf = (form: HTMLFormElement): HTMLInputElement[] => [
  ...((getElements?.call(form) ?? form.elements) as HTMLInputElement[]),
];

const nameOf = (form: HTMLFormElement) => attributeOf(form, 'name') ?? attributeOf(form, 'id') ?? '';

/** Fields that may be filled: those no visitor sees, and lines of text. A frame's elements are of its own classes. */
const fillable = (form: HTMLFormElement) => fieldsOf(form).filter(({ type }) => type === 'hidden' || type === 'text');

/** On the window of a page that runs the snippet itself. */
export const runsHere = Symbol.for('avrix');

/**
 * This page's document and those of frames of the same origin that do not run the snippet themselves; of frames of other
 * origins nothing can be seen.
 */
export function documents(): Document[] {
  const all = [document];
  const { frames = [] as unknown as Window } = globalThis as unknown as { frames?: Window };
  for (let i = 0; i < frames.length; i++)
    try {
      if (!(frames[i] as unknown as Record<symbol, boolean>)[runsHere]) all.push(frames[i]!.document);
    } catch {
      // Of another origin.
    }
  return all;
}

/** Every form of this page. */
export const allForms = () => documents().flatMap((one) => [...one.forms]);

export const isFollowed = (form: HTMLFormElement, rules: CaptureRules) =>
  rules.forms.some(({ name }) => name === nameOf(form));

/** Fills a form's fields and tells what became of each rule. */
export function fillForm(form: HTMLFormElement, kept: Kept, rules: CaptureRules): FillReport[] {
  const fields = fillable(form);
  const seen = {
    name: nameOf(form),
    page: location.pathname,
    fields: fields.map((field) => ({
      name: field.name,
      id: field.id,
      label: field.labels?.[0]?.textContent ?? '',
      hidden: field.type === 'hidden',
      value: field.value,
    })),
    matches: (field: number, selector: string) => {
      try {
        return fields[field]!.matches(selector);
      } catch {
        return false;
      }
    },
  };
  const { fills, report } = decideFills(seen, kept, rules);
  for (const { field, value } of fills) {
    const input = fields[field]!;
    // Programs that draw forms hear of a new value by these events only.
    if (input.value !== value) {
      input.value = value;
      for (const name of ['input', 'change']) input.dispatchEvent(new Event(name, { bubbles: true }));
    }
  }
  return report;
}

/** Everything a form hit says of a form that is being sent; puts the lead token into its field. */
export function describeSending(form: HTMLFormElement, leadToken: string, kept: Kept, rules: CaptureRules) {
  const fills = fillForm(form, kept, rules);
  for (const input of fillable(form)) if (input.name === leadTokenField) input.value = leadToken;
  const names = fieldsOf(form)
    .map((field) => field.getAttribute('name') ?? '')
    .filter((name) => name !== '');
  return { form: nameOf(form), fields: [...new Set(names)].slice(0, 100), fills };
}

/** A form as it stands: the names of its fields and what became of each rule; no contents. */
export function describeForm(form: HTMLFormElement, fills: FillReport[]): FormOnPage {
  const fields = new Map<string, boolean>();
  for (const field of fieldsOf(form)) {
    const name = field.getAttribute('name') ?? '';
    if (name) fields.set(name.slice(0, 120), field.type === 'hidden');
  }
  return {
    form: nameOf(form).slice(0, 120),
    fields: [...fields].slice(0, 60).map(([name, hidden]) => ({ name, hidden })),
    fills: fills.slice(0, 60).map(({ rule, field, near, state }) => ({ rule, field, near, state })),
  };
}
