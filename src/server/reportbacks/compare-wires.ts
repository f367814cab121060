import type { Sequelize } from 'sequelize';
import type { ComparedTelling } from '../../core/reportbacks/compare-view';
import type { ToldRow } from '../../core/reportbacks/compare';
import { selectRows, text, time, uuid, whole } from '../db';
import { mostRows } from './compare-queries';

/* What wires only work out, beside what another way of telling told. */

type Wire = Pick<ComparedTelling, 'outcome' | 'account'>;

/** How many of an event were told, or only worked out, at one time of the day. */
interface Counted {
  /** `ours`: what is compared; `before`: what was told before it was only worked out. */
  way: 'ours' | 'before';
  isTold: boolean;
  /** ms: the beginning of a quarter of an hour, in which no day of any zone begins or ends. */
  at: number;
  times: number;
}

const quarter = 900_000;
/** Nothing happens later. */
const never = new Date('9999-12-31');

/**
 * Events that the server told an account under one name, or only worked out.
 *
 * @param byClick whether they are counted at the time of their click, as platforms report them; one without a known click is not
 */
export async function readWireTimes(
  db: Sequelize,
  businessId: string,
  { outcome: event, account, from }: Wire & Pick<ComparedTelling, 'from'>,
  given: { name: string; platform: string; since: Date; byClick: boolean },
): Promise<Counted[]> {
  const { name, platform, since, byClick } = given;
  const at = byClick ? 's.first_at' : 't.happened_at';
  const rows = await selectRows(
    db,
    {
      way: text<Counted['way']>().of("IF(t.state = 'worked out' OR t.happened_at >= ?, 'ours', 'before')"),
      isTold: whole().of("t.state = 'told'"),
      quarters: whole().of(`TIMESTAMPDIFF(MINUTE, '1970-01-01', ${at}) DIV 15`),
      times: whole().of('COUNT(*)'),
    },
    `FROM event_tellings t
     ${byClick ? 'JOIN strands s ON s.business_id = t.business_id AND s.platform = ? AND s.click_id = t.click_id' : ''}
     WHERE t.business_id = ? AND t.event = ? AND t.account = ? AND t.told_by = 'server' AND t.state IN ('told', 'worked out')
       AND t.happened_at >= ? AND JSON_VALUE(t.sent, '$.name') = ?
     GROUP BY way, isTold, quarters`,
    [from === '' ? never : new Date(from), ...(byClick ? [platform] : []), businessId, event, account, since, name],
  );
  return rows.map(({ way, isTold, quarters, times }) => ({ way, isTold: isTold === 1, at: quarters * quarter, times }));
}

/** The names under which an event was worked out or told, the commonest first. */
export async function readWireNames(
  db: Sequelize,
  businessId: string,
  { outcome: event, account }: Wire,
  since: Date,
): Promise<string[]> {
  const rows = await selectRows(
    db,
    { name: text().of("JSON_VALUE(sent, '$.name')") },
    `FROM event_tellings WHERE business_id = ? AND event = ? AND account = ? AND told_by = 'server'
       AND state IN ('told', 'worked out') AND happened_at >= ?
     GROUP BY JSON_VALUE(sent, '$.name') ORDER BY COUNT(*) DESC LIMIT 200`,
    [businessId, event, account, since],
  );
  return rows.map(({ name }) => name);
}

/** Those that were only worked out, one by one, of clicks of a platform. */
export async function readWireRows(
  db: Sequelize,
  businessId: string,
  { outcome: event, account }: Wire,
  platform: string,
  since: Date,
): Promise<(ToldRow & { strandId: string | null })[]> {
  const rows = await selectRows(
    db,
    {
      id: uuid().of('t.id'),
      clickId: text().of('t.click_id'),
      at: time().of('t.happened_at'),
      strandId: uuid().nullable().of('s.id'),
    },
    `FROM event_tellings t
     LEFT JOIN strands s ON s.business_id = t.business_id AND s.platform = ? AND s.click_id = t.click_id
     WHERE t.business_id = ? AND t.event = ? AND t.account = ? AND t.told_by = 'server' AND t.state = 'worked out'
       AND t.happened_at >= ? ORDER BY t.happened_at DESC LIMIT ${mostRows}`,
    [platform, businessId, event, account, since],
  );
  return rows.map(({ id, clickId, at, strandId }) => ({
    id,
    clickId,
    at: at.getTime(),
    minor: 0,
    currency: '',
    strandId,
  }));
}
