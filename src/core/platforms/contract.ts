import type { ChangeCause } from '../outcomes/corrections';
import type { Money } from '../outcomes/schema';
import type { Catalogue, Naming, PageContract } from '../destinations/contract';
import type { Answer, Authorised, OutgoingRequest, Question } from '../outgoing';

/** Something a platform fills into a link when an ad is clicked. */
export interface PlaceholderContract {
  /** As it is written in a link. */
  text: string;
  words: string;
  /** What it could be filled in with, made up. */
  example: string;
  /** True where it is the click ID, so that it can travel under another name too. */
  isClickId: boolean;
}

/** What is fixed about links to ads of a kind of platform, and about what it is told, as far as whoever writes rules needs it. */
export interface LinkContract {
  kind: string;
  words: string;
  clickParameter: string;
  /** True where the click ID exists only on paid clicks. */
  provesPayment: boolean;
  placeholders: PlaceholderContract[];
  /** True where names are filled in as they were when an ad was first published. */
  freezesNames: boolean;
  /** Its own names of outcomes, one of which a telling rule picks; missing where it takes our codes. */
  knows?: readonly string[];
  /** The form in which it wants outcomes named, where that is neither a name of its own nor a code. */
  named?: Naming;
  /** Which clicks it is told of: each within its window, or only the one that was the last paid touch. */
  tells: 'every click' | 'last paid touch';
  /** Whether names of outcomes must be made there before it counts them, and it can be asked for them. */
  hasCatalogue?: boolean;
  /** Whether it takes the email address of who did it beside the click, hashed. */
  takesMailHash?: boolean;
  /** By what else it knows people, where no click is known. */
  knowsPeopleBy?: readonly PersonKey[];
  /** Whether it can be told something as a test, which it answers and does not count. */
  takesTests?: boolean;
  /** How pages tell it; missing where they cannot. */
  page?: PageContract;
}

/** The field of an event that holds a hashed email address, where a platform takes one. */
export const mailHashField = 'mail_hash';

/** By what a person is known to a platform beside a click. */
export type PersonKey = 'mail' | 'telephone';

/** What names a person or click to a platform. */
export const keyKinds = ['click_id', 'mail_hash', 'telephone_hash'] as const;
export type KeyKind = (typeof keyKinds)[number];

/** Limits that a platform sets. */
export interface Limits {
  /** Oldest click it takes, in days between click and outcome. */
  clickDays: number;
  /** Latest telling it takes, in days after the outcome. */
  tellWithinDays: number;
  rowsPerCall: number;
  callsPerMinute: number;
}

/** One outcome to be told. `eventId` is the key by which the platform recognises a repeat. */
export interface TellingRow {
  eventId: string;
  /** What the platform knows the click by. */
  key: { kind: KeyKind; value: string };
  /** What the platform calls the outcome: by its own name for it, else our code without its version. */
  outcome: string;
  happenedAt: number;
  worth: Money;
  /** What an event's wire sends along beside these; nothing for an outcome of its own rule. */
  fields?: readonly (readonly [name: string, value: string])[];
}

/** One outcome that the platform took, with the worth that it has now: 0 where it was taken back. */
export interface ChangeRow extends TellingRow {
  change: 'revalued' | 'taken_back';
  cause: Exclude<ChangeCause, ''>;
}

/** A call with rows, and how its answer is read. */
export interface PlatformCall {
  writeBatch(rows: TellingRow[]): OutgoingRequest;
  readAnswer(answer: Answer, rows: TellingRow[]): BatchAnswer;
}

/**
 * How a platform takes it that an outcome is worth something else, under the event ID that it was told with. The worth is the
 * new whole one and not what it changed by, so one that is told twice changes nothing more.
 */
export interface ChangesContract {
  /** Latest change it takes, in days after it took the outcome. */
  withinDays: number;
  writeBatch(rows: ChangeRow[]): OutgoingRequest;
  readAnswer(answer: Answer, rows: ChangeRow[]): BatchAnswer;
}

/** What the platform said of one row. `taken` also stands for "told before" under our own key. */
export type RowAnswer =
  | {
      eventId: string;
      taken: true;
      /** The click day it books the row on, in its own zone; '' where it names none. */ day: string;
    }
  | { eventId: string; taken: false; answer: string };

/**
 * What a platform's answer to a call means.
 * - `rows`: it answered for rows; those that it does not name go on waiting.
 * - `refused`: it took nothing, for what stands in the call; the same call would be refused again.
 * - `away`: it did nothing that is known of, and may be asked again, after `retryAfter` (as the header of that name says).
 */
