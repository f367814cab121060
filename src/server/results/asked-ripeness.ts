import { noStages } from '../../core/outcomes/reached';
import type { OutcomeRule } from '../../core/outcomes/schema';
import type { Release } from '../../core/releases';
import { nowMs } from '../clock';
import type { Config } from '../config';
import type { BusinessRow } from '../db';
import type { AskedRipeness } from './work-out-ripeness';

/** What a thread is asked of how long an outcome of a business takes. */
export const askedRipeness = (
  { resultsDatabaseUrl }: Pick<Config, 'resultsDatabaseUrl'>,
  business: BusinessRow,
  { content: { plan, capture, crm } }: Release,
  rule: OutcomeRule,
  { by, limits, firstDay, lastDay }: Pick<AskedRipeness, 'by' | 'limits' | 'firstDay' | 'lastDay'>,
): AskedRipeness => ({
  databaseUrl: resultsDatabaseUrl,
  businessId: business.id,
  timeZone: business.timeZone,
  content: { plan, capture },
  rule,
  stages: crm?.stages ?? noStages,
  by,
  limits,
  now: nowMs(),
  firstDay,
  lastDay,
});
