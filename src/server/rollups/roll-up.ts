/* eslint-disable no-await-in-loop -- one day at a time, so that no transaction is long */
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { dayIn } from '../days';
import { insertRows, pick, selectOne, selectRows, time, inReadCommitted, plain } from '../db';
import { sumUpLeads } from '../results/lead-days';
import { periodOf } from '../strands/range';
import { insertDay, sums } from './sums';
import { rollUpMarks, rollUpZones } from './table';

/** Marks that are read at once; the rest is read right after. */
const mostMarks = 20_000;
const hour = 3_600_000;

/** Writes the sums of days anew that something changed of; the same rows again give the same sums. */
export function makeRollUp({ db, tables }: Context) {
  async function zonesOf(businessId: string): Promise<[own: string, ...others: string[]]> {
    const business = await tables.businesses.findOne({ where: { id: businessId } });
    const own = business?.get({ plain: true }).timeZone ?? 'UTC';
    const accounts = await tables.accounts.findAll({ where: { businessId }, attributes: ['settings'] });
    // Only accounts that report clicks have days of their own to be compared with.
    const others = plain(accounts).flatMap(({ settings }) =>
      settings.reports === 'yes' ? [settings.timeZone ?? 'UTC'] : [],
    );
    return [own, ...new Set(others.filter((zone) => zone !== own))];
  }

  /** Zones that were never added up: every day there is anything of. */
  async function missingDays(businessId: string, zones: string[]): Promise<[zone: string, days: string[]][]> {
    const built = await selectRows(db, pick(rollUpZones, ['zone']), 'FROM roll_up_zones WHERE business_id = ?', [
      businessId,
    ]);
    const missing = zones.filter((zone) => !built.some((row) => row.zone === zone));
    if (missing.length === 0) return [];
    const { strand, hit } = await selectOne(
      db,
      {
        strand: time().nullable().of('(SELECT MIN(first_at) FROM strands WHERE business_id = ?)'),
        hit: time().nullable().of('(SELECT MIN(at) FROM hits WHERE business_id = ?)'),
      },
      '',
      [businessId, businessId],
    );
    const from = Math.min(nowMs(), ...[strand, hit].flatMap((at) => at?.getTime() ?? []));
    const hours = Array.from({ length: Math.ceil((nowMs() - from) / hour) + 25 }, (_, n) => from + n * hour);
    return missing.map((zone) => [zone, [...new Set(hours.map((at) => dayIn(zone, at)))]]);
  }

  async function writeDay(businessId: string, zone: string, day: string, isOwn: boolean): Promise<void> {
    const { from, to } = periodOf(day, day, zone);
    const leads = isOwn ? await sumUpLeads(db, businessId, day, [new Date(from), new Date(to)]) : null;
    await inReadCommitted(db, async (transaction) => {
      if (leads) {
        await tables.leadDays.destroy({ where: { businessId, zone: '', day }, transaction });
        await insertRows(tables.leadDays, leads, [], transaction);
      }
      for (const sum of sums.filter(({ allZones }) => isOwn || allZones)) {
        const under = sum.allZones ? zone : '';
        await db.query(`DELETE FROM ${sum.table} WHERE business_id = ? AND zone = ? AND day = ?`, {
          replacements: [businessId, under, day],
          transaction,
        });
        const { sql, replacements } = insertDay(sum, businessId, under, day, from, to);
        await db.query(sql, { replacements, transaction });
      }
    });
  }

  return async function rollUp(businessId: string): Promise<Date | null> {
    const zones = await zonesOf(businessId);
    const marks = await selectRows(
      db,
      pick(rollUpMarks, ['id', 'hour']),
      `FROM roll_up_marks WHERE business_id = ? ORDER BY id LIMIT ${mostMarks}`,
      [businessId],
    );
    const missing = new Map(await missingDays(businessId, zones));
    const hours = [...new Set(marks.map((mark) => mark.hour.getTime()))];
    for (const zone of zones) {
      // An hour of one zone may lie in two days of another.
      const marked = hours.flatMap((at) => [dayIn(zone, at), dayIn(zone, at + hour - 1)]);
      for (const day of new Set([...(missing.get(zone) ?? []), ...marked]))
        await writeDay(businessId, zone, day, zone === zones[0]);
      if (missing.has(zone))
        await db.query(
          'INSERT INTO roll_up_zones (business_id, zone, built_at) VALUES (?,?,?) ON DUPLICATE KEY UPDATE built_at = built_at',
          { replacements: [businessId, zone, now()] },
        );
    }
    if (marks.length > 0)
      await db.query('DELETE FROM roll_up_marks WHERE business_id = ? AND id IN (?)', {
        replacements: [businessId, marks.map(({ id }) => id)],
      });
    return marks.length === mostMarks ? now() : null;
  };
}
