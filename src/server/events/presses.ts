import type { Sequelize } from 'sequelize';
import type { Hit } from '../../core/capture/schema';
import type { Press } from '../../core/events/press';
import { json, selectRows } from '../db';

/** Presses that are looked at: what a website is pressed on shows in the newest. */
export const mostPresses = 3000;

/** A link or button as it was pressed, and where. */
export interface PressedOn {
  press: Press;
  address: string;
}

/** What was pressed lately, the newest first, at most `mostPresses`. */
export async function readPresses(db: Sequelize, businessId: string, since: Date): Promise<PressedOn[]> {
  const rows = await selectRows(
    db,
    { body: json<Hit>() },
    `FROM hits FORCE INDEX (by_time) WHERE business_id = ? AND at >= ? AND kind = 'pressed'
     ORDER BY at DESC LIMIT ${mostPresses}`,
    [businessId, since],
  );
  return rows.flatMap(({ body }) => (body.kind === 'pressed' ? [{ press: body.press, address: body.address }] : []));
}
