import { capital } from '../../core/capital';
import type { BehindQuery, BehindRow, BehindView, FiguresQuery } from '../../core/results/figures-view';
import { cellWords } from '../../core/results/dimensions';
import { figureText } from '../../core/results/figure-text';
import { isRatio, nounOf, ratioOf, type Counted, type Measure } from '../../core/results/measures';
import type { Release } from '../../core/releases';
import type { SubjectKind } from '../../core/strands';
import type { Context } from '../context';
import { plain } from '../db';
import { called, nameless } from '../leads/called';
import { inParts, pageSize } from '../lists';
import type { Membership } from '../people/people';
import { runInPool } from '../pool';
import type { Releases } from '../releases/releases';
import { longest, makeAsked, visibleTo } from './asked';
import type { Behind } from './work-out';

/** The enquiries and outcomes behind one figure. */
export function makeBehindStation(context: Context, releases: Releases) {
  const { tables } = context;
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

  /** What each of them is called, and where it opens. */
  async function named(
    { business, role }: Membership,
    rows: Behind[],
  ): Promise<Map<string, Pick<BehindRow, 'name' | 'path'>>> {
    const idsOf = (kind: SubjectKind) => rows.flatMap((one) => (one.kind === kind ? [one.subjectId] : []));
    const where = (kind: SubjectKind) => ({ businessId: business.id, id: idsOf(kind) });
    const [enquiries, orders, subscriptions, conversions] = await Promise.all([
      tables.enquiries.findAll({ attributes: ['id', 'leadId', 'wayIn'], where: where('enquiry') }),
      tables.orders.findAll({ attributes: ['id', 'number', 'strands'], where: where('order') }),
      tables.subscriptions.findAll({ attributes: ['id', 'number', 'strands'], where: where('subscription') }),
      tables.conversions.findAll({ attributes: ['id', 'name', 'strands'], where: where('conversion') }),
    ]);
    const leadIds = plain(enquiries).flatMap(({ leadId }) => leadId ?? []);
    const found = await tables.leads.findAll({ where: { businessId: business.id, id: leadIds } });
    const leads = new Map(plain(found).map((lead) => [lead.id, lead]));
    const opens = (way: SubjectKind, [strand]: string[]) => (strand ? `/strands/${strand}?way=${way}` : null);
    return new Map([
      ...plain(enquiries).map(({ id, leadId, wayIn }) => {
        const lead = leadId === null ? undefined : leads.get(leadId);
        const name = lead ? called(lead, role.seesPeople) : nameless(wayIn);
        return [id, { name, path: `/leads/${id}` }] as const;
      }),
      ...plain(orders).map(({ id, number, strands }) => [id, { name: number, path: opens('order', strands) }] as const),
      ...plain(subscriptions).map(
        ({ id, number, strands }) => [id, { name: number, path: opens('subscription', strands) }] as const,
      ),
      ...plain(conversions).map(({ id, name, strands }) => [id, { name, path: opens('conversion', strands) }] as const),
    ]);
  }

  async function rowsOf(membership: Membership, release: Release, part: Behind[]): Promise<BehindRow[]> {
    const names = await named(membership, part);
    const wordsOf = new Map(release.content.outcomes.map(({ code, words }) => [code, `${words} (${code})`]));
    return part.map(({ subjectId, code, at, ...rest }) => ({
      id: `${subjectId} ${code} ${at}`,
      path: names.get(subjectId)?.path ?? null,
      name: names.get(subjectId)?.name ?? 'no name',
      what: code === '' ? 'enquired' : (wordsOf.get(code) ?? code),
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
