/* eslint-disable no-await-in-loop -- the releases of a batch are one or two, and remembered */
import { hostOf, isUnder, type CaptureRules, type Hit } from '../../core/capture';
import { cleanHit, mayHoldPii } from '../../core/capture/clean-hit';
import { batchSchema, clockOf, hitFieldWords, hitSchema } from '../../core/capture/schema';
import { asAvrixError } from '../../core/errors';
import { captureRules } from '../../core/releases';
import { readBodyAs } from '../../core/read-as';
import type { KnownBusiness } from '../businesses';
import { nowMs } from '../clock';
import type { Releases } from '../releases/releases';
import { isBot } from './bots';
import { browserEngineOf } from './browser';
import { fitsHit } from './fits';
import { isOfNetworks } from './networks';
import { makeVisitorLimit } from './visitor-limit';
import type { Spool } from './spool/spool';
import type { SpooledBatch } from './spool/store';

/** A hit that was not taken: which, where, and why. */
export interface RefusedHit {
  id: string;
  field: string;
  was: string;
  fix: string;
}

/** What the edge sees of who sends: the user agent, and the IP address. */
export interface Sender {
  agent?: string;
  address?: string;
}

/** A page's clock that is further off than this (ms) is corrected by the collector's. */
const clockTolerance = 60_000;

export type Collect = ReturnType<typeof makeCollect>;

/** Takes what pages send: on the disk before the answer, in the database soon after, each hit once by its ID. */
export function makeCollect(releases: Releases, spool: Spool, hitsPerVisitor: number) {
  const countHit = makeVisitorLimit(hitsPerVisitor);

  /**
   * Checks and keeps a batch. Hits from hosts that are not the business's own, and those of a visitor who sent far too
   * many today, are kept apart and named.
   * Those of a bot, which its user agent names itself, are marked. What says who somebody is is taken out again.
   *
   * @param from the program that sent it and where it is: its user agent, and its IP address, which is not kept
   * @param receivedAt ms
   * @returns the hits that were not taken; the others are in the spool when this resolves
   * @throws AVX_BODY_NOT_JSON, AVX_FIELD_WRONG where the batch itself cannot be read, AVX_SPOOL_AWAY
   */
  return async function collect(
    business: KnownBusiness,
    body: string,
    { agent = '', address = '' }: Sender = {},
    receivedAt = nowMs(),
  ): Promise<RefusedHit[]> {
    const batch = readBodyAs(batchSchema, body, 'Send {"clock": milliseconds, "hits": [1 to 50 hits]}.');
    const clock = clockOf(batch)!;
    const skew = receivedAt - clock;
    const refused: RefusedHit[] = [];
    const hits: Hit[] = [];
    const foreign: number[] = [];
    const rules = await rulesOf(business.id, batch.hits);
    let asSent = true;
    for (const [index, raw] of batch.hits.entries()) {
      const parsed = fitsHit(raw) ? { data: raw as Hit } : hitSchema.safeParse(raw);
      if (!parsed.data) {
        refused.push(nameRefusal(raw, index, parsed.error.issues[0]!));
        continue;
      }
      const hit = parsed.data;
      const known = rules.get(hit.release);
      if (!known) {
        const was = `release ${hit.release} does not exist`;
        refused.push({ id: hit.id, field: 'release', was, fix: 'Load the snippet again.' });
        continue;
      }
      const host = hostOf(hit.address);
      if (!business.websites.some((website) => isUnder(host, website.registrable))) {
        const fix = 'Add the host to the business’s websites to count it.';
        refused.push({ id: hit.id, field: 'address', was: `${host} is no website of ${business.name}`, fix });
        foreign.push(hits.length);
      } else {
        const counted = countHit(business.id, hit.visitor, receivedAt);
        if (counted !== 'taken') {
          const was = `more than ${hitsPerVisitor} hits of one visitor today`;
          refused.push({ id: hit.id, field: 'visitor', was, fix: 'No browser of a person sends as many.' });
          if (counted === 'refused') continue;
          foreign.push(hits.length);
        }
      }
      const mayHold = mayHoldPii(hit, known);
      asSent &&= !mayHold;
      hits.push(mayHold ? cleanHit(hit, known) : hit);
    }
    if (hits.length > 0) {
      const known: Omit<SpooledBatch, 'sent'> = {
        business: business.id,
        receivedAt,
        foreign,
        bot: isBot(agent),
        browser: browserEngineOf(agent),
        ownNetwork: isOfNetworks(address, (await releases.live(business.id)).content.noCustomer.networks),
        correction: Math.abs(skew) > clockTolerance ? skew : 0,
      };
      const whole = asSent && hits.length === batch.hits.length;
      await spool.append(spoolText(known, whole ? body : JSON.stringify({ clock, hits })));
    }
    return refused;
  };

  /** The rules of the releases that a batch names; those that the business never made are missing. */
  async function rulesOf(business: string, hits: unknown[]): Promise<Map<number, CaptureRules>> {
    const numbers = new Set(hits.map((hit) => Number((hit as { release?: unknown } | null)?.release)));
    const rules = new Map<number, CaptureRules>();
    for (const number of numbers)
      if (Number.isInteger(number))
        await releases.numbered(business, number).then(
          (release) => rules.set(number, captureRules(release)),
          (error: unknown) => {
            if (asAvrixError(error)?.code !== 'AVX_RELEASE_UNKNOWN') throw error;
          },
        );
    return rules;
  }
}

/** A spooled batch as JSON; `sent` is JSON already, mostly the very text that came, for writing it anew takes time. */
function spoolText(known: Omit<SpooledBatch, 'sent'>, sent: string): string {
  return `${JSON.stringify(known).slice(0, -1)},"sent":${sent}}`;
}

function nameRefusal(raw: unknown, index: number, issue: { path: PropertyKey[]; message: string }): RefusedHit {
  const id = (raw as { id?: unknown } | null)?.id;
  const field = issue.path.join('.') || 'hit';
  return {
    id: typeof id === 'string' ? id.slice(0, 60) : `hit ${index + 1}`,
    field,
    was: issue.message,
    fix: `It must be ${hitFieldWords[field.split('.')[0]!] ?? `a JSON object, ${hitFieldWords.kind}`}.`,
  };
}
