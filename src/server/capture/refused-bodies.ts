import { v5 } from 'uuid';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { log } from '../log';

const namespace = '1f0c7c52-9c0e-5b8e-8a0e-6d1d5b0a3c11';

/**
 * Counts what pages sent and nobody could take, by business and day: a page drops a hit that is refused for its size, so
 * that it keeps no other, and here is where it is known of.
 */
export function makeCountRefusedBody({ db }: Pick<Context, 'db'>) {
  return async function countRefusedBody(businessId: string, reason: string): Promise<void> {
    const id = v5(`${businessId} ${Math.floor(nowMs() / 86_400_000)} ${reason}`, namespace);
    await db
      .query(
        `INSERT INTO quarantine (business_id, id, kind, received_at, reason, body) VALUES (?,?,'body',?,?,'{"times":1}')
         ON DUPLICATE KEY UPDATE received_at = VALUES(received_at),
           body = JSON_SET(body, '$.times', JSON_VALUE(body, '$.times') + 1)`,
        { replacements: [businessId, id, now(), reason] },
      )
      .catch((error: unknown) => log.warn({ error: (error as Error).message }, 'refused body could not be counted'));
  };
}
