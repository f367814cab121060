import { readingFor } from '../capture/forms-seen';
import { leadTokenField } from '../capture/fill';
import type { FillRule } from '../capture/schema';
import { candidatesFor } from '../events/pointed';
import { freshCue, freshEvent, usualOnceFor } from '../events/words';
import type { EventRule } from '../events/schema';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import type { RuleChange } from '../rules';
import type { OnPage } from './on-page';

/** Something that was found on a page, in words, with the rule that would do it from now on; null where there is none. */
export interface FoundOffer {
  words: string;
  change: RuleChange | null;
}

/**
 * What a page does already, each with the draft rule that takes it over. What the rules do by now is left out.
 * @param page its address
 */
export function offersFrom(found: OnPage, page: string, content: ReleaseContent): FoundOffer[] {
  const host = new URL(page).host;
  return [
    ...found.events.flatMap((one) => eventOffer(one, host, content)),
    ...found.hiddenFields.flatMap((one) => fieldOffer(one, content)),
    ...found.scripts.map((one) => ({ words: `Loads a script from ${quoteValue(one)}.`, change: null })),
  ];
}

function eventOffer(
  { by, name, press, form }: OnPage['events'][number],
  host: string,
  { events }: ReleaseContent,
): FoundOffer[] {
  const id = eventName(name);
  if (id === '' || events.events.some((rule) => rule.name === id)) return [];
  const [how] = press || form ? candidatesFor({ press, form, path: '' }, host) : [];
  const cue: EventRule['cues'][number] | null =
    by === 'avrix:tell' ? { ...freshCue('says'), text: name } : how ? { ...freshCue(how.kind), text: how.text } : null;
  const words = `Tells ${quoteValue(by)} of ${quoteValue(name)}.`;
  if (!cue) return [{ words, change: null }];
  const rule: EventRule = {
    ...freshEvent(),
    name: id,
    words: name.slice(0, 80),
    cues: [cue],
    onceFor: usualOnceFor(cue.kind),
  };
  return [{ words, change: { kind: 'event', id, value: rule } }];
}

/** A name that some page uses as an event of ours is called; '' where nothing of it may stay. */
const eventName = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '_')
    .replace(/^[^a-z]+|_+$/g, '')
    .slice(0, 40);

function fieldOffer({ form, field }: OnPage['hiddenFields'][number], { capture }: ReleaseContent): FoundOffer[] {
  const reading = readingFor(field, capture);
  const isFilled = capture.fill.some(
    (rule) => rule.field === field && (rule.forms.length === 0 || rule.forms.includes(form)),
  );
  if (!reading || isFilled || field === leadTokenField) return [];
  const id = `${field}-${form || 'all'}`.replace(/[^A-Za-z0-9_-]+/g, '-').slice(0, 60);
  const rule: FillRule = {
    id,
    find: 'name',
    field,
    forms: form ? [form] : [],
    pages: [],
    reading,
    platform: '',
    swap: '',
    when: 'always',
    otherwise: '',
  };
  return [
    {
      words: `${form ? `The form ${quoteValue(form)}` : 'A form'} has the hidden field ${quoteValue(field)}.`,
      change: { kind: 'fill', id, value: rule },
    },
  ];
}
