import type { Sequelize } from 'sequelize';
import { bigint, pick, selectRows, text, whole } from '../db';
import { strandDays } from '../rollups/table';
import type { DaySpan } from '../strands/range';
import { costFees, costMatches, costs, exchangeRates } from './table';

/* What ads cost, and what it is read by; read in the pool. */

export const readCosts = (db: Sequelize, businessId: string, { firstDay, lastDay }: DaySpan) =>
  selectRows(
    db,
    {
      ...pick(costs, ['account', 'campaign', 'campaignId', 'ad', 'adId', 'clicks', 'currency']),
      day: text().of('CAST(day AS CHAR)'),
      amount: bigint().of('amount_minor'),
    },
    'FROM costs WHERE business_id = ? AND day BETWEEN ? AND ?',
    [businessId, firstDay, lastDay],
  );

export const readRates = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    { ...pick(exchangeRates, ['id', 'currency', 'millionths']), day: text().of('CAST(day AS CHAR)') },
    'FROM exchange_rates WHERE business_id = ? AND retired_at IS NULL',
    [businessId],
  );

export const readFees = (db: Sequelize, businessId: string) =>
  selectRows(
    db,
    {
      ...pick(costFees, ['id', 'account', 'hundredths']),
      firstDay: text().of('CAST(first_day AS CHAR)'),
      lastDay: text().nullable().of('CAST(last_day AS CHAR)'),
    },
    'FROM cost_fees WHERE business_id = ? AND retired_at IS NULL',
    [businessId],
  );

export const readMatches = (db: Sequelize, businessId: string) =>
  selectRows(db, pick(costMatches, ['account', 'campaignKey', 'campaign']), 'FROM cost_matches WHERE business_id = ?', [
    businessId,
  ]);

/** Campaigns that arrived with a number, by platform, the most frequent first; from sums by day. */
export const readArrivedNumbers = (
  db: Sequelize,
  businessId: string,
  timeZone: string,
  { firstDay, lastDay }: DaySpan,
) =>
  selectRows(
    db,
    { ...pick(strandDays, ['campaign', 'platform']), number: text().of('utm_id'), arrived: whole().of('SUM(strands)') },
    `FROM strand_days WHERE business_id = ? AND zone = ? AND day BETWEEN ? AND ? AND way_in = 'none' AND utm_id <> ''
     GROUP BY campaign, platform, utm_id ORDER BY arrived DESC, campaign`,
    [businessId, timeZone, firstDay, lastDay],
  );
