import { quoteValue } from '../quote-value';
import { touchWords } from '../reasons/touch-words';
import { splitAddress } from './address';
import type { HandedHit, Hit } from './schema';

const handed: Record<HandedHit['how'], string> = {
  told: 'was told',
  no_opener: 'could not be told: no opener was there',
  no_function: 'could not be told: the opener’s function was not there',
  failed: 'could not be told: the opener failed',
};

/** What somebody did on a page, or what the page showed and told, as a sentence. @param forms what a form is called */
export function hitWords(hit: Hit, forms: (form: string) => string): string {
  switch (hit.kind) {
    case 'arrived':
      return `Opened ${quoteValue(splitAddress(hit.address)?.path ?? hit.address)}. ${touchWords[hit.why]}.`;
    case 'form_sent':
      return `Sent ${forms(hit.form)}.`;
    case 'pressed':
      return `Pressed ${quoteValue(hit.press.text || hit.press.link || hit.press.tag)}.`;
    case 'ordered':
      return `Ordered, number ${quoteValue(hit.number)}.`;
    case 'event':
      return `${quoteValue(hit.event)} went off.`;
    case 'consent':
      return 'Changed what is agreed to.';
    case 'forms_seen':
      return `Shows ${hit.forms.map(({ form }) => forms(form)).join(', ')}.`;
    case 'handed':
      return `Account ${quoteValue(hit.account)} ${handed[hit.how]} on the page of ${quoteValue(hit.event)}.`;
  }
}
