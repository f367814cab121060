import type { FormOnPage } from '../core/capture';
import type { SnippetSetup } from './setup';
import { makeStored } from './stored';

const mostKept = 60;
const mostInHit = 10;
/** Characters of forms in one hit; a letter may take three bytes, and a body has 32,000. */
const mostCharacters = 8000;

/** Which forms this browser has told of, by page and content, so that each is told once until something changes. */
export function makeSeenForms({ business, release }: SnippetSetup) {
  const stored = makeStored<string>(`avx_forms_${business}`);
  let told = stored.read();

  return {
    clear: () => stored.write([]),
    /** Those of the forms that were not told of yet, as many as one hit holds; they are from now on. */
    fresh(forms: FormOnPage[]): FormOnPage[] {
      const fresh: FormOnPage[] = [];
      let characters = 0;
      for (const form of forms) {
        const size = JSON.stringify(form).length;
        // Whether this visit had a value to fill in says nothing of the form.
        const fills = form.fills.map(({ near, state }) => near || state === 'not_found');
        const mark = markOf(JSON.stringify([release, location.pathname, form.form, form.fields, fills]));
        if (form.fields.length === 0 || told.includes(mark)) continue;
        if (fresh.length === mostInHit || (characters > 0 && characters + size > mostCharacters)) continue;
        characters += size;
        told = [...told, mark].slice(-mostKept);
        fresh.push(form);
      }
      if (fresh.length > 0) stored.write(told);
      return fresh;
    },
  };
}

/** A short mark of a text; two texts with one mark cost no more than one form told late. */
function markOf(text: string): string {
  let mark = 5381;
  for (let i = 0; i < text.length; i++) mark = (mark * 33 + text.charCodeAt(i)) | 0;
  return (mark >>> 0).toString(36);
}
