import { z } from 'zod';
import type { Sentence } from '../strands';
import type { CampaignMatch } from './cost';
import { daysQuery, inKnownDays, type DaysView } from './days-query';
import { dimensions, type Dimension } from './dimensions';
import { jsonText } from './json-text';
import { listOf } from './list-of';

const isDimension = (text: string): text is Dimension => (dimensions as readonly string[]).includes(text);

/** Which costs are listed, as it stands in an address. */
export const costQuerySchema = z
  .object({
    ...daysQuery,
    /** Only those that a row of figures counts: what it is broken down by, and its cells. */
    by: listOf(isDimension, 3, []),
    row: jsonText(z.array(z.string())).nullable().catch(null),
  })
  .transform(inKnownDays);
export type CostQuery = z.output<typeof costQuerySchema>;

const account = z.string().min(1, 'must name an account').max(80);
const day = z.iso.date('must be a day, such as 2027-02-15');

/** Which of the business's campaigns a campaign of an account is; '' takes back what was said. */
export const costMatchGivenSchema = z.strictObject({
  account,
  key: z.string().min(1).max(210),
  campaign: z.string().trim().max(200, 'must have at most 200 characters'),
});
export type CostMatchGiven = z.infer<typeof costMatchGivenSchema>;

/** One unit of a currency in the business's, from a day on. */
export const rateGivenSchema = z.strictObject({
  currency: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters, such as USD'),
  day,
  rate: z
    .string()
    .trim()
    .regex(/^\d{1,6}(\.\d{1,6})?$/, 'must be a number with at most six digits before and after the point, such as 0.79')
    .refine((text) => Number(text) > 0, 'must be more than 0'),
});
export type RateGiven = z.infer<typeof rateGivenSchema>;

/** What is added to what an account reports. */
export const feeGivenSchema = z
  .strictObject({
    account,
    percent: z
      .string()
      .trim()
      .regex(/^\d{1,3}(\.\d{1,2})?$/, 'must be a number with at most two digits after the point, such as 12.5')
      .refine((text) => Number(text) > 0 && Number(text) <= 300, 'must be more than 0 and at most 300'),
    firstDay: day,
    lastDay: day.or(z.literal('')),
  })
  .refine(({ firstDay, lastDay }) => lastDay === '' || lastDay >= firstDay, {
    path: ['lastDay'],
    error: 'must not be before the first day',
  });
export type FeeGiven = z.infer<typeof feeGivenSchema>;

/** Of which account a file of costs is. */
export const costFileSchema = z.object({ account });

export interface CostCampaignRow {
  id: string;
  account: string;
  accountName: string;
  /** By what it is matched; see `campaignKey`. */
  key: string;
  /** As the platform calls it now, and its number there. */
  campaign: string;
  number: string;
  match: CampaignMatch | null;
  clicks: number;
  /** Minor units of the business's currency with fees; null where its exchange rate is not known. */
  amount: number | null;
  /** As the account has it, without fees: only where that is one currency, of whole days of the account. */
  own: { amount: number; currency: string };
  ads: { ad: string; clicks: number; amount: number | null }[];
}

export interface CostView {
  sentence: Sentence;
  asked: Pick<CostQuery, 'by' | 'row'>;
  range: DaysView;
  rows: CostCampaignRow[];
  /** Accounts that costs may be of. */
  /** Accounts, and sources of the plan that have none. */
  accounts: { key: string; name: string; timeZone: string; isSource: boolean }[];
  /** Campaigns to match with. */
  campaigns: string[];
  rates: { id: string; currency: string; day: string; rate: string }[];
  fees: {
    id: string;
    account: string;
    accountName: string;
    percent: string;
    firstDay: string;
    lastDay: string | null;
  }[];
  seesMoney: boolean;
  mayChange: boolean;
  currency: string;
  timeZone: string;
}

/** What became of a file of costs. */
export interface CostFileAnswer {
  taken: number;
  refused: { row: string; was: string; fix: string }[];
}
