import { z } from 'zod';
import type { Sentence } from '../strands';
import type { IdentityKind, JoinedBy } from './people';

/** A record about a person, as it is shown. */
export interface RecordView {
  id: string;
  /** Its company or name; "name hidden" for who may not see people. */
  words: string;
  name: string;
  /** Its number where it is kept. */
  number: string;
  /** Its newest enquiry; '' where it has none. */
  enquiryId: string;
}

/** A person with several records. */
export interface JoinedView extends RecordView {
  others: (RecordView & { by: JoinedBy; at: string; mayPart: boolean })[];
}

/** A mail address or a telephone number of several people. */
export interface SharedView {
  id: string;
  kind: IdentityKind;
  /** Where the mailbox is; '' where nothing is known of it. */
  domain: string;
  people: RecordView[];
}

export interface ApartView {
  one: RecordView;
  other: RecordView;
  by: string;
  at: string;
}

/** What happened to a deal in the CRM that it does not do by itself. */
export interface OddDealView {
  id: string;
  kind: 'merged' | 'deleted' | 'skipped' | 'moved back';
  number: string;
  words: string;
  /** Such as "past Fleet assessed, to Offer". */
  text: string;
  at: string;
  enquiryId: string;
}

export interface RecordsView {
  sentence: Sentence;
  joined: JoinedView[];
  shared: SharedView[];
  apart: ApartView[];
  odd: OddDealView[];
  /** How many there are of each, where not all are shown. */
  totals: { joined: number; shared: number; odd: number };
  /** How many of the newest deals were looked at. */
  lookedAt: number;
  mayChange: boolean;
  timeZone: string;
}

/** Two records that somebody keeps apart, joins, or leaves to the rules again. */
export const pairSchema = z.strictObject({
  one: z.uuid('must be a record'),
  other: z.uuid('must be a record'),
  are: z.enum(['apart', 'joined', 'as the rules say'], 'must be apart, joined or as the rules say'),
});
export type PairGiven = z.infer<typeof pairSchema>;
