import { expectedValue, queryValue, splitAddress, type ValueRule } from '../../core/capture';
import type { KeptTrafficView } from '../../core/capture/station-view';
import type { Context } from '../context';
import { selectRows, text, likeText } from '../db';
import type { Membership } from '../people/people';
import { lookedAtSince } from '../plan/plan';

const most = 5000;
const lastFew = 5;

/** What a keep rule for a query value would have kept of the arrivals recorded lately, the newest first, up to 5,000. */
export function makeKeptTraffic({ db }: Context) {
  return async function keptTraffic({ business }: Membership, rule: ValueRule): Promise<KeptTrafficView> {
    const rows = await selectRows(
      db,
      { address: text().of("JSON_VALUE(body, '$.address')") },
      `FROM hits
       WHERE business_id = ? AND kind = 'arrived' AND at >= ? AND body LIKE ? ORDER BY id DESC LIMIT ${most}`,
      [business.id, lookedAtSince(), likeText(`${rule.name}=`)],
    );
    const values = rows.flatMap(({ address }) => {
      const split = splitAddress(address);
      return (split && queryValue(split, rule.name)) || [];
    });
    const kept = values.filter((value) => expectedValue(value, rule) !== '').length;
    return {
      ...{ arrivals: values.length, kept, odd: values.length - kept },
      last: values
        .slice(0, lastFew)
        .map((value) => ({ value: expectedValue(value, rule) || value, keeps: expectedValue(value, rule) !== '' })),
    };
  };
}
