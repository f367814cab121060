import { day, defineTable, text, time, uuid, whole, yes, type RowOf } from '../db/columns';
import type { CountedFinding } from '../../core/capture/faults';
import type { CreditModel } from '../../core/results/schema';
import type { HopRow, HopState, Mark, StrandKind } from '../../core/strands';

/* Sums by day (docs/decisions/0011). Days are of a time zone, '' for the business's own; `n` only numbers a day's rows. */

const keys = ['businessId', 'zone', 'day', 'n'] as const;
const ofDay = { businessId: uuid(), zone: text(), day: day(), n: whole() };
/** What a touch came with, as figures read it. */
const cameBy = {
  source: text(),
  medium: text(),
  campaign: text(),
  content: text(),
  term: text(),
  platform: text(),
  referrerHost: text(),
  landing: text(),
};

/** Hours of which something changed, so that their day is added up again. */
export const rollUpMarks = defineTable('roll_up_marks', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  hour: time(),
});

/** Zones whose days were added up from the beginning. */
export const rollUpZones = defineTable('roll_up_zones', ['businessId', 'zone'], {
  businessId: uuid(),
  zone: text(),
  builtAt: time(),
});

export const strandDays = defineTable('strand_days', keys, {
  ...ofDay,
  /** On all ways in (`none`), or what is otherwise on this one. */
  wayIn: text<HopRow['wayIn']>(),
  kind: text<StrandKind>(),
  platform: text(),
  source: text(),
  campaign: text(),
  utmId: text(),
  marked: text<Mark>(),
  reached: whole(),
  state: text<HopState>().nullable(),
  reason: text().nullable(),
  /** Below 0 where strands stand elsewhere on this way in. */
  strands: whole(),
});

export const pageDays = defineTable('page_days', keys, { ...ofDay, page: text(), arrivals: whole(), lastAt: time() });

export const tagDays = defineTable('tag_days', keys, {
  ...ofDay,
  tag: text(),
  value: text(),
  host: text(),
  campaign: text(),
  arrivals: whole(),
  firstAt: time(),
  lastAt: time(),
});

export const touchDays = defineTable('touch_days', keys, {
  ...ofDay,
  landing: text(),
  source: text(),
  medium: text(),
  campaign: text(),
  content: text(),
  term: text(),
  referrerHost: text(),
  untagged: yes(),
  touches: whole(),
  firstAt: time(),
  lastAt: time(),
});

/** Visits by the touch they came by, and by the day of the browser's visit before, so that browsers of any days can be counted. */
export const visitDays = defineTable('visit_days', keys, {
  ...ofDay,
  ...cameBy,
  /** Without a touch. */
  direct: yes(),
  previousOn: day().nullable(),
  visits: whole(),
});

/** Enquiries that are counted, by the touches that are credited with them. */
export const leadDays = defineTable('lead_days', keys, {
  ...ofDay,
  credit: text<CreditModel['kind']>(),
  ...cameBy,
  /** No touch is known of them. */
  isUnknown: yes(),
  thousandths: whole(),
});
export type LeadDayRow = RowOf<typeof leadDays>;

export const findingDays = defineTable('finding_days', keys, {
  ...ofDay,
  kind: text<CountedFinding['kind']>(),
  name: text(),
  page: text(),
  campaign: text(),
  detail: text(),
  times: whole(),
  lastAt: time(),
});

/** Visits that followed another of the same browser, by its engine: within 7 days of it, and later. */
export const returnDays = defineTable('return_days', keys, {
  ...ofDay,
  browser: text(),
  soon: whole(),
  later: whole(),
});
