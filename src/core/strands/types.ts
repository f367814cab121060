import type { Mark } from '../capture/no-customer';
import type { Consent } from '../capture/schema';
import type { Reason } from '../reasons/codes';

export type { Mark } from '../capture/no-customer';

/** Every hop of every way in; which of them a value takes, and in which order, says its way (core/ways-in). */
export const allHops = [
  ...(['clicked', 'landed', 'kept'] as const),
  ...(['form_sent', 'called', 'sent_there', 'fetched', 'imported', 'ordered', 'paid', 'converted'] as const),
  ...(['in_crm', 'qualified', 'told', 'confirmed'] as const),
];
export type Hop = (typeof allHops)[number];

export const hopWords: Record<Hop, string> = {
  clicked: 'Clicked',
  landed: 'Landed',
  kept: 'Kept',
  form_sent: 'Form sent',
  called: 'Called',
  sent_there: 'Sent there',
  fetched: 'Fetched',
  imported: 'Imported',
  ordered: 'Ordered',
  paid: 'Paid',
  converted: 'Converted',
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

export const wayInKinds = ['form', 'call', 'lead_form', 'import', 'order', 'subscription', 'conversion'] as const;
export type WayInKind = (typeof wayInKinds)[number];
/** A way in of people who enquire, each followed through the CRM. */
export type EnquiryWayIn = Exclude<WayInKind, BoughtWayIn>;
/** A way in without a CRM between it and what is told. */
export const boughtWaysIn = ['order', 'subscription', 'conversion'] as const;
export type BoughtWayIn = (typeof boughtWaysIn)[number];
/** What comes in by some way: what hops from its own on, outcomes and report-backs are of. */
export const subjectKinds = ['enquiry', 'order', 'subscription', 'conversion'] as const;
export type SubjectKind = (typeof subjectKinds)[number];

/**
 * Stands as a hop of no way in: what became of a strand that was kept and of which nothing came in yet. It is *waiting*
 * while its visit goes on and *left* once that is over, at the first hop of every way in.
 */
export const onward = 'onward';

/** Stands for "no subject" and "no outcome" in keys, which hold no NULL. */
export const nilId = '00000000-0000-0000-0000-000000000000';
export const noOutcome = '';

/** What a hop's state rests on. */
export type Evidence =
  | 'click_id_arrived'
  | 'hit'
  | 'cookie_state'
  | 'fill_report'
  | 'platform_list'
  | 'call_list'
  | 'import_list'
  | 'file'
  | 'crm_record'
  | 'postback'
  | 'outcome'
  | 'answer'
  | 'platform_report'
  | 'none';

/** One hop of one strand, unique in strand, wayIn, subject, outcome and hop. `at` in ms, null where nothing happened. */
export interface HopRow {
  strand: string;
  /** `none` up to Kept, and for what stands for every way in. */
  wayIn: WayInKind | 'none';
  subject: string;
  outcome: string;
  hop: Hop | typeof onward;
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

/**
 * `lead_form`: of a lead that a platform's own form took, where the platform names no click; `import`: of a lead that
 * somebody brought in; `enquiry`, `call`, `order`, `subscription`, `conversion`: of one that no known click or tagged landing brought.
 */
export type StrandKind = 'click' | 'landing' | 'lead_form' | 'import' | AloneKind;
export const aloneKinds = ['enquiry', 'call', 'order', 'subscription', 'conversion'] as const;
export type AloneKind = (typeof aloneKinds)[number];

/** The strand of an enquiry, order or subscription alone: nothing is known of what brought it. @param at ms, when it came in */
export const aloneStrand = (kind: AloneKind, id: string, at: number, marked: Mark): Strand => ({
  id,
  kind,
  platform: '',
  clickId: '',
  firstAt: at,
  source: '',
  medium: '',
  campaign: '',
  content: '',
  utmId: '',
  visitor: nilId,
  marked,
});

/** Whether a strand is that of an enquiry, order or subscription alone, of which nobody knows what brought it. */
export const isAlone = ({ kind }: Pick<Strand, 'kind'>): boolean =>
  (aloneKinds as readonly StrandKind[]).includes(kind);

/**
 * One click ID (without one: one tagged landing, or one lead of a platform's own form; without either: an enquiry or order
 * alone) on its way along the hops.
 */
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
