import { counted } from '../counted';
import { valueWords, type FollowedValue } from '../leads/values';
import { platformName } from '../platforms/links';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases/schema';
import { hopWords, type Hop } from '../strands/types';
import type { TracedValue } from '../strands';
import { waysIn } from '../ways-in';
import { reachedOf } from './follow';
import type { Rehearsed } from './rehearse';

/**
 * Something that a rehearsal shows, by a key that stays when names change: `hop form kept`, `value in_crm campaign`,
 * `event enquiry_sent`, `wire enquiry_sent meterhall`, `told FLT-QUAL quillsearch`.
 */
export interface Fact {
  key: string;
  /** How it came out, such as `yes`, `same` or a number of times. */
  is: string;
}

/** A fact that a saved rehearsal expects. */
export type Expectation = Fact;

/** Every fact of a rehearsal that could be expected of it, in the order of the line. */
export function factsOf({ followed, events, tellings, release }: Rehearsed): Fact[] {
  const { content } = release;
  const facts: Fact[] = [];
  if (followed) {
    const way = waysIn[followed.way];
    const { reached } = reachedOf(followed);
    for (const [at, hop] of way.hops.entries())
      if (hop !== 'clicked' && hop !== 'confirmed')
        facts.push({ key: `hop ${way.kind} ${hop}`, is: at < reached ? 'yes' : 'no' });
    for (const { value, cells } of followed.values)
      for (const hop of ['form_sent', 'in_crm', 'told'] as const) {
        const state = cells[hop]?.state;
        if (state && wasSeen(state)) facts.push({ key: `value ${hop} ${value}`, is: state });
      }
  }
  for (const { name } of content.events.events) facts.push({ key: `event ${name}`, is: String(events[name] ?? 0) });
  const timesTold = (wanted: (one: Rehearsed['tellings'][number]) => boolean) =>
    String(tellings.filter((one) => one.state === 'told' && !one.isCorrection && wanted(one)).length);
  for (const { event, account, by } of content.events.wires)
    facts.push({
      key: `wire ${event} ${account}`,
      // A page and its server twin are one.
      is: timesTold((one) => one.event === event && one.account === account && (by !== 'both' || one.by === 'server')),
    });
  for (const { outcome, account } of content.telling)
    facts.push({
      key: `told ${outcome} ${account}`,
      is: timesTold((one) => one.outcome === outcome && one.account === account),
    });
  return facts;
}

const wasSeen = (state: TracedValue['state']): boolean => state !== 'not_seen' && state !== 'none';

const times = (is: string): string => (is === '1' ? 'once' : counted(Number(is), 'time', 'times'));

const changedWords: Record<string, string> = {
  first: 'is there',
  same: 'is the same',
  changed: 'is changed',
  swapped: 'is put into words',
  empty: 'is empty',
};

/** A fact as a sentence without its full stop. @param nameOf what people call an account */
export function factWords(
  { key, is }: Fact,
  content: Pick<ReleaseContent, 'telling' | 'platforms'>,
  nameOf: (account: string) => string,
): string {
  const [kind, first = '', second = ''] = key.split(' ');
  switch (kind) {
    case 'hop':
      return `It ${is === 'yes' ? 'reaches' : 'does not reach'} ${hopWords[second as Hop] ?? second}`;
    case 'value':
      return `The ${valueWords[second as FollowedValue] ?? second} ${changedWords[is] ?? is} at ${hopWords[first as Hop] ?? first}`;
    case 'event':
      return `${quoteValue(first)} ${is === '0' ? 'does not go off' : `goes off ${times(is)}`}`;
    case 'wire':
      return `${nameOf(second)} is ${is === '0' ? 'not told' : 'told'} of ${quoteValue(first)}${is === '0' ? '' : ` ${times(is)}`}`;
    default: {
      const platform = content.telling.find(({ account }) => account === second)?.platform ?? '';
      const name = nameOf(second) || platformName(platform, content.platforms);
      return `${name} is ${is === '0' ? 'not told' : 'told'} ${quoteValue(first)}${is === '0' ? '' : ` ${times(is)}, by the click ID`}`;
    }
  }
}

/** An expectation with how it came out. `now`: null where the rules have nothing of that name any more. */
export interface Kept extends Expectation {
  now: string | null;
}

/** Holds what a saved rehearsal expects against what it shows. */
export const heldAgainst = (expected: readonly Expectation[], facts: readonly Fact[]): Kept[] =>
  expected.map((one) => ({ ...one, now: facts.find(({ key }) => key === one.key)?.is ?? null }));

export const isKept = ({ is, now }: Kept): boolean => is === now;
