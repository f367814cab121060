import { Op, type Transaction } from 'sequelize';
import { AvrixError } from '../../core/errors';
import { upgradeContent, type Release } from '../../core/releases';
import { releaseContentSchema, type ReleaseContent } from '../../core/releases/schema';
import { now } from '../clock';
import type { Context } from '../context';
import { pick, selectRows, plain, type ReleaseRow } from '../db';
import { makeLastKnown } from '../last-known';
import { sha256 } from '../secrets';
import { businesses } from '../businesses/table';
import { releases } from './table';

export interface NewRelease {
  name: string;
  note: string;
  content: ReleaseContent;
  /** Who makes it; null where it comes with the business. */
  madeBy?: string | null;
  /** The release whose changes it undoes. */
  takesBack?: number | null;
}
export type Releases = ReturnType<typeof makeReleases>;

function releaseOf({ businessId, number, name, note, content, madeBy, madeAt }: ReleaseRow): Release {
  return {
    business: businessId,
    number,
    name,
    note,
    madeBy,
    madeAt: madeAt.getTime(),
    content: releaseContentSchema.parse(upgradeContent(content)),
  };
}

/** The only way to a business's rules: stored releases, which never change and so are kept in memory. */
export function makeReleases({ db, tables }: Context) {
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
    const release = releaseOf(row);
    byNumber.set(key, release);
    return release;
  }

  return {
    numbered,

    /** The release that is live now. */
    live: async (business: string): Promise<Release> => numbered(business, await newest.get(business)),

    /**
     * The newest release, with the business's rules locked until the transaction ends: whoever else changes or releases
     * them waits, and then builds on what this one makes.
     */
    async lockNewest(business: string, transaction: Transaction): Promise<Release> {
      await selectRows(
        db,
        pick(businesses, ['id']),
        'FROM businesses WHERE id = ? FOR UPDATE',
        [business],
        transaction,
      );
      return numbered(business, await newestNumber(business, transaction));
    },

    /** When each release of a business began, the oldest first, as it is committed now. */
    async begins(business: string, transaction: Transaction): Promise<{ number: number; madeAt: number }[]> {
      const rows = await selectRows(
        db,
        pick(releases, ['number', 'madeAt']),
        'FROM releases WHERE business_id = ? ORDER BY number',
        [business],
        transaction,
      );
      return rows.map(({ number, madeAt }) => ({ number, madeAt: madeAt.getTime() }));
    },

    /** Forgets which release is the newest, once another one is committed. */
    forget: (business: string) => newest.forget(business),

    /** A business's releases, newest first. @param before numbers below this one only */
    async list(business: string, before: number, limit: number): Promise<(Release & { takesBack: number | null })[]> {
      const where = { businessId: business, number: { [Op.lt]: before } };
      const rows = plain(await tables.releases.findAll({ where, order: [['number', 'DESC']], limit }));
      return rows.map((row) => ({ ...releaseOf(row), takesBack: row.takesBack }));
    },

    /**
     * Stores the next release of a business and returns its number.
     * @param transaction the one it belongs to; the release is live once that is committed
     */
    async make(
      business: string,
      { name, note, content, madeBy = null, takesBack = null }: NewRelease,
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
          madeBy,
          takesBack,
        },
        { transaction },
      );
      newest.forget(business);
      return last + 1;
    },
  };
}
