/* eslint-disable no-await-in-loop -- answers go in batches, side by side within one */
import { selectRows, text, time, whole } from '../db';
import { carriedParameter } from '../../core/capture/elsewhere';
import type { ElsewhereView, ReturnedFile } from '../../core/capture/station-view';
import { asAvrixError } from '../../core/errors';
import { counted } from '../../core/strands';
import type { Businesses } from '../businesses';
import type { Context } from '../context';
import { readFileBody, readTable, type TableRow } from '../files/read-table';
import type { Membership } from '../people/people';
import { observationStart } from '../plan/plan';
import { requireEditor } from '../releases/draft';
import type { Carried } from './carried';
import type { CaptureStation } from './station';

const atOnce = 200;

/** Places outside that values follow visitors to, and what comes back from them. */
export function makeElsewhereStation(
  { db, config }: Context,
  businesses: Businesses,
  carried: Carried,
  { base }: CaptureStation,
) {
  async function readCounts(businessId: string, names: string[]): Promise<ElsewhereView['counts']> {
    if (names.length === 0) return [];
    const rows = await selectRows(
      db,
      {
        name: text(),
        restored: whole().of('SUM(restored)'),
        returned: whole().of('SUM(returned)'),
        lastAt: time().of('MAX(at)'),
      },
      `FROM (
         SELECT name, 1 AS restored, 0 AS returned, at FROM findings
         WHERE business_id = ? AND kind = 'restored' AND at >= ? AND name IN (?)
         UNION ALL
         SELECT form, 0, 1, sent_at FROM enquiries WHERE business_id = ? AND sent_at >= ? AND form IN (?)) AS both_ways
       GROUP BY name`,
      [businessId, observationStart(), names, businessId, observationStart(), names],
    );
    const known = new Map(rows.map((row) => [row.name, row]));
    return names.map((name) => {
      const row = known.get(name);
      return {
        name,
        restored: row?.restored ?? 0,
        returned: row?.returned ?? 0,
        lastAt: row?.lastAt.toISOString() ?? null,
      };
    });
  }

  return {
    async view(membership: Membership): Promise<ElsewhereView> {
      const known = await base(membership, ({ capture: { elsewhere } }) => ({
        title:
          elsewhere.length === 0
            ? 'Values end at the edge of your website.'
            : `Values follow visitors to ${counted(elsewhere.length, 'place', 'places')} outside.`,
        under:
          elsewhere.length === 0
            ? 'Name another website, a framed form or a calendar, and its links carry what is known.'
            : `Signed in the address as ${carriedParameter}, good for 30 minutes there; an answer is taken for 30 days.`,
      }));
      return {
        ...known,
        counts: await readCounts(
          membership.business.id,
          known.rules.elsewhere.map(({ name }) => name),
        ),
        door: `${config.edgeOrigin}/carry/${membership.business.key}/returned`,
      };
    },

    /**
     * Takes a file of answers, each row with the signed values as they came (`avx_to`) and when it happened
     * (`happened_at`, RFC 3339; now without it). Each row has its own answer.
     * @throws AVX_ROLE_TOO_SMALL, AVX_FILE_WRONG
     */
    async readFile(membership: Membership, request: Request): Promise<ReturnedFile> {
      requireEditor(membership);
      const { business } = membership;
      const { rows, problems } = await readTable(await readFileBody(request), [carriedParameter]);
      const known = (await businesses.byKey(business.key))!;
      const refused: ReturnedFile['refused'] = problems.map(({ row, was, fix }) => ({
        row: `row ${row}`,
        was,
        fix,
      }));
      let taken = 0;
      const take = async ({ row, cells: { avx_to, happened_at } }: TableRow) => {
        try {
          await carried.takeReturned(known, JSON.stringify({ avx_to, happened_at: happened_at || undefined }));
          taken += 1;
        } catch (error) {
          const said = asAvrixError(error);
          if (!said || said.status >= 500) throw error;
          refused.push({ row: `row ${row}`, was: said.message, fix: '' });
        }
      };
      // Side by side, so that many share one sync of the disk.
      for (let at = 0; at < rows.length; at += atOnce) await Promise.all(rows.slice(at, at + atOnce).map(take));
      return { taken, refused };
    },
  };
}
