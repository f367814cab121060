import type { Answer, Authorised, OutgoingRequest, Question } from '../outgoing';
import type { BatchAnswer } from '../platforms/contract';

/** An event as a destination is told it. */
export interface EventRow {
  /** The event's ID: its name and its key. A destination that knows repeats knows them by it. */
  eventId: string;
  /** As the destination wants it named; see `named`. */
  name: string;
  /** ms */
  happenedAt: number;
  fields: readonly (readonly [name: string, value: string])[];
  /** The click that it is told by; '' where the destination knows no clicks. */
  clickId: string;
}

/** How the value of a reading is brought into the form of a name. */
export interface Cleaning {
  /** Characters that stay, as they are written between the brackets of a regular expression: `a-z0-9`. */
  stays: string;
  lowerCase: boolean;
  /** What everything else becomes. */
  joins: string;
  /** Characters. */
  longest: number;
  /** In place of a value of which nothing stays. */
  otherwise: string;
}

/** In which form a destination wants an event named. */
export interface Naming {
  /** What people read beside the name: "one path, such as …". */
  words: string;
  example: string;
  /** What is wrong with a name, '' where nothing is. */
  problem(name: string): string;
  /** How values get into a name; null where names are the destination's own, and hold no values. */
  cleaning: Cleaning | null;
  /** What usually is between two parts of a name. */
  between: string;
  /** The names there are, where they are the destination's own. */
  known?: readonly string[];
}

/** A field that a destination knows by its name. */
export interface FieldContract {
  name: string;
  words: string;
  /** True where it is an email address by its hash, and takes nothing else. */
  isHash?: boolean;
}

/** What of an event a page says to a destination's opener; a field of its wire as a text, or as a number. */
export type PageValue = 'event_id' | 'click_id' | 'name' | 'moment' | `field ${string}` | `number ${string}`;

/** How pages tell a destination: by a function that its opener brings. */
export interface PageContract {
  /** The opener's path below the account's address. */
  opener: string;
  /** The function, by its path from the window: `tessaloop.say`. */
  call: string;
  /** Its one argument: each value at its place (RFC 6901). What is empty is left out. */
  writes: readonly (readonly [at: string, value: PageValue])[];
  /** How long (hours) it joins what a page and a server tell under one event ID. */
  joinHours: number;
}

/** What whoever writes a wire needs to know of a kind of destination. Free of what only the server needs. */
export interface DestinationFace {
  kind: string;
  words: string;
  named: Naming;
  /** Fields that it knows. */
  fields: readonly FieldContract[];
  /** What is wrong with the name of a field, '' where nothing is. */
  fieldProblem(name: string): string;
  /** `every event`, or only those of visitors who brought a click of its own; `paid last`: and whose newest paid click it is. */
  toldOf: 'every event' | 'its clicks' | 'its clicks, paid last';
  /** Whether names must be made there before it counts them, and it can be asked for them. */
  hasCatalogue: boolean;
  /** null where pages cannot tell it. */
  page: PageContract | null;
}

/**
 * What is fixed about a kind of place that is told events. Pure: it writes requests and reads answers, the server carries
 * them. Each kind that is no platform is a folder; every platform is one by `platform.ts`.
 */
export interface DestinationContract extends DestinationFace {
  authorised: Authorised;
  limits: { rowsPerCall: number; callsPerMinute: number; tellWithinHours: number };
  /**
   * For how long (hours) it knows an event that it is told again by its ID: null for ever, 0 never. An event whose answer
   * never came is told again only within it.
   */
  repeatsHours: number | null;
  /** How names are asked for and made there, where it has some. */
  catalogue?: Catalogue;
  /**
   * Its own report: how many it counted under each name, by the day on which they happened; missing where it has none, or
   * reports as a platform. @param from first and last day (`2027-02-15`) @param zone IANA name of the time zone of the days
   */
  report?(from: string, to: string, zone: string): Question<{ day: string; outcome: string; counted: number }[]>;
  /** Why an event cannot be told as it is, '' where it can. @param currency of the account, '' where it has none */
  problem(row: EventRow, currency: string): string;
  writeBatch(rows: EventRow[], currency: string): OutgoingRequest;
  readAnswer(answer: Answer, rows: EventRow[]): BatchAnswer;
}

/** Names that a place has to know first. */
export interface Catalogue {
  list: Question<string[]>;
  make(name: string): OutgoingRequest;
}
