import type { Sequelize } from 'sequelize';
import { pick, selectOne, selectRows, time, whole } from '../db';
import type { ArrivedValue, PlannedValue } from '../../core/plan';
import { campaigns } from './table';
import { tagDays } from '../rollups/table';

/* Grouping that the models cannot say. */

/** Campaigns of the register that are known at most. */
export const mostCampaigns = 5000;

/** The campaigns of the register as planned values, those out of use too: what was clicked under them stays on plan. */
export const readCampaignNames = (db: Sequelize, businessId: string): Promise<PlannedValue[]> =>
  selectRows(
    db,
    { value: campaigns.columns.name.of('name'), label: campaigns.columns.friendly.of('friendly') },
    `FROM campaigns WHERE business_id = ? ORDER BY changed_at DESC LIMIT ${mostCampaigns}`,
    [businessId],
  );

/** Distinct values looked at, the commonest first; a business with more has a tag that is no tag. */
export const mostValues = 20_000;

/** How often each value of each tag arrived since a day, without where from. */
export async function readArrivedCounts(db: Sequelize, businessId: string, since: string): Promise<ArrivedValue[]> {
  const rows = await selectRows(
    db,
    {
      ...pick(tagDays, ['tag', 'value']),
      arrivals: whole().of('SUM(arrivals)'),
      firstAt: time().of('MIN(first_at)'),
      lastAt: time().of('MAX(last_at)'),
    },
    `FROM tag_days WHERE business_id = ? AND zone = '' AND day >= ?
     GROUP BY tag, value ORDER BY arrivals DESC, tag, value LIMIT ${mostValues}`,
    [businessId, since],
  );
  return rows.map((row) => ({
    ...row,
    host: '',
    campaign: '',
    firstAt: row.firstAt.getTime(),
    lastAt: row.lastAt.getTime(),
  }));
}

/** The same values with the host they came from and the campaign beside them most often. */
export async function addUsualOrigin<V extends ArrivedValue>(
  db: Sequelize,
  businessId: string,
  since: string,
  values: V[],
): Promise<V[]> {
  if (values.length === 0) return [];
  const rows = await selectRows(
    db,
    pick(tagDays, ['tag', 'value', 'host', 'campaign']),
    `FROM tag_days
     WHERE business_id = ? AND zone = '' AND day >= ? AND (tag, value) IN (${values.map(() => '(?,?)').join(',')})
     GROUP BY tag, value, host, campaign ORDER BY SUM(arrivals)`,
    [businessId, since, ...values.flatMap(({ tag, value }) => [tag, value])],
  );
  // The commonest comes last and stays.
  const origins = new Map(rows.map((row) => [`${row.tag} ${row.value}`, row]));
  return values.map((one) => {
    const { host = '', campaign = '' } = origins.get(`${one.tag} ${one.value}`) ?? {};
    return { ...one, host, campaign };
  });
}

/** When tags were first recorded, or null where none ever were. */
export async function firstRecorded(db: Sequelize, businessId: string): Promise<Date | null> {
  const { at } = await selectOne(
    db,
    { at: time().nullable().of('MIN(first_at)') },
    `FROM tag_days WHERE business_id = ? AND zone = '' AND day =
       (SELECT MIN(day) FROM tag_days WHERE business_id = ? AND zone = '')`,
    [businessId, businessId],
  );
  return at;
}
