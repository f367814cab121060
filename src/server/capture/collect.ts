import { QueryTypes } from 'sequelize';
import { isUnder, splitAddress, type Hit } from '../../core/capture';
import { batchSchema, hitFieldWords, hitSchema } from '../../core/capture/schema';
import { AvrixError } from '../../core/errors';
import type { KnownBusiness } from '../businesses';
import { now } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork } from '../db';
import type { Releases } from '../releases/releases';

/** A hit that was not taken: which, where, and why. */
export interface RefusedHit {
  id: string;
  field: string;
  was: string;
  wants: string;
}

/** A page's clock that is further off than this (ms) is corrected by the collector's. */
const clockTolerance = 60_000;

export type Collect = ReturnType<typeof makeCollect>;

/** Takes what pages send: durable before the answer, each hit once by its ID. */
export function makeCollect(context: Context, releases: Releases) {
  const { db } = context;

  /**
   * Checks and stores a batch. Hits from hosts that are not the business's own are kept apart and named.
   * @returns the hits that were not taken; the others are in the database when this resolves
   * @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG where the batch itself cannot be read
   */
  return async function collect(business: KnownBusiness, body: string): Promise<RefusedHit[]> {
    const batch = readBatch(body);
    const receivedAt = now();
    const refused: RefusedHit[] = [];
    const own: Hit[] = [];
    const foreign: { hit: Hit; host: string }[] = [];
    for (const [index, raw] of batch.hits.entries()) {
      const parsed = hitSchema.safeParse(raw);
      if (!parsed.success) {
        refused.push(nameRefusal(raw, index, parsed.error.issues[0]!));
        continue;
      }
      const host = splitAddress(parsed.data.address)?.host ?? '';
      const isOwn = business.websites.some((website) => isUnder(host, website.registrable));
      if (isOwn) own.push(parsed.data);
      else {
        foreign.push({ hit: parsed.data, host });
        const wants = 'Add the host to the business’s websites to count it.';
        refused.push({ id: parsed.data.id, field: 'address', was: `${host} is no website of ${business.name}`, wants });
      }
    }
    const known = await keepKnownReleases(business.id, own, refused);
    const skew = receivedAt.getTime() - batch.sentAt;
    const correction = Math.abs(skew) > clockTolerance ? skew : 0;

    await inTransaction(db, async (transaction) => {
      if (known.length > 0)
        await db.query(
          `INSERT INTO hits (business_id, id, visitor_id, kind, host, at, page_at, sent_at, received_at,
             release_number, body) VALUES ${known.map(() => '(?,?,?,?,?,?,?,?,?,?,?)').join(',')}
           ON DUPLICATE KEY UPDATE id = id`,
          {
            type: QueryTypes.INSERT,
            transaction,
            replacements: known.flatMap((hit) => [
              business.id,
              hit.id,
              hit.visitor,
              hit.kind,
              splitAddress(hit.address)!.host,
              new Date(hit.at + correction),
              new Date(hit.at),
              new Date(batch.sentAt),
              receivedAt,
              hit.release,
              JSON.stringify(hit),
            ]),
          },
        );
      for (const { hit, host } of foreign)
        await db.query(
          'INSERT INTO foreign_hits (business_id, id, host, received_at, body) VALUES (?,?,?,?,?) ON DUPLICATE KEY UPDATE id = id',
          { transaction, replacements: [business.id, hit.id, host, receivedAt, JSON.stringify(hit)] },
        );
      const visitors = [...new Set(known.map((hit) => hit.visitor))];
      await markWork(db, 'visitor', business.id, visitors, receivedAt, transaction);
    });
    return refused;
  };

  async function keepKnownReleases(business: string, hits: Hit[], refused: RefusedHit[]): Promise<Hit[]> {
    const numbers = [...new Set(hits.map((hit) => hit.release))];
    const unknown = new Set<number>();
    for (const number of numbers) await releases.numbered(business, number).catch(() => unknown.add(number));
    return hits.filter((hit) => {
      if (!unknown.has(hit.release)) return true;
      const was = `release ${hit.release} does not exist`;
      refused.push({ id: hit.id, field: 'release', was, wants: 'Load the snippet again.' });
      return false;
    });
  }
}

function readBatch(body: string) {
  let json: unknown;
  try {
    json = JSON.parse(body);
  } catch {
    throw new AvrixError('AVX_BODY_NOT_JSON');
  }
  const parsed = batchSchema.safeParse(json);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new AvrixError('AVX_FIELD_WRONG', {
    field: issue.path.join('.') || 'body',
    was: issue.message,
    wants: 'Send {"sentAt": milliseconds, "hits": [1 to 50 hits]}.',
  });
}

function nameRefusal(raw: unknown, index: number, issue: { path: PropertyKey[]; message: string }): RefusedHit {
  const id = (raw as { id?: unknown } | null)?.id;
  const field = issue.path.join('.') || 'hit';
  return {
    id: typeof id === 'string' ? id.slice(0, 60) : `hit ${index + 1}`,
    field,
    was: issue.message,
    wants: `It must be ${hitFieldWords[field.split('.')[0]!] ?? 'a JSON object of the kind arrived or form_sent'}.`,
  };
}
