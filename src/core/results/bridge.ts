import type { ReportBackState } from '../reportbacks';
import { lossClass, type LossClass, type Reason } from '../reasons/codes';

/*
 * How a platform's count, the website's and the CRM's become one another, in named steps (docs/results.md, Three counts).
 * What differs is told of single rows, each in one step; so the steps always add up.
 */

/** Who counts. The website's count is ours: of what came by a click that it saw. */
export const counters = ['platform', 'website', 'crm'] as const;
export type Counter = (typeof counters)[number];

/** Why something that one counts is not counted by the other, in the order in which a row takes its one step. */
export const bridgeSteps = [
  ...(['without_us', 'its_days', 'our_days', 'taken_back', 'no_customer', 'not_reported_yet'] as const),
  ...(['no_consent', 'never_arrived', 'changed', 'lost_before_crm', 'too_old', 'duplicate', 'refused'] as const),
  ...(['stopped', 'not_told', 'not_in_crm_yet', 'never_in_crm', 'gone', 'not_at_stage', 'more_deals'] as const),
  ...(['counted_once', 'not_counted', 'unexplained'] as const),
];
export type BridgeStepKey = (typeof bridgeSteps)[number];

/** One thing that somebody counts: what was counted as an outcome, or a deal of which none was. Days such as `2027-02-15`. */
export interface BridgeRow {
  id: string;
  /** The day it lies on, the business's. */
  day: string;
  /** What the platform was told of it: null where it is not told of it at all. `day` is the one the platform counts it on. */
  told: { state: ReportBackState; reason: Reason | null; day: string } | null;
  /** Whether its click ID is known; what only names the platform as its source cannot be told by it. */
  hasClick: boolean;
  /** Whether it is an outcome that stands, or why it is none; `once`: another of the same lead stands for it. */
  counted: 'yes' | 'taken back' | 'no customer' | 'once' | 'no';
  /** Deals of it that are, or were, at the stage in the CRM. */
  deals: number;
  /** Why there is none. */
  dealless: 'not yet' | 'never' | 'gone' | 'not at the stage';
}

export interface BridgeStep<Row extends BridgeRow = BridgeRow> {
  key: BridgeStepKey;
  /** What it adds; below 0 what it takes away. */
  count: number;
  /** Those it is made of; empty where nothing is known of them one by one. */
  rows: Row[];
}
export interface Bridge<Row extends BridgeRow = BridgeRow> {
  from: number;
  to: number;
  steps: BridgeStep<Row>[];
}

/** What a platform has of a row by now, also where its own report does not say so yet. */
const isTold = ({ told }: BridgeRow): boolean =>
  told !== null && (told.state === 'told' || told.state === 'confirmed' || told.state === 'unsure');

/**
 * The steps from one count to another.
 *
 * @param rows all that lie in these days for anyone
 * @param reported what the platform says that it counted; null where it has no report, and what it took stands for that
 * @param isWithin whether a day is one of those that are counted
 */
export function bridgeOf<Row extends BridgeRow>(
  rows: readonly Row[],
  from: Counter,
  to: Counter,
  reported: number | null,
  isWithin: (day: string) => boolean,
): Bridge<Row> {
  const has = (row: Row, who: Counter): number => countedBy(row, who, isWithin);
  const known = (who: Counter) => rows.reduce((sum, row) => sum + has(row, who), 0);
  const without = reported === null ? 0 : reported - known('platform');
  const sumOf = (who: Counter) => known(who) + (who === 'platform' ? without : 0);
  const steps = new Map<BridgeStepKey, BridgeStep<Row>>();
  const add = (key: BridgeStepKey, count: number, row?: Row) => {
    const step = steps.get(key) ?? { key, count: 0, rows: [] };
    steps.set(key, { key, count: step.count + count, rows: row ? [...step.rows, row] : step.rows });
  };
  const outside = (to === 'platform' ? without : 0) - (from === 'platform' ? without : 0);
  // What it counts less than it confirmed, nobody can explain.
  if (outside !== 0) add(without > 0 ? 'without_us' : 'unexplained', outside);
  for (const row of rows) {
    const change = has(row, to) - has(row, from);
    if (change === 0) continue;
    const [more, less] = change > 0 ? [to, from] : [from, to];
    add(whyMissing(row, more, less, isWithin), change, row);
  }
  return { from: sumOf(from), to: sumOf(to), steps: bridgeSteps.flatMap((key) => steps.get(key) ?? []) };
}