export type BatchAnswer =
  | { kind: 'rows'; rows: RowAnswer[] }
  | { kind: 'refused'; status: string; answer: string }
  | { kind: 'away'; status: string; answer: string; retryAfter: string | undefined };

/** A platform's own report, by its account's days. Requests take the first and the last day (`2027-02-15`). */
export interface ReportContract {
  /** On which day it counts an outcome: the day of its click, or the day it happened. */
  countsBy: 'click day' | 'outcome day';
  /** Whether an outcome that was told is confirmed by standing in it; not where it counts among them what nobody told it. */
  confirms: boolean;
  /** Clicks by day, campaign and the campaign's own number on the platform; missing where it does not say. */
  clicks?(from: string, to: string): Question<{ day: string; campaign: string; number: string; clicks: number }[]>;
  outcomes(from: string, to: string): Question<{ day: string; outcome: string; counted: number }[]>;
  /** What each ad cost, by day; missing where the platform does not say. */
  costs?(from: string, to: string): Question<ReportedCost[]>;
}

/** What an ad cost on a day of its account. Numbers are the platform's own, '' where it has none. */
export interface ReportedCost {
  day: string;
  campaign: string;
  campaignId: string;
  ad: string;
  adId: string;
  clicks: number;
  /** Minor units of `currency`. */
  amount: number;
  currency: string;
}

/** A form of the platform's own. `link`: where it leads once it is sent. */
export interface PlatformForm {
  form: string;
  title: string;
  link: string;
}

/** What somebody sent with a form of the platform's own. */
export interface PlatformLead {
  /** Its number there. Numbers are compared as equal or not, nothing else. */
  number: string;
  form: string;
  ad: string;
  campaign: string;
  /** Where the form was opened, such as in the feed. */
  place: string;
  /** ms */
  sentAt: number;
  /** '' where the platform names none. */
  clickId: string;
  isTest: boolean;
  /** Null where the platform keeps it no longer. */
  answers: LeadAnswers | null;
}
export interface LeadAnswers {
  name: string;
  company: string;
  mail: string;
  telephone: string;
}

/** Forms that people fill in on the platform itself, and what they sent. */
export interface LeadFormsContract {
  /** For how many days what people sent is kept. */
  keptDays: number;
  /** Where its forms are opened, and whether a test lead made there is passed on. */
  places: readonly { place: string; words: string; passesTests: boolean }[];
  forms: Question<PlatformForm[]>;
  /** What was sent after the one of that number ('' for all), the oldest first; what is kept no longer comes without answers. */
  sent(after: string): Question<{ leads: PlatformLead[]; more: boolean }>;
  writeLink(form: string, link: string): OutgoingRequest;
}

/**
 * What is fixed about a kind of platform that is told outcomes. Pure: it writes requests and reads answers, the server
 * carries them. Each kind is a folder, `tests/contract` holds every kind to the same rules.
 */
export interface PlatformContract extends LinkContract, PlatformCall {
  limits: Limits;
  /** By each key that it knows people by: what is hashed of an email address or telephone number, '' where it is none. */
  hashes?: Partial<Record<PersonKey, (text: string) => string>>;
  authorised: Authorised;
  /** How it recognises a row that it is told again. */
  repeats: 'key' | 'order' | 'nothing';
  /** For how long (hours) it recognises one by its key, where that ends. */
  repeatsHours?: number;
  /** How names are asked for and made there, where it has some. */
  catalogue?: Catalogue;
  /** Whether it is told by files, which can be put into a folder too. */
  takesFiles?: boolean;
  /** When it is told, where that is not as soon as something is due: at each full hour, or each day at a time of its zone. */
  files?: { every: 'hour' | 'day'; at: string };
  /** The same call as a test; missing where it takes none. */
  tests?: PlatformCall;
  /** Missing where it takes no corrections: what it was told stands there. */
  changes?: ChangesContract;
  /** Whether an account recognises repeats now, as it says itself; missing where it cannot be asked. */
  recognisesRepeats?: Question<boolean>;
  /** Missing where the platform reports nothing: what it answers is then all there is. */
  report?: ReportContract;
  /** Missing where it has no forms of its own. */
  leadForms?: LeadFormsContract;
}

/** What an answer means by its status alone: null where it is a success that says more in its body. */
export function readStatus({ status, headers, body }: Answer): Exclude<BatchAnswer, { kind: 'rows' }> | null {
  if (status >= 200 && status < 300) return null;
  const said = { status: String(status), answer: body.slice(0, 200) };
  if (status === 400 || status === 413 || status === 422) return { kind: 'refused', ...said };
  return { kind: 'away', ...said, retryAfter: headers['retry-after'] };
}
