import type { Sequelize } from 'sequelize';
import type { Dimension, Origin } from '../../core/results/dimensions';
import { creditsOf } from '../../core/results/figures';
import type { CreditModel } from '../../core/results/schema';
import { pick, selectRows, whole } from '../db';
import { leadDays, rollUpZones, type LeadDayRow } from '../rollups/table';
import type { DaySpan } from '../strands/range';
import type { AskedFigures } from './asked-figures';
import { originColumns, readEnquired, type OriginColumn } from './queries';
import { asEnquiry } from './read-subjects';
import { readPaths, readVisitorsOf } from './read-paths';
import { makeReport } from './report-progress';
import { noValues } from './touch-values';

/* Enquiries as they are summed up by day: by the touches credited with them, as the models without a setting do. */

const summedUp: readonly CreditModel[] = [{ kind: 'last' }, { kind: 'first' }, { kind: 'even' }];
const all: readonly Dimension[] = [
  ...(['source', 'medium', 'campaign', 'content', 'term', 'platform', 'referrer', 'landing'] as const),
];

/** Whether leads are read from the sums: of everybody, by a model that these are kept for, once all days were added up. */
export async function areSummedUp(
  db: Sequelize,
  { businessId, timeZone, model, segment }: Pick<AskedFigures, 'businessId' | 'timeZone' | 'model' | 'segment'>,
): Promise<boolean> {
  if (segment !== null || !summedUp.some(({ kind }) => kind === model.kind)) return false;
  const of = [businessId, timeZone];
  return (
    (await selectRows(db, pick(rollUpZones, ['zone']), 'FROM roll_up_zones WHERE business_id = ? AND zone = ?', of))
      .length > 0
  );
}

/** The rows of one day, from its enquiries and the touches of their people. @param day its instants: from, to (not included) */
export async function sumUpLeads(
  db: Sequelize,
  businessId: string,
  day: string,
  days: readonly [Date, Date],
): Promise<LeadDayRow[]> {
  const enquired = await readEnquired(db, businessId, days, null);
  const visitorsOf = await readVisitorsOf(db, businessId, enquired);
  const touchesOf = await readPaths(db, businessId, enquired, visitorsOf, all, makeReport(undefined));
  const subjects = enquired.map((row) => asEnquiry(row, day, touchesOf(row)));
  return summedUp
    .flatMap((model) => {
      const sums = new Map<Origin, number>();
      for (const subject of subjects)
        for (const { origin, amount } of creditsOf(subject, model)) sums.set(origin, (sums.get(origin) ?? 0) + amount);
      return [...sums].map(([origin, thousandths]) => ({ credit: model.kind, origin, thousandths }));
    })
    .map(({ credit, origin, thousandths }, n): LeadDayRow => {
      const isUnknown = typeof origin === 'string';
      const values = isUnknown ? noValues : origin;
      return { businessId, zone: '', day, n, credit, ...values, isUnknown, thousandths };
    });
}

/** Leads (thousandths) of some days by what is credited with them. @param columns that are needed */
export const readLeadDays = (
  db: Sequelize,
  businessId: string,
  { firstDay, lastDay }: DaySpan,
  credit: CreditModel['kind'],
  columns: readonly OriginColumn[],
) =>
  selectRows(
    db,
    { ...originColumns(columns), isUnknown: leadDays.columns.isUnknown, thousandths: whole().of('SUM(thousandths)') },
    `FROM lead_days WHERE business_id = ? AND zone = '' AND day BETWEEN ? AND ? AND credit = ?
     GROUP BY ${['is_unknown', ...columns].join(', ')}`,
    [businessId, firstDay, lastDay, credit],
  );
