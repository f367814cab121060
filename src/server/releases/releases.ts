import type { Transaction } from 'sequelize';
import { AvrixError } from '../../core/errors';
import { upgradeContent, type Release } from '../../core/releases';
import { releaseContentSchema, type ReleaseContent } from '../../core/releases/schema';
import { now } from '../clock';
import type { Context } from '../context';
import { plain, type ReleaseRow } from '../db';
import { makeLastKnown } from '../last-known';
import { sha256 } from '../secrets';

export interface NewRelease {
  name: string;
  note: string;
  content: ReleaseContent;
}
export type Releases = ReturnType<typeof makeReleases>;

/** The only way to a business's rules: stored releases, which never change and so are kept in memory. */
export function makeReleases({ tables }: Context) {
  async function newestNumber(business: string, transaction: Transaction | null = null): Promise<number> {
    return Number((await tables.releases.max('number', { where: { businessId: business }, transaction })) ?? 0);
  }

  const byNumber = new Map<string, Release>();
  const newest = makeLastKnown((business) => newestNumber(business));

  async function numbered(business: string, number: number): Promise<Release> {
    const key = `${business} ${number}`;
    const known = byNumber.get(key);
    if (known) return known;
    const row = (await tables.releases.findOne({ where: { businessId: business, number } }))?.get({ plain: true });
    if (!row) throw new AvrixError('AVX_RELEASE_UNKNOWN', { number });
    const content = releaseContentSchema.parse(upgradeContent(row.content));
    const release = { business, number, name: row.name, note: row.note, content, madeAt: row.madeAt.getTime() };
    byNumber.set(key, release);
    return release;
  }

  return {
    numbered,

    /** The release that is live now. */
    live: async (business: string): Promise<Release> => numbered(business, await newest.get(business)),

    /** Forgets which release is the newest, once another one is committed. */
    forget: (business: string) => newest.forget(business),

    /** A business's releases, newest first, at most 200. */
    list: async (business: string): Promise<ReleaseRow[]> =>
      plain(
        await tables.releases.findAll({ where: { businessId: business }, order: [['number', 'DESC']], limit: 200 }),
      ),

    /**
     * Stores the next release of a business and returns its number.
     * @param transaction the one it belongs to; the release is live once that is committed
     */
    async make(
      business: string,
      { name, note, content }: NewRelease,
      transaction: Transaction | null = null,
    ): Promise<number> {
      const checked = releaseContentSchema.parse(content);
      const last = await newestNumber(business, transaction);
      await tables.releases.create(
        {
          businessId: business,
          number: last + 1,
          name,
          note,
          content: checked,
          hash: sha256(JSON.stringify(checked)),
          madeAt: now(),
        },
        { transaction },
      );
      newest.forget(business);
      return last + 1;
    },
  };
}
