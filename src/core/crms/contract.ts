import type { z } from 'zod';
import type { CrmRecord } from '../leads/schema';
import type { Stages } from '../outcomes';
import type { Authorised, OutgoingRequest, Question } from '../outgoing';
import type { OwnCrm, RecordReading } from './schema';

/** A record as the CRM gives it, with the person's mail address and telephone apart, since they are stored only hashed. */
export interface ReadRecord {
  record: CrmRecord;
  mail: string;
  telephone: string;
  /** The number of the company; '' where the CRM has none. */
  companyNumber: string;
  /** Numbers of people, and of records, that the CRM merged into this record's. */
  merged: { people: string[]; records: string[] };
}

/** Somebody who is to have a record in the CRM. */
export interface NewPerson {
  name: string;
  company: string;
  mail: string;
  telephone: string;
}

/** A record that the CRM has no more, since it merged it into another. */
export interface MergedRecord {
  mergedInto: string;
}

/** A custom field of the CRM's records. `length`: how many characters it holds, longer texts are cut; null: no limit known. */
export interface CrmField {
  name: string;
  words: string;
  length: number | null;
}

/** A campaign of the CRM. Days as `2027-02-15`. */
export interface CrmCampaign {
  id: string;
  title: string;
  trackingName: string;
  type: string;
  startsOn: string | null;
  endsOn: string | null;
  /** The amount as a decimal number, as it is written there. */
  budget: { amount: string; currency: string } | null;
  owner: string;
  /** Where its ads and letters lead. */
  links: string[];
}

/** What a webhook says: that something happened to a record, which is then read back. `at` in ms. */
export interface CrmEvent {
  event: string;
  kind: string;
  deal: string;
  at: number;
}

/** How a CRM's webhooks are sealed: HMAC-SHA256 in hex under the account's secret, over `sealed`. */
export interface WebhookContract {
  sealHeader: string;
  /** Carries when (ms) it was sent; an old one is refused, so that none can be played again. */
  sentHeader: string;
  sealed(body: string, sent: string): string;
  body: z.ZodType<CrmEvent>;
}

interface CrmBase {
  kind: string;
  words: string;
  authorised: Authorised;
  callsPerMinute: number;
  /** Missing where it cannot be asked for them. */
  fields?: Question<CrmField[]>;
  stages?: Question<Stages>;
  /**
   * Writes fields of a record; what it does not name stays. Answers with those that the CRM says it does not have. Missing
   * where nothing is written back.
   */
  write?: ((deal: string, fields: Record<string, string>) => Question<string[]>) | undefined;
  /** Fields that can be written into; missing where any can. */
  writable?: string[] | undefined;
  /** Adds a note to a record; one with the same key is not added twice. Missing where it takes none. */
  note?: ((deal: string, text: string, key: string) => OutgoingRequest) | undefined;
  /** Moves a record to a stage. Missing where none is moved from here. */
  move?: ((deal: string, stage: string) => OutgoingRequest) | undefined;
  /** Makes a record with its person, and reads its number from the answer. Missing where it makes none. */
  make?: ((person: NewPerson, fields: Record<string, string>) => Question<string>) | undefined;
  /** Takes a record out for good. Missing where it takes none out. */
  remove?: ((deal: string) => OutgoingRequest) | undefined;
  /** Missing where it keeps no campaigns. */
  campaigns?: {
    all: Question<CrmCampaign[]>;
    types: Question<string[]>;
    one(id: string): Question<CrmCampaign>;
    writeLinks(id: string, links: string[]): OutgoingRequest;
  };
}

/** A CRM that says which records changed, each of which is then asked for by its number. */
export interface AskedCrm extends CrmBase {
  gives: 'numbers';
  /** An answer of status 404 or 410 says that it is deleted. */
  record(deal: string): Question<ReadRecord | MergedRecord>;
  /** Records changed, merged or deleted from `since` (ms) on, the oldest change first; `more` where there are others. */
  changes(since: number): Question<{ changes: { deal: string; changedAt: number }[]; more: boolean }>;
  fields: Question<CrmField[]>;
  stages: Question<Stages>;
  write: NonNullable<CrmBase['write']>;
  webhook: WebhookContract;
}

/** A CRM that sends or lists whole records, read by a rule of the business's own. */
export interface RecordsCrm extends CrmBase {
  gives: 'records';
  reads: RecordReading;
  /** How records that it sends prove that they come from it; null where it sends none. */
  webhook: OwnCrm['webhook'];
  /** A list of records that changed since; null where it has none. */
  list: {
    recordsAt: string;
    first(since: number): OutgoingRequest;
    /** The address of an answer's next page, as it says it; null after the last one. */
    next(body: unknown): string | null;
  } | null;
}

/**
 * What is fixed about a kind of CRM. Pure: it writes requests and reads answers, the server carries them. Each kind that
 * ships is a folder, held to the same rules by `tests/contract`; own kinds are rules (`./own`).
 */
export type CrmContract = AskedCrm | RecordsCrm;
