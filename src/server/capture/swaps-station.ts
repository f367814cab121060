import { selectRows, text, whole } from '../db';
import type { Reading } from '../../core/capture';
import type { SwapsView } from '../../core/capture/station-view';
import { counted } from '../../core/strands';
import type { Context } from '../context';
import type { Membership } from '../people/people';
import { observationStartDay } from '../plan/plan';
import type { CaptureStation } from './station';

const mostValues = 12;
/** Columns of the sums of touches that hold what a reading of the last touch gives. */
const columns = {
  last_source: 'source',
  last_medium: 'medium',
  last_campaign: 'campaign',
  last_content: 'content',
  last_term: 'term',
  last_referrer_host: 'referrer_host',
} satisfies Partial<Record<Reading, string>>;

/** The swap tables, with the values that they would have been given lately. */
export function makeSwapsStation({ db }: Context, { base }: CaptureStation) {
  return async function swaps(membership: Membership): Promise<SwapsView> {
    const readings = Object.keys(columns) as (keyof typeof columns)[];
    const since = [membership.business.id, observationStartDay()];
    const usual = (reading: keyof typeof columns) =>
      `(SELECT '${reading}' AS reading, ${columns[reading]} AS value, SUM(touches) AS times FROM touch_days
        WHERE business_id = ? AND zone = '' AND day >= ? AND ${columns[reading]} <> ''
        GROUP BY value ORDER BY times DESC LIMIT ${mostValues})`;
    const rows = await selectRows(
      db,
      { reading: text<Reading>(), value: text(), times: whole() },
      `FROM (${readings.map(usual).join(' UNION ALL ')}) AS usual`,
      readings.flatMap(() => since),
    );
    const recorded: SwapsView['recorded'] = {};
    for (const { reading, value, times } of rows) (recorded[reading] ??= []).push({ value, times });
    const known = await base(membership, ({ capture: { swaps: tables, fill } }) => ({
      title:
        tables.length === 0
          ? 'Values go into fields as they are.'
          : `${counted(tables.length, 'table turns', 'tables turn')} values into other ones.`,
      under:
        tables.length === 0
          ? 'A swap table turns a code into words, or takes another reading where a value says so.'
          : `${counted(fill.filter(({ swap }) => swap !== '').length, 'fill rule goes', 'fill rules go')} through one.`,
    }));
    return { ...known, recorded };
  };
}
