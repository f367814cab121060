import type { SavedKind } from '../../core/results/kept';
import type { KeptMonth } from '../../core/results/months';
import type { MonthCredit } from '../../core/results/months-view';
import { bigint, day, defineTable, json, text, time, uuid, whole, type RowOf } from '../db/columns';

/** Figures and funnels that somebody keeps under a name. */
export const figureViews = defineTable('figure_views', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  kind: text<SavedKind>(),
  name: text(),
  /** What is asked for, as it stands in an address. */
  query: text(),
  madeBy: text(),
  madeAt: time(),
  /** Since when it is taken out; null while it is shown. */
  retiredAt: time().nullable(),
});
export type FigureViewRow = RowOf<typeof figureViews>;

/** What somebody notes of a day. */
export const dayNotes = defineTable('day_notes', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  day: day(),
  text: text(),
  madeBy: text(),
  madeAt: time(),
  retiredAt: time().nullable(),
});
export type DayNoteRow = RowOf<typeof dayNotes>;

/** What an ad cost on one day, in its account's currency and by its account's days. */
export const costs = defineTable('costs', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  /** The account's key. */
  account: text(),
  day: day(),
  campaign: text(),
  campaignId: text(),
  ad: text(),
  adId: text(),
  clicks: whole(),
  amountMinor: bigint(),
  currency: text(),
  /** Read from the account's own report, or from a file. */
  cameBy: text<'report' | 'file'>(),
  readAt: time(),
});
export type CostTableRow = RowOf<typeof costs>;

/** Which campaign of the business a campaign of an account is, said by hand; see `campaignKey`. */
export const costMatches = defineTable('cost_matches', ['businessId', 'account', 'campaignKey'], {
  businessId: uuid(),
  account: text(),
  campaignKey: text(),
  campaign: text(),
  madeBy: text(),
  madeAt: time(),
});

/** One unit of a currency in millionths of the business's, from a day on. */
export const exchangeRates = defineTable('exchange_rates', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  currency: text(),
  day: day(),
  millionths: bigint(),
  madeBy: text(),
  madeAt: time(),
  retiredAt: time().nullable(),
});
export type ExchangeRateRow = RowOf<typeof exchangeRates>;

/** What is added to what an account reports, in hundredths of a percent. */
export const costFees = defineTable('cost_fees', ['businessId', 'id'], {
  businessId: uuid(),
  id: uuid(),
  account: text(),
  hundredths: whole(),
  firstDay: day(),
  lastDay: day().nullable(),
  madeBy: text(),
  madeAt: time(),
  retiredAt: time().nullable(),
});
export type CostFeeRow = RowOf<typeof costFees>;

/** Months that are closed, with the figures as they were then, by who is credited. */
export const closedMonths = defineTable('closed_months', ['businessId', 'month'], {
  businessId: uuid(),
  /** Such as `2027-01`. */
  month: text(),
  figures: json<Record<MonthCredit, KeptMonth>>(),
  closedBy: text(),
  closedAt: time(),
});
export type ClosedMonthRow = RowOf<typeof closedMonths>;
