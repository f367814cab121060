import type { FillReport, FormOnPage } from '../../core/capture';
import type { MakePart } from '../part';

const mostKept = 60;
/** Forms that one page tells of; a list of more is no page of forms. */
const mostOnPage = 30;
const mostInHit = 10;
/** Characters of forms in one hit; a letter may take three bytes, and a body has 32,000. */
const mostCharacters = 8000;

/** Tells of each form that is in a page or comes into it, once for each browser until something changes in it. */
export const part: MakePart = ({ setup, stored, toText }) => {
  const kept = stored<string>('forms');
  let count = 0;
  let fresh: FormOnPage[] = [];

  return {
    clear: () => kept.write([]),
    work({ onForm, onLooked, tell, nameOf, fieldsOf }) {
      onForm((element, report) => {
        const form = describeForm(nameOf(element), fieldsOf(element), report);
        // Whether this visit had a value to fill in says nothing of the form.
        const fills = form.fills.map(({ near, state }) => near || state === 'not_found');
        const mark = markOf(toText([setup.release, location.pathname, form.form, form.fields, fills]));
        const told = kept.read();
        if (form.fields.length === 0 || told.includes(mark) || count >= mostOnPage) return;
        count++;
        kept.write([...told, mark].slice(-mostKept));
        fresh.push(form);
      });
      onLooked(() => {
        for (const forms of inHits(fresh, toText)) tell({ kind: 'forms_seen', forms });
        fresh = [];
      });
    },
  };
};

/** Forms in as few hits as hold them. */
function inHits(forms: FormOnPage[], toText: (form: FormOnPage) => string): FormOnPage[][] {
  const hits: FormOnPage[][] = [];
  let left = 0;
  for (const form of forms) {
    const size = toText(form).length;
    if (size > left || hits.at(-1)?.length === mostInHit) {
      hits.push([]);
      left = mostCharacters;
    }
    hits.at(-1)!.push(form);
    left -= size;
  }
  return hits;
}

/** A form as it is: the names of its fields and what became of each rule; no contents. */
function describeForm(name: string, elements: HTMLInputElement[], fills: FillReport[]): FormOnPage {
  const fields = new Map<string, boolean>();
  for (const field of elements) {
    const name = field.getAttribute('name') ?? '';
    if (name) fields.set(name.slice(0, 120), field.type === 'hidden');
  }
  return {
    form: name.slice(0, 120),
    fields: [...fields].slice(0, 60).map(([name, hidden]) => ({ name, hidden })),
    fills: fills.slice(0, 60).map(({ rule, field, near, state }) => ({ rule, field, near, state })),
  };
}

/** A short mark of a text; two texts with one mark cost no more than one form told late. */
function markOf(text: string): string {
  let mark = 5381;
  for (let i = 0; i < text.length; i++) mark = (mark * 33 + text.charCodeAt(i)) | 0;
  return (mark >>> 0).toString(36);
}
