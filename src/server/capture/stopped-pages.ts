/* eslint-disable no-await-in-loop -- at most five, each counted before the next */
import { z } from 'zod';
import { cleanAddress } from '../../core/capture';
import { isUnder } from '../../core/capture/address';
import { stoppedPages, type Stopped } from '../../core/capture/stopped';
import { readBodyAs } from '../../core/read-as';
import { captureRules } from '../../core/releases';
import type { KnownBusiness } from '../businesses';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import type { Releases } from '../releases/releases';

/** A page that is stopped tells so with each view; it is written once in this time (ms). */
const writtenAnewAfter = 60_000;
/** Pages of one business that are kept; a policy that stops more stops them all. */
const mostPages = 200;

/** Takes what browsers report of pages whose content security policy stops the snippet. */
export function makeTakeStopped({ db, config }: Pick<Context, 'db' | 'config'>, releases: Releases) {
  const written = new Map<string, number>();

  function isNew(businessId: string, { page, directive }: Stopped): boolean {
    const key = `${businessId} ${page} ${directive}`;
    if (nowMs() - (written.get(key) ?? 0) < writtenAnewAfter) return false;
    if (written.size >= mostPages * 10) written.clear();
    written.set(key, nowMs());
    return true;
  }

  /** @throws AVX_BODY_NOT_JSON */
  return async function takeStopped(business: KnownBusiness, body: string): Promise<void> {
    const report = readBodyAs(z.unknown(), body);
    const rules = captureRules(await releases.live(business.id));
    const own = business.websites.map(({ registrable }) => registrable);
    const hosts = [new URL(config.edgeOrigin).hostname, ...own.map((host) => `t.${host}`)];
    const stopped = stoppedPages(report, hosts, (address) => cleanAddress(address, rules).address).filter(
      (one) => own.some((host) => isUnder(one.page.split('/')[0]!, host)) && isNew(business.id, one),
    );
    for (const { page, directive, wanted } of stopped.slice(0, 5))
      await db.query(
        `INSERT INTO stopped_pages (business_id, page, directive, wanted, first_at, last_at)
         SELECT ?, ?, ?, ?, ?, ? FROM DUAL
         WHERE (SELECT COUNT(*) FROM stopped_pages WHERE business_id = ?) < ${mostPages}
           OR EXISTS (SELECT 1 FROM stopped_pages WHERE business_id = ? AND page = ? AND directive = ?)
         ON DUPLICATE KEY UPDATE wanted = VALUES(wanted), last_at = VALUES(last_at)`,
        {
          replacements: [
            ...[business.id, page, directive, wanted, now(), now()],
            ...[business.id, business.id, page, directive],
          ],
        },
      );
  };
}
