import { decideFills, leadTokenField, type CaptureRules, type FillReport, type Kept } from '../core/capture';
import { fieldsOf, lookUp, nameOf, putInto } from './natives';

/** Fields that may be filled: those no visitor sees, and lines of text. A frame's elements are of its own classes. */
const fillable = (form: HTMLFormElement) => fieldsOf(form).filter(({ type }) => type === 'hidden' || type === 'text');

export const isFollowed = (form: string, rules: CaptureRules) => rules.forms.some(({ name }) => name === form);

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
        return lookUp(fields[field]!, 'matches', selector);
      } catch {
        return false;
      }
    },
  };
  const { fills, report } = decideFills(seen, kept, rules);
  for (const { field, value } of fills) putInto(fields[field]!, value);
  return report;
}

/**
 * Lead tokens of a page's forms: one for each sending. A form waits with one in its field, so that it also goes along
 * with what the page's own script reads from the form; once it was told of, the next sending gets another.
 */
export function makeTokens(newToken: () => string) {
  /** Each token there ever was on this page, with its form until that was told of. */
  const forms = new Map<string, WeakRef<HTMLFormElement> | null>();
  const toldWithout = new WeakSet<HTMLFormElement>();
  const fieldOf = (form: HTMLFormElement) => fillable(form).find(({ name }) => name === leadTokenField);

  /** Puts a new token into a form, and returns it. */
  function renew(form: HTMLFormElement): string {
    const [token, field] = [newToken(), fieldOf(form)];
    forms.set(token, new WeakRef(form));
    if (field) putInto(field, token);
    return token;
  }
  return {
    renew,
    /** Puts a token into a form that has none of ours. */
    ready(form: HTMLFormElement): void {
      const field = fieldOf(form);
      if (field && !forms.has(field.value)) renew(form);
    },
    /** The token under which a form is told of now: the one that waits in it, else a new one. */
    take(form: HTMLFormElement): string {
      const field = fieldOf(form);
      if (!field) toldWithout.add(form);
      const token = forms.get(field?.value ?? '') ? field!.value : renew(form);
      forms.set(token, null);
      return token;
    },
    /** True once a form was told of under the token in it, or without any. */
    isTold(form: HTMLFormElement): boolean {
      const field = fieldOf(form);
      return field ? forms.get(field.value) === null : toldWithout.has(form);
    },
    /** Those that were not told of, with their forms. */
    waiting: () =>
      [...forms].flatMap(([token, one]): [string, HTMLFormElement][] => {
        const form = one?.deref();
        return form ? [[token, form]] : [];
      }),
  };
}

/** The names of a form's fields, each once. */
export const fieldNames = (form: HTMLFormElement): string[] => [
  ...new Set(fieldsOf(form).flatMap((field) => lookUp(field, 'getAttribute', 'name')?.slice(0, 120) || [])),
];
