import type { Sentence } from './sentence';

/** What Avrix has seen of a business's set-up. */
export interface Seen {
  hit: boolean;
  record: boolean;
  platform: boolean;
  outcome: boolean;
}

/** A step of setting up: done once Avrix has seen it, not once somebody pressed something. */
export interface SetupStep {
  words: string;
  /** What shows that it is done. */
  seenBy: string;
  /** Where it is done, within the business. */
  path: string;
  isDone: boolean;
}

/** The steps by which a line comes to be, in their order. */
export const setupSteps = (seen: Seen): SetupStep[] => [
  {
    words: 'Install the snippet',
    seenBy: 'the first page that reports',
    path: '/capture/install',
    isDone: seen.hit,
  },
  {
    words: 'Connect the CRM',
    seenBy: 'the first record that was read',
    path: '/connections?new=yes',
    isDone: seen.record,
  },
  {
    words: 'Connect a platform',
    seenBy: 'its first answer to a row',
    path: '/connections?new=yes',
    isDone: seen.platform,
  },
  {
    words: 'Make the first outcome',
    seenBy: 'the first time that it was counted',
    path: '/report-backs?new=yes',
    isDone: seen.outcome,
  },
];

/** The sentence of a line of which no page has ever told anything. */
export const unbegunSentence: Sentence = {
  title: 'Nothing has arrived yet: paste the snippet first.',
  under: 'The line begins with the first tagged landing on a page that carries the snippet.',
};