/** How often somebody counts a row in these days; deals are counted one by one. */
export function countedBy(row: BridgeRow, who: Counter, isWithin: (day: string) => boolean): number {
  switch (who) {
    case 'platform':
      return row.told?.state === 'confirmed' && isWithin(row.told.day) ? 1 : 0;
    case 'website':
      return row.counted === 'yes' && isWithin(row.day) ? 1 : 0;
    case 'crm':
      return isWithin(row.day) ? row.deals : 0;
  }
}

/** Why what one counts is missing with the other, or counted less often. */
function whyMissing(row: BridgeRow, more: Counter, less: Counter, isWithin: (day: string) => boolean): BridgeStepKey {
  if (more === 'platform' && !isWithin(row.day)) return 'its_days';
  switch (less) {
    case 'platform':
      return row.counted === 'yes' || isTold(row) ? whyNotThere(row, isWithin) : whyNotCounted(row);
    case 'website':
      return row.counted === 'yes' ? 'more_deals' : whyNotCounted(row);
    case 'crm':
      return dealless[row.dealless];
  }
}

const whyNotCounted = ({ counted }: BridgeRow): BridgeStepKey => uncounted[counted];

const uncounted: Record<BridgeRow['counted'], BridgeStepKey> = {
  yes: 'unexplained',
  'taken back': 'taken_back',
  'no customer': 'no_customer',
  once: 'counted_once',
  no: 'not_counted',
};

const dealless: Record<BridgeRow['dealless'], BridgeStepKey> = {
  'not yet': 'not_in_crm_yet',
  never: 'never_in_crm',
  gone: 'gone',
  'not at the stage': 'not_at_stage',
};

/** Why a platform does not count, in these days, what it was or could have been told of. */
function whyNotThere(row: BridgeRow, isWithin: (day: string) => boolean): BridgeStepKey {
  const { told } = row;
  if (told === null) return row.hasClick ? 'not_told' : 'never_arrived';
  if (told.state === 'confirmed') return isWithin(told.day) ? 'more_deals' : 'our_days';
  if (isTold(row)) return 'not_reported_yet';
  const { reason } = told;
  if (told.state === 'refused') return 'refused';
  if (reason?.code === 'no_click_in_crm') return 'lost_before_crm';
  if (reason?.code === 'crm_click_differs') return 'changed';
  const ofClass = reason && classSteps[lossClass(reason)];
  return ofClass ?? (told.state === 'withdrawn' ? 'not_told' : 'stopped');
}

const classSteps: Partial<Record<LossClass, BridgeStepKey>> = {
  'no consent': 'no_consent',
  'value never arrived': 'never_arrived',
  'value changed': 'changed',
  'field or mapping fault': 'lost_before_crm',
  'too old': 'too_old',
  duplicate: 'duplicate',
  'refused by the platform': 'refused',
};

/** What all platforms claim together, and what of it is one and the same; rows by their IDs. */
export interface Claims {
  /** How many platforms count without anything that we told; below 0 where they count less than they confirmed. */
  withoutUs: number;
  /** Claims of what another platform claims too, and what is claimed so. */
  again: number;
  claimedAgain: string[];
  /** Different ones that are claimed, each in the days of whoever claims it. */
  different: string[];
  /** Those of them that the end does not count in these days. */
  elsewhere: string[];
  /** How many the end counts that no platform claims; of one with two deals, the second. */
  nobody: number;
  unclaimed: string[];
  /** How many the end counts. */
  known: number;
}

/**
 * What all platforms claim, down to what the CRM (or the website) counts: `sum − withoutUs − again = different`, and
 * `different − elsewhere + nobody = known`.
 *
 * @param claims of each platform: what it says that it counted (null: it has no report), and what it confirmed of ours, by row
 * @param end how often the end counts each row in these days
 */
export function claimsOf(
  claims: readonly { reported: number | null; confirmed: readonly string[] }[],
  end: ReadonlyMap<string, number>,
): Claims {
  const times = new Map<string, number>();
  for (const { confirmed } of claims) for (const id of confirmed) times.set(id, (times.get(id) ?? 0) + 1);
  const different = [...times.keys()];
  const elsewhere = different.filter((id) => (end.get(id) ?? 0) === 0);
  const known = [...end.values()].reduce((sum, one) => sum + one, 0);
  return {
    withoutUs: claims.reduce((sum, one) => sum + (one.reported === null ? 0 : one.reported - one.confirmed.length), 0),
    again: claims.reduce((sum, { confirmed }) => sum + confirmed.length, 0) - different.length,
    claimedAgain: different.filter((id) => times.get(id)! > 1),
    different,
    elsewhere,
    nobody: known - (different.length - elsewhere.length),
    unclaimed: [...end].flatMap(([id, count]) => (count > (times.has(id) ? 1 : 0) ? id : [])),
    known,
  };
}
