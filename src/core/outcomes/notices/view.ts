import type { Sentence } from '../../strands/sentence';
import type { NoticePart } from './notice';
import type { SenderGiven } from './schema';

/** What became of a postback. */
export type NoticeStands =
  | 'counted'
  | 'reaches nothing'
  | 'taken back'
  | 'worth changed'
  | 'changes nothing'
  | 'not known yet'
  | 'step not known'
  | 'not counted'
  | 'test';

/** One postback in the list. Times in UTC, ISO 8601. */
export interface NoticeView {
  id: string;
  sender: string;
  senderId: string;
  step: string;
  about: string;
  payment: string;
  /** '' where it names none, and for who may not see money. */
  amount: string;
  happenedAt: string;
  stands: NoticeStands;
}
export interface SenderView {
  id: string;
  name: string;
  isRetired: boolean;
  hasSecret: boolean;
  posted: number;
  lastAt: string | null;
  lastProblem: string;
}
export interface NoticesView {
  sentence: Sentence;
  rows: NoticeView[];
  total: number;
  pageSize: number;
  timeZone: string;
  senders: SenderView[];
  mayChange: boolean;
}

/** One sender as it is set up; `id` is '' for a new one. */
export interface SenderSetUpView {
  id: string;
  sentence: Sentence;
  given: SenderGiven;
  /** Where it posts to, without the secret; '' for a new one. */
  address: string;
  hasSecret: boolean;
  isRetired: boolean;
  lastAt: string | null;
  lastProblem: string;
  /** The values of what was posted last, each with its place. */
  lastPlaces: { at: string; value: string }[];
  /** Steps that it posted, how often, and which nobody explained. */
  steps: { says: string; count: number; isKnown: boolean }[];
  mayChange: boolean;
  timeZone: string;
}

/** What a pasted example says, part by part. */
export interface TriedPostback {
  parts: { at: string; value: string; part: NoticePart | null }[];
  says: string;
  problem: string;
  isRead: boolean;
  /** Where the parts may be, told by the names in it. */
  guessed: SenderGiven['reading'];
}
