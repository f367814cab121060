import type { Sentence } from '../../strands';
import type { RoutineMeans } from './routine';

export type RoutineState = 'draft' | 'running' | 'paused' | 'braked' | 'retired';
export type RunState = 'going' | 'done' | 'let_go' | 'passed';
/** `again`: nobody knew whether it had happened, and somebody had it done again. */
export type ActState = 'waiting' | 'begun' | 'done' | 'unsure' | 'refused' | 'left_out' | 'again';

export interface RoutineView {
  id: string;
  name: string;
  means: RoutineMeans;
  state: RoutineState;
  startedAt: string | null;
  changedAt: string;
  /** Leads that came at once and are not taken until somebody says so; 0 where it takes them. */
  heldBack: number;
  going: number;
  done: number;
  letGo: number;
  /** Those that wait for each step, by its own name. */
  waiting: Record<string, number>;
  /** Those whose step is due by now; they go on at once where it is paused. */
  dueNow: number;
}

export interface RoutinesView {
  sentence: Sentence;
  routines: RoutineView[];
  mails: { id: string; name: string }[];
  segments: { id: string; name: string }[];
  offers: { forms: string[]; stages: string[]; crmFields: string[]; people: string[] };
  /** Whether a mail server is said. */
  canSend: boolean;
  mayChange: boolean;
  timeZone: string;
}

/** A lead in a routine. */
export interface RunView {
  id: string;
  enquiryId: string;
  lead: string;
  state: RunState;
  /** The step that comes next, by its own name; '' after the last. */
  step: string;
  dueAt: string | null;
  beganAt: string;
  endedAt: string | null;
  /** What it waits for, or why it ended. */
  why: string;
  acts: { id: string; step: string; at: string; state: ActState; words: string; answer: string }[];
}

export interface RunsView {
  /** The newest, those that go on first. */
  runs: RunView[];
  total: number;
}

/** Whom a routine would have taken. */
export interface TakesEffectView {
  /** Those that fit now, and how many came in the last 4 weeks. */
  now: number;
  lately: number;
  newest: { id: string; company: string; cameFrom: string; at: string }[];
}

/** What a routine would do with one lead, if it took it now. */
export interface TriedView {
  lead: string;
  enquiryId: string;
  /** Why it would not be taken, or would be let go at once; '' where it goes on. */
  stops: string;
  steps: {
    id: string;
    at: string;
    /** What is done, in words. */
    words: string;
    /** What would be wrong; '' where it can be done. */
    problem: string;
    mail: { to: string; subject: string; text: string } | null;
  }[];
}

export interface MailView {
  id: string;
  name: string;
  subject: string;
  text: string;
  html: string;
  changedAt: string;
  isRetired: boolean;
  /** Routines that send it. */
  usedBy: string[];
  /** How often it was sent, and last. */
  sent: number;
  lastAt: string | null;
}

export interface MailsView {
  sentence: Sentence;
  mails: MailView[];
  /** What can be put in, by its name, with its words. */
  facts: [name: string, words: string][];
  crmFields: string[];
  mayChange: boolean;
  timeZone: string;
}

export interface MailShown {
  subject: string;
  text: string;
  html: string;
  /** Whose facts stand in it. */
  of: string;
}

export interface MailStopView {
  hash: string;
  /** Who it is, where a lead is known by it. */
  lead: string;
  enquiryId: string;
  how: 'link' | 'hand' | 'bounced';
  at: string;
  byName: string;
}

export interface MailSetUpView {
  sentence: Sentence;
  settings: {
    host: string;
    port: number;
    security: 'tls' | 'starttls' | 'none';
    user: string;
    hasPassword: boolean;
    fromName: string;
    fromAddress: string;
    replyTo: string;
    perMinute: number;
  } | null;
  /** Where a mail system passes replies on to. */
  repliesAddress: string;
  hasSecret: boolean;
  lastReplyAt: string | null;
  stops: MailStopView[];
  stopped: number;
  mayChange: boolean;
  timeZone: string;
}
