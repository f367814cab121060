import { count } from '../counted';
import type { EventRule, WireRule } from '../events/schema';
import { listed } from '../listed';
import { quoteValue } from '../quote-value';
import type { ReleaseContent } from '../releases';
import type { OutcomeRule, TellingRule } from './schema';

/** One of several that count the same thing at one account. */
export interface Counter {
  /** An outcome that is told, or an event that is wired. */
  kind: 'outcome' | 'event';
  /** A code, or an event's name. */
  name: string;
  /** Who tells it. */
  by: 'server' | 'page' | 'both';
  /** Whether the platform may bid on it, as far as Avrix decides that. */
  bids: boolean;
}

/** Several that count the same thing at one account. */
export interface CountedTwice {
  account: string;
  /** What all of them count: orders, enquiries, an event, a page … */
  thing: string;
  counters: Counter[];
}

type Rules = Pick<ReleaseContent, 'outcomes' | 'telling' | 'events' | 'crm'>;

/** What an event counts: itself, and what sets it off. */
function thingsOfEvent({ name, cues, onceFor }: EventRule): string[] {
  return [
    `event ${name}`,
    ...cues.flatMap(({ kind, part, test, text }): string[] => {
      if (kind === 'orders') return ['orders'];
      if (kind === 'sends' && onceFor === 'lead_token') return ['enquiries'];
      return kind === 'arrives' && part === 'path' ? [`page ${test} ${text}`] : [];
    }),
  ];
}

/** What an outcome counts. The first stage of a pipeline is reached by whoever enquires. */
function thingsOfOutcome({ reachedBy }: OutcomeRule, { events, crm }: Rules): string[] {
  switch (reachedBy.kind) {
    case 'order':
      return ['orders'];
    case 'stage':
      return [reachedBy.stage === crm?.stages.inOrder[0] ? 'enquiries' : `stage ${reachedBy.stage}`];
    case 'field':
      return [`field ${reachedBy.name} ${reachedBy.test} ${reachedBy.text}`];
    case 'postback':
      return [`postback ${reachedBy.sender} ${reachedBy.step}`];
    case 'page':
      return [`page ${reachedBy.test} ${reachedBy.text}`];
    case 'file':
      return [`file ${reachedBy.says}`];
    case 'event': {
      const event = events.events.find(({ name }) => name === reachedBy.event);
      // Under conditions it counts only some of them.
      return event && reachedBy.conditions.length === 0 ? thingsOfEvent(event) : [`event ${reachedBy.event}`];
    }
  }
}

const isTold = ({ how }: Pick<TellingRule | WireRule, 'how'>): boolean => how === 'told';

/**
 * Where one account is told the same thing by several rules: it would count it several times, and bid on it several times
 * where it may. What is only tested or worked out is told to nobody.
 */
export function countedTwice(content: Rules): CountedTwice[] {
  const { outcomes, telling, events } = content;
  const counters: { account: string; things: string[]; counter: Counter }[] = [
    ...telling.filter(isTold).flatMap(({ outcome: code, account, letsItBid }) => {
      const outcome = outcomes.find((one) => one.code === code);
      const counter: Counter = { kind: 'outcome', name: code, by: 'server', bids: letsItBid };
      return outcome ? [{ account, things: thingsOfOutcome(outcome, content), counter }] : [];
    }),
    ...events.wires.filter(isTold).flatMap(({ event: name, account, by }) => {
      const event = events.events.find((one) => one.name === name);
      const counter: Counter = { kind: 'event', name, by, bids: false };
      return event ? [{ account, things: thingsOfEvent(event), counter }] : [];
    }),
  ];
  const groups = new Map<string, CountedTwice>();
  for (const { account, things, counter } of counters)
    for (const thing of new Set(things)) {
      const key = `${account} ${thing}`;
      const known = groups.get(key) ?? { account, thing, counters: [] };
      groups.set(key, { ...known, counters: [...known.counters, counter] });
    }
  const found = [...groups.values()].filter((group) => group.counters.length > 1);
  // The same ones by another name are said once.
  const membersOf = ({ account, counters: own }: CountedTwice) =>
    `${account} ${own
      .map(({ kind, name }) => `${kind} ${name}`)
      .sort()
      .join()}`;
  return [...new Map(found.map((group) => [membersOf(group), group])).values()];
}

/** Other outcomes of the same thing that the same account may bid on. */
export const biddingTwice = (content: Rules, { outcome, account, letsItBid }: TellingRule): string[] =>
  !letsItBid
    ? []
    : countedTwice(content)
        .filter((group) => group.account === account)
        .filter(({ counters }) => counters.some(({ kind, name }) => kind === 'outcome' && name === outcome))
        .flatMap(({ counters }) =>
          counters.filter(({ bids, name }) => bids && name !== outcome).map(({ name }) => name),
        );

/** That an account counts one thing by several rules, and which of them it may bid on. */
export function counterWords(account: string, counters: readonly Counter[]): { words: string; fix: string } {
  const named = counters.map(({ kind, name, by }) =>
    kind === 'event'
      ? `the event ${quoteValue(name)}${by === 'server' ? '' : ' from the page'}`
      : `the outcome ${quoteValue(name)}`,
  );
  const bidding = counters.filter(({ bids }) => bids).map(({ name }) => quoteValue(name));
  return {
    words: `${account} hears of the same thing by ${listed(named)}.`,
    fix:
      bidding.length === 0
        ? 'It may bid on none of them by your rules. Choose one there, or tell it one alone.'
        : bidding.length === 1
          ? `It may bid on ${bidding[0]}. See that it does not bid on the others there.`
          : `It may bid on ${listed(bidding)}: let it bid on one of them.`,
  };
}

/** That a platform counts something by a name that no rule tells it. */
export const ownTagWords = (account: string, name: string, times: number): { words: string; fix: string } => ({
  words: `${account} counted ${quoteValue(name)} ${times === 1 ? 'once' : `${count(times)} times`} without being told of it by a rule.`,
  fix: 'If a tag of its own counts the same as one of your outcomes, let it bid on one of them only.',
});
