import { noStages, type Stages } from '../../core/outcomes/reached';
import type { OutcomeRule } from '../../core/outcomes/schema';
import type { Release, ReleaseContent } from '../../core/releases';
import { nowMs } from '../clock';
import type { Context } from '../context';
import type { BusinessRow } from '../db';
import type { DaySpan } from '../strands/range';

/** What any thread of the pool is asked of a business: where its rows are, and by what they are read and counted. */
export interface AskedBusiness {
  databaseUrl: string;
  businessId: string;
  timeZone: string;
  currency: string;
  /** Of the release by which values are read. */
  content: Pick<ReleaseContent, 'plan' | 'capture'>;
}
export const askedOfBusiness = (
  { config }: Pick<Context, 'config'>,
  { id, timeZone, currency }: BusinessRow,
  { content: { plan, capture } }: Release,
): AskedBusiness => ({
  databaseUrl: config.resultsDatabaseUrl,
  businessId: id,
  timeZone,
  currency,
  content: { plan, capture },
});

/** The same of one outcome, on some days. */
export interface AskedOutcome extends AskedBusiness, DaySpan {
  rule: OutcomeRule;
  stages: Stages;
  /** ms */
  now: number;
}
export const askedOfOutcome = (
  context: Pick<Context, 'config'>,
  business: BusinessRow,
  release: Release,
  rule: OutcomeRule,
  { firstDay, lastDay }: DaySpan,
): AskedOutcome => ({
  ...askedOfBusiness(context, business, release),
  rule,
  stages: release.content.crm?.stages ?? noStages,
  now: nowMs(),
  firstDay,
  lastDay,
});
