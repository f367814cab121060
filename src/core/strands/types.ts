import type { Mark } from '../capture/no-customer';
import type { Consent } from '../capture/schema';
import type { Reason } from '../reasons/codes';

export type { Mark } from '../capture/no-customer';

/** The hops of an enquiry by form, in order. */
export const hops = ['clicked', 'landed', 'kept', 'form_sent', 'in_crm', 'qualified', 'told', 'confirmed'] as const;
export type Hop = (typeof hops)[number];

export const hopWords: Record<Hop, string> = {
  clicked: 'Clicked',
  landed: 'Landed',
  kept: 'Kept',
  form_sent: 'Form sent',
  in_crm: 'In CRM',
  qualified: 'Qualified',
  told: 'Told',
  confirmed: 'Confirmed',
};

/**
 * How a strand stands at a hop. `left`: the person did not go on, which is no loss. `unknown`: there is no evidence
 * either way, and it is shown as such.
 */
export type HopState = 'made_it' | 'lost' | 'left' | 'waiting' | 'unknown';

export const stateWords: Record<HopState, string> = {
  made_it: 'made it',
  lost: 'lost',
  left: 'left',
  waiting: 'waiting',
  unknown: 'not seen here',
};

export type WayIn = 'none' | 'form';
/** Stands for "no subject" and "no outcome" in keys, which hold no NULL. */
export const nilId = '00000000-0000-0000-0000-000000000000';
export const noOutcome = '';

/** What a hop's state rests on. */
export type Evidence =
  | 'click_id_arrived'
  | 'hit'
  | 'cookie_state'
  | 'fill_report'
  | 'crm_record'
  | 'outcome'
  | 'answer'
  | 'platform_report'
  | 'none';

/** One hop of one strand, unique in strand, wayIn, subject, outcome and hop. `at` in ms, null where nothing happened. */
export interface HopRow {
  strand: string;
  wayIn: WayIn;
  subject: string;
  outcome: string;
  hop: Hop;
  state: HopState;
  reason: Reason | null;
  evidence: Evidence;
  at: number | null;
  release: number;
}

/** What somebody agreed to, and when (ms) a page last said so. */
export interface KnownConsent extends Consent {
  at: number;
}

export type StrandKind = 'click' | 'landing' | 'enquiry';

/** One click ID (without one: one tagged landing; without either: an enquiry alone) on its way along the hops. */
export interface Strand {
  id: string;
  kind: StrandKind;
  platform: string;
  clickId: string;
  /** ms of the first evidence. */
  firstAt: number;
  source: string;
  medium: string;
  campaign: string;
  content: string;
  /** The UTM id: the campaign’s ID on its platform. */
  utmId: string;
  visitor: string;
  /** Why this is no customer; '' for everyone else. */
  marked: Mark;
}
