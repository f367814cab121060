import { hostOf } from '../capture';
import type { Press } from './press';
import { lastingSelector, looksGenerated } from './selector';

/** How somebody can say what they pointed at, and what would make it mean something else. */
export interface Candidate {
  kind: 'presses' | 'presses_words' | 'leaves_for' | 'sends';
  /** As the cue has it. */
  text: string;
  /** `lasts`: nothing that usually changes; else what it goes with. */
  lasts: 'lasts' | 'wording' | 'structure' | 'generated';
}

/** What was pointed at on a page. */
export interface PointedAt {
  /** null for a form that was pointed at beside its fields. */
  press: Press | null;
  /** The form that pressing it sends, by its name; '' where it sends none. */
  form: string;
  /** Its place in the page: `main > p:nth-of-type(2) > a`. */
  path: string;
}

/**
 * The ways to say what was pointed at, the most lasting one first: the form that it sends, what it was given to be known
 * by, where it leads, the words on it, its place in the page.
 *
 * @param host the page's own
 */
export function candidatesFor({ press, form, path }: PointedAt, host: string): Candidate[] {
  const found: Candidate[] = form ? [{ kind: 'sends', text: form, lasts: 'lasts' }] : [];
  if (!press) return found;
  const add = (kind: Candidate['kind'], text: string, lasts: Candidate['lasts']) =>
    text !== '' && found.push({ kind, text, lasts });
  add('presses', lastingSelector(press), 'lasts');
  const scheme = /^(tel|mailto|sms):/.exec(press.link)?.[0];
  const leads = scheme ?? (press.link && hostOf(press.link) !== host ? hostOf(press.link) : '');
  add('leaves_for', leads, 'lasts');
  add('presses_words', press.text, 'wording');
  if (press.id && looksGenerated(press.id)) add('presses', `[id="${press.id.replace(/["\\]/g, '\\$&')}"]`, 'generated');
  add('presses', path, 'structure');
  return found;
}

export const lastsWords: Record<Candidate['lasts'], string> = {
  lasts: 'lasts',
  wording: 'until its words change',
  structure: 'until the page is rebuilt',
  generated: 'looks generated: it may be another one tomorrow',
};
