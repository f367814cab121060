import { AvrixError } from '../../core/errors';
import type { Release } from '../../core/releases';
import { releaseContentSchema, type ReleaseContent } from '../../core/releases/schema';
import { now } from '../clock';
import type { Context } from '../context';
import { makeLastKnown } from '../last-known';
import { sha256 } from '../secrets';

export type Releases = ReturnType<typeof makeReleases>;

/** The only way to a business's rules: stored releases, which never change and so are kept in memory. */
export function makeReleases({ tables }: Context) {
  async function newestNumber(business: string): Promise<number> {
    return Number((await tables.releases.max('number', { where: { businessId: business } })) ?? 0);
  }

  const byNumber = new Map<string, Release>();
  const newest = makeLastKnown(newestNumber);

  async function numbered(business: string, number: number): Promise<Release> {
    const key = `${business} ${number}`;
    const known = byNumber.get(key);
    if (known) return known;
    const row = (await tables.releases.findOne({ where: { businessId: business, number } }))?.get({ plain: true });
    if (!row) throw new AvrixError('AVX_RELEASE_UNKNOWN', { number });
    const content = releaseContentSchema.parse(row.content);
    const release = { business, number, name: row.name, content, madeAt: row.madeAt.getTime() };
    byNumber.set(key, release);
    return release;
  }

  return {
    numbered,

    /** The release that is live now. */
    live: async (business: string): Promise<Release> => numbered(business, await newest.get(business)),

    /** Stores the next release of a business and returns its number. */
    async make(business: string, name: string, note: string, content: ReleaseContent): Promise<number> {
      const checked = releaseContentSchema.parse(content);
      const last = await newestNumber(business);
      await tables.releases.create({
        businessId: business,
        number: last + 1,
        name,
        note,
        content: checked,
        hash: sha256(JSON.stringify(checked)),
        madeAt: now(),
      });
      newest.forget(business);
      return last + 1;
    },
  };
}
