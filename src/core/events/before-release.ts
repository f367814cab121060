import { faceOf } from '../destinations/faces';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import { cueWords } from '../rules/cue';
import type { ContentFinding } from '../rules/findings';
import { nearestKnown } from './catalogue';
import { passes } from './compare';
import type { MovedPage } from './moved';
import { leadsTo, meetsSelector, plainWords, type Press } from './press';
import type { Cue, EventRule } from './schema';
import { sampleName, tellersOf } from './wires';

/** What was recorded in the last weeks, and what places outside say now. */
export interface Lately {
  weeks: number;
  forms: readonly string[];
  paths: readonly string[];
  /** null where presses were not recorded all that time. */
  presses: readonly Press[] | null;
  /** Pages that took the place of those that quiet events wait for, by event. */
  moved: Readonly<Record<string, MovedPage>>;
  /** Pairs of events that went off together each time. */
  pairs: readonly (readonly [one: string, other: string, times: number])[];
  /** Accounts that are connected and not paused, by key. */
  accounts: readonly string[];
  /** Names that places know, by account; null where one cannot be asked now. */
  known: Readonly<Record<string, readonly string[] | null>>;
}

const usual = 'Correct it, or leave it if it is only to come.';

/** Whether what a cue waits for was there lately; null where recorded traffic does not say. */
function wasThere({ kind, text, part, test }: Cue, { forms, paths, presses }: Lately): boolean | null {
  switch (kind) {
    case 'sends':
      return forms.includes(text);
    case 'arrives':
      return part === 'path' ? paths.some((path) => passes(test, path, text)) : null;
    case 'leaves_for':
      return presses && presses.some(({ link }) => leadsTo(link, text));
    case 'presses_words':
      return presses && presses.some((press) => plainWords(press.text) === plainWords(text));
    case 'presses': {
      if (!presses) return null;
      const met = presses.map((press) => meetsSelector(press, text));
      return met.includes(true) ? true : met.includes(null) ? null : false;
    }
    default:
      return null;
  }
}

const eventFinding = ({ name }: EventRule, was: string, fix: string): ContentFinding => ({
  weighs: 'warns',
  rule: { kind: 'event', id: name },
  was: `${quoteValue(name)} ${was}`,
  fix,
});

/** What of the events and wires of a release does not fit what was recorded lately, or what places outside say. */
export function findingsBeforeRelease(content: ReleaseContent, lately: Lately): ContentFinding[] {
  const { events, wires } = content.events;
  const found: ContentFinding[] = [];
  for (const rule of events) {
    const moved = lately.moved[rule.name];
    const waits = moved && rule.cues.some(({ kind, text }) => kind === 'arrives' && text === moved.was);
    if (waits)
      found.push(
        eventFinding(
          rule,
          `waits for ${quoteValue(moved.was)}, and visitors now reach ${quoteValue(moved.now)}`,
          'Use the new page.',
        ),
      );
    for (const cue of rule.cues)
      if (wasThere(cue, lately) === false && !(waits && cue.text === moved.was))
        found.push(
          eventFinding(rule, `waits for what nobody did in ${lately.weeks} weeks: someone ${cueWords(cue)}`, usual),
        );
  }
  for (const [one, other, times] of lately.pairs)
    if ([one, other].every((name) => events.some((event) => event.name === name)))
      found.push({
        weighs: 'warns',
        rule: { kind: 'event', id: one },
        was: `${quoteValue(one)} and ${quoteValue(other)} always went off together, ${times} times`,
        fix: 'If they are the same thing, keep one of them.',
      });
  for (const wire of wires) {
    const { event, account, kind } = wire;
    const id = `${event} ${account}`;
    const add = (was: string, fix: string) => found.push({ weighs: 'warns', rule: { kind: 'wire', id }, was, fix });
    const face = faceOf(kind, content.platforms);
    const words = face?.words ?? kind;
    if (!lately.accounts.includes(account))
      add(
        `${quoteValue(event)} is to be told to ${quoteValue(account)}, which is paused or not connected${tellersOf(wire).includes('page') ? ': pages have no opener of it' : ''}`,
        'Connect it, or let it go on, under Connections.',
      );
    const known = lately.known[account];
    const name = face && sampleName(wire, face);
    if (known && name && wire.named.every(({ reading }) => reading === '') && !known.includes(name)) {
      const near = nearestKnown(name, known);
      add(
        `${words} does not know ${quoteValue(name)}, as which it is told ${quoteValue(event)}: it would count none`,
        near ? `Use ${quoteValue(near)}, which is there, or make the name there.` : 'Make the name there, at its wire.',
      );
    }
    if (known === null)
      add(`${words} could not be asked which names it knows`, 'Look at its connection before you release.');
  }
  return found;
}
