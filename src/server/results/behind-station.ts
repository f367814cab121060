import { capital } from '../../core/capital';
import type { BehindQuery, BehindRow, BehindView, FiguresQuery } from '../../core/results/figures-view';
import { cellWords } from '../../core/results/dimensions';
import { figureText } from '../../core/results/figure-text';
import { isRatio, nounOf, ratioOf, type Counted, type Measure } from '../../core/results/measures';
import type { Release } from '../../core/releases';
import type { Context } from '../context';
import { inParts, pageSize } from '../lists';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import { longest, makeAsked, visibleTo } from './asked';
import { readSubjectNames } from './subject-names';
import type { Behind } from './work-out';

/** The enquiries and outcomes behind one figure. */
export function makeBehindStation(context: Context, releases: Releases) {
  const { daysOf, askedOf } = makeAsked(context, releases);

  async function read(membership: Membership, query: FiguresQuery, { of, row }: BehindQuery) {
    const { business, role } = membership;
    const release = await releases.live(business.id);
    const [counted] = visibleTo(role, [of]) as [Counted];
    const measure: Measure = isRatio(counted) ? ratioOf[counted].of : counted;
    const { days } = await daysOf(membership, release, query);
    const asked = await askedOf(membership, release, [measure], [{ by: query.by, days }], query);
    return { release, measure, rows: await runInPool('workOutBehind', { ...asked, cells: row, measure }, longest) };
  }

  async function rowsOf(membership: Membership, release: Release, part: Behind[]): Promise<BehindRow[]> {
    const names = await readSubjectNames(context, membership, part);
    const wordsOf = new Map(release.content.outcomes.map(({ code, words }) => [code, `${words} (${code})`]));
    return part.map(({ subjectId, code, at, ...rest }) => ({
      id: `${subjectId} ${code} ${at}`,
      path: names.get(subjectId)?.path ?? null,
      name: names.get(subjectId)?.name ?? 'no name',
      what: code !== '' ? (wordsOf.get(code) ?? code) : rest.kind === 'subscription' ? 'subscribed' : 'enquired',
      at: new Date(at).toISOString(),
      credited: rest.credited,
      whole: rest.whole,
      touches: rest.touches,
    }));
  }

  return {
    /** One page of them, the newest first. */
    async view(membership: Membership, query: FiguresQuery, behind: BehindQuery): Promise<BehindView> {
      const { business } = membership;
      const { release, measure, rows } = await read(membership, query, behind);
      const { page } = query;
      const sum = rows.reduce((total, { credited }) => total + credited, 0);
      const of = behind.row === null ? 'all together' : behind.row.map(cellWords).join(', ');
      const text = figureText(measure, sum, business.currency);
      return {
        sentence: {
          title: capital(`${of}: ${text} ${nounOf(measure, sum)}.`),
          under:
            behind.row === null
              ? 'Each counts once, whatever touches led to it.'
              : 'Each with what of it is credited here; the rest went to other touches on the way.',
        },
        of: measure,
        rows: await rowsOf(membership, release, rows.slice((page - 1) * pageSize, page * pageSize)),
        total: rows.length,
        page,
        pageSize,
        currency: business.currency,
        timeZone: business.timeZone,
      };
    },

    /** All of them, part by part. */
    async *all(membership: Membership, query: FiguresQuery, behind: BehindQuery): AsyncGenerator<BehindRow[]> {
      const { release, rows } = await read(membership, query, behind);
      yield* inParts(rows, (part) => rowsOf(membership, release, part));
    },
  };
}
