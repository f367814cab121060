import { z } from 'zod';
import { readBodyAs } from '../../core/read-as';
import type { KnownBusiness } from '../businesses';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { insertRows, inTransaction } from '../db';
import { newId } from '../ids';
import type { Spool } from './spool/spool';

const value = z.string().max(200);
const landingSchema = z.strictObject({ source: value, medium: value, campaign: value });

/** An arrival of somebody who did not agree, as it stands in the spool. Time in ms; `landing` is the count's own ID. */
export interface SpooledLanding extends z.infer<typeof landingSchema> {
  business: string;
  landing: string;
  at: number;
}

/** Counts arrivals of people who did not agree: where they came from, nothing by which anybody is known again. */
export function makeCountLanding(spool: Spool) {
  /** @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG, AVX_SPOOL_AWAY */
  return async function countLanding(business: KnownBusiness, body: string): Promise<void> {
    const landing = readBodyAs(landingSchema, body, 'Send {"source", "medium", "campaign"}.');
    await spool.append(JSON.stringify({ ...landing, business: business.id, landing: newId(), at: nowMs() }));
  };
}

/** Stores counted landings, each once. */
export async function storeCountedLandings({ db, tables }: Context, landings: SpooledLanding[]): Promise<void> {
  if (landings.length === 0) return;
  await inTransaction(db, (transaction) =>
    insertRows(
      tables.countedLandings,
      landings.map(({ business, landing, at, ...from }) => ({
        ...from,
        businessId: business,
        id: landing,
        at: new Date(at),
      })),
      [],
      transaction,
    ),
  );
}
