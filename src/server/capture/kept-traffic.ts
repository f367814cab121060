import { expectedValue, queryValue, splitAddress, type ValueRule } from '../../core/capture';
import type { KeptTrafficView } from '../../core/capture/station-view';
import type { Context } from '../context';
import { likeText, selectOne, selectRows, text, time, whole } from '../db';
import type { Membership } from '../people/people';
import { observationStart } from '../plan/plan';

/** Arrivals looked at, the newest first: at two million hits, looking through all of four weeks took 16 s. */
const most = 10_000;
const lastFew = 5;

/** What a keep rule for a query value would have kept of the arrivals recorded lately. */
export function makeKeptTraffic({ db }: Context) {
  return async function keptTraffic({ business }: Membership, rule: ValueRule): Promise<KeptTrafficView> {
    const newest = `FROM hits
      WHERE business_id = ? AND kind = 'arrived' AND at >= ? ORDER BY at DESC LIMIT ${most}`;
    const since = [business.id, observationStart()];
    const [{ looked, oldest }, rows] = await Promise.all([
      selectOne(
        db,
        { looked: whole().of('COUNT(*)'), oldest: time().nullable().of('MIN(at)') },
        `FROM (SELECT at ${newest}) AS newest`,
        since,
      ),
      selectRows(
        db,
        { address: text() },
        `FROM (SELECT at, id, JSON_VALUE(body, '$.address') AS address ${newest}) AS newest
         WHERE address LIKE ? ORDER BY at DESC, id DESC`,
        [...since, likeText(`${rule.name}=`)],
      ),
    ]);
    const values = rows.flatMap(({ address }) => {
      const split = splitAddress(address);
      return (split && queryValue(split, rule.name)) || [];
    });
    const kept = values.filter((value) => expectedValue(value, rule) !== '').length;
    return {
      since: looked === most && oldest ? oldest.toISOString() : null,
      arrivals: values.length,
      kept,
      odd: values.length - kept,
      last: values
        .slice(0, lastFew)
        .map((value) => ({ value: expectedValue(value, rule) || value, keeps: expectedValue(value, rule) !== '' })),
    };
  };
}
