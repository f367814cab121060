import type { Answer, Authorised, OutgoingRequest } from '../outgoing';
import type { BatchAnswer } from '../platforms/contract';

/** An event as a destination is told it. */
export interface EventRow {
  /** The event's ID: its name and its key. A destination that knows repeats knows them by it. */
  eventId: string;
  /** As the destination wants it named; see `named`. */
  name: string;
  /** ms */
  happenedAt: number;
  fields: (readonly [name: string, value: string])[];
}

/** In which form a destination wants an event named. */
export interface Naming {
  /** What people read beside the name: "one path, such as …". */
  words: string;
  example: string;
  /** What is wrong with a name, '' where nothing is. */
  problem(name: string): string;
  /** What of a reading's value may stand in a name: what may not is put in its place. */
  clean(value: string): string;
}

/**
 * What is fixed about a kind of place that is told events. Pure: it writes requests and reads answers, the server carries
 * them. Each kind is a folder.
 */
export interface DestinationContract {
  kind: string;
  words: string;
  named: Naming;
  /** What is wrong with the name of a field, '' where nothing is. */
  fieldProblem(name: string): string;
  authorised: Authorised;
  limits: { rowsPerCall: number; callsPerMinute: number; tellWithinHours: number };
  /** Whether it knows an event that it is told again by its ID. */
  repeats: 'key' | 'nothing';
  writeBatch(rows: EventRow[]): OutgoingRequest;
  readAnswer(answer: Answer, rows: EventRow[]): BatchAnswer;
}
