import { arrivalsSentence, foldFindings } from '../../core/capture/faults';
import type { FoundArrivalsQuery } from '../../core/capture/found-schema';
import type { FoundArrival, FoundArrivalsView } from '../../core/capture/station-view';
import type { Context } from '../context';
import { likeText, pick, selectRows, text, time, uuid, whole, type BusinessRow } from '../db';
import { inOrderOf, inParts, mostInFile, pageSize } from '../lists';
import type { Membership } from '../people/people';
import { observationStartDay } from '../plan/plan';
import { periodOf } from '../strands/range';
import { findings } from './table';

/** The arrivals behind the number of a fault, each with the enquiry of its visitor where there is one. */
export function makeFoundArrivals({ db }: Context) {
  /** What a query means: a condition over `findings f`, with its values. */
  function conditionOf({ id, timeZone }: BusinessRow, { kind, name, find }: FoundArrivalsQuery) {
    const day = observationStartDay();
    const values: unknown[] = [id, kind, name, new Date(periodOf(day, day, timeZone).from)];
    const base = 'f.business_id = ? AND f.kind = ? AND f.name = ? AND f.at >= ?';
    if (!find) return { where: base, values };
    const like = likeText(find);
    return { where: `${base} AND (f.page LIKE ? OR f.campaign LIKE ?)`, values: [...values, like, like] };
  }

  async function findIds(business: BusinessRow, query: FoundArrivalsQuery, limit: number, offset = 0) {
    const { where, values } = conditionOf(business, query);
    const column = { at: 'f.at', page: 'f.page', campaign: 'f.campaign' }[query.sort];
    const rows = await selectRows(
      db,
      { id: uuid().of('f.hit_id') },
      `FROM findings f
       WHERE ${where} ORDER BY ${column} ${query.descending === 'yes' ? 'DESC' : 'ASC'}, f.hit_id LIMIT ? OFFSET ?`,
      [...values, limit, offset],
    );
    return rows.map(({ id }) => id);
  }

  async function readArrivals(
    { business, role }: Membership,
    { kind, name }: FoundArrivalsQuery,
    ids: string[],
  ): Promise<FoundArrival[]> {
    if (ids.length === 0) return [];
    const rows = await selectRows(
      db,
      {
        id: uuid().of('f.hit_id'),
        ...pick(findings, ['at', 'page', 'campaign', 'detail'], 'f'),
        enquiryId: uuid().nullable().of('e.id'),
        company: text().of("COALESCE(l.company, '')"),
      },
      `FROM findings f
       LEFT JOIN enquiries e ON e.business_id = f.business_id AND e.id =
         (SELECT MAX(n.id) FROM enquiries n WHERE n.business_id = f.business_id AND n.visitor_id = f.visitor_id)
       LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
       WHERE f.business_id = ? AND f.kind = ? AND f.name = ? AND f.hit_id IN (?)`,
      [business.id, kind, name, ids],
    );
    return inOrderOf(ids, rows).map((row) => ({
      id: row.id,
      at: row.at.toISOString(),
      page: row.page,
      campaign: row.campaign,
      detail: row.detail,
      enquiryId: row.enquiryId,
      company: role.seesPeople ? row.company : '',
    }));
  }

  return {
    async page(membership: Membership, query: FoundArrivalsQuery): Promise<FoundArrivalsView> {
      const { business } = membership;
      const { where, values } = conditionOf(business, query);
      const [ids, counted] = await Promise.all([
        findIds(business, query, pageSize, (query.page - 1) * pageSize),
        selectRows(
          db,
          {
            ...pick(findings, ['page', 'campaign', 'detail'], 'f'),
            times: whole().of('COUNT(*)'),
            lastAt: time().of('MAX(f.at)'),
          },
          `FROM findings f WHERE ${where} GROUP BY f.page, f.campaign, f.detail`,
          values,
        ),
      ]);
      const [found] = foldFindings(
        counted.map((row) => ({ ...row, kind: query.kind, name: query.name, lastAt: row.lastAt.getTime() })),
      );
      return {
        sentence: arrivalsSentence(found, query),
        rows: await readArrivals(membership, query, ids),
        total: found?.times ?? 0,
        pageSize,
        timeZone: business.timeZone,
      };
    },

    /** All rows of the list, in its order, part by part. */
    async *all(membership: Membership, query: FoundArrivalsQuery): AsyncGenerator<FoundArrival[]> {
      const ids = await findIds(membership.business, query, mostInFile);
      yield* inParts(ids, (part) => readArrivals(membership, query, part));
    },
  };
}
