import { isUnder, splitAddress } from '../../core/capture';
import { batchSchema, hitFieldWords, hitSchema } from '../../core/capture/schema';
import { asAvrixError, AvrixError } from '../../core/errors';
import type { KnownBusiness } from '../businesses';
import { nowMs } from '../clock';
import type { Releases } from '../releases/releases';
import type { Spool } from './spool/spool';
import type { SpooledHit } from './spool/store';

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

/** Takes what pages send: on the disk before the answer, in the database soon after, each hit once by its ID. */
export function makeCollect(releases: Releases, spool: Spool) {
  /**
   * Checks and keeps a batch. Hits from hosts that are not the business's own are kept apart and named.
   * @returns the hits that were not taken; the others are in the spool when this resolves
   * @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG where the batch itself cannot be read, AVX_SPOOL_AWAY
   */
  return async function collect(business: KnownBusiness, body: string): Promise<RefusedHit[]> {
    const batch = readBatch(body);
    const receivedAt = nowMs();
    const skew = receivedAt - batch.sentAt;
    const correction = Math.abs(skew) > clockTolerance ? skew : 0;
    const refused: RefusedHit[] = [];
    const taken: SpooledHit[] = [];
    const unknown = await unknownReleases(business.id, batch.hits);
    for (const [index, raw] of batch.hits.entries()) {
      const parsed = hitSchema.safeParse(raw);
      if (!parsed.success) {
        refused.push(nameRefusal(raw, index, parsed.error.issues[0]!));
        continue;
      }
      const hit = parsed.data;
      if (unknown.has(hit.release)) {
        const was = `release ${hit.release} does not exist`;
        refused.push({ id: hit.id, field: 'release', was, wants: 'Load the snippet again.' });
        continue;
      }
      const host = splitAddress(hit.address)?.host ?? '';
      const foreign = !business.websites.some((website) => isUnder(host, website.registrable));
      if (foreign) {
        const wants = 'Add the host to the business’s websites to count it.';
        refused.push({ id: hit.id, field: 'address', was: `${host} is no website of ${business.name}`, wants });
      }
      taken.push({ business: business.id, hit, at: hit.at + correction, sentAt: batch.sentAt, receivedAt, foreign });
    }
    if (taken.length > 0) await spool.append(JSON.stringify(taken));
    return refused;
  };

  /** Release numbers in a batch that the business never made. */
  async function unknownReleases(business: string, hits: unknown[]): Promise<Set<number>> {
    const numbers = new Set(hits.map((hit) => Number((hit as { release?: unknown } | null)?.release)));
    const unknown = new Set<number>();
    for (const number of numbers)
      if (Number.isInteger(number))
        await releases.numbered(business, number).catch((error: unknown) => {
          if (asAvrixError(error)?.code !== 'AVX_RELEASE_UNKNOWN') throw error;
          unknown.add(number);
        });
    return unknown;
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
