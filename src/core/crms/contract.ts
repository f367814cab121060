import type { z } from 'zod';
import type { CrmRecord } from '../leads/schema';
import type { Stages } from '../outcomes';
import type { Authorised, OutgoingRequest, Question } from '../outgoing';

/** A record as the CRM gives it, with the person's mail address and telephone apart, since they are stored only hashed. */
export interface ReadRecord {
  record: CrmRecord;
  mail: string;
  telephone: string;
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

/**
 * What is fixed about a kind of CRM. Pure: it writes requests and reads answers, the server carries them. Each kind is a
 * folder; `tests/contract` holds every kind to the same rules.
 */
export interface CrmContract {
  kind: string;
  words: string;
  authorised: Authorised;
  callsPerMinute: number;
  record(deal: string): Question<ReadRecord>;
  /** Records changed from `since` (ms) on, the oldest change first; `more` where there are others. */
  changes(since: number): Question<{ changes: { deal: string; changedAt: number }[]; more: boolean }>;
  fields: Question<CrmField[]>;
  stages: Question<Stages>;
  /** Writes custom fields of a record; what it does not name stays. */
  write(deal: string, fields: Record<string, string>): OutgoingRequest;
  webhook: WebhookContract;
  /** Missing where it keeps no campaigns. */
  campaigns?: {
    all: Question<CrmCampaign[]>;
    types: Question<string[]>;
    one(id: string): Question<CrmCampaign>;
    writeLinks(id: string, links: string[]): OutgoingRequest;
  };
}
