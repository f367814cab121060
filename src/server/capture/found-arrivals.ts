import { QueryTypes } from 'sequelize';
import { arrivalsSentence, foldFindings } from '../../core/capture/faults';
import type { FoundArrivalsQuery } from '../../core/capture/found-schema';
import type { FoundArrival, FoundArrivalsView } from '../../core/capture/station-view';
import type { Context } from '../context';
import { likeText } from '../db';
import { pageSize } from '../leads/queries';
import type { Membership } from '../people/people';
import { lookedAtSinceDay } from '../plan/plan';
import { periodOf } from '../strands/range';

type Row = Omit<FoundArrival, 'at'> & { at: Date };

/** The arrivals behind the number of a fault, each with the enquiry of its visitor where there is one. */
export function makeFoundArrivals({ db }: Context) {
  return async function list(
    { business, role }: Membership,
    query: FoundArrivalsQuery,
    limit = pageSize,
  ): Promise<FoundArrivalsView> {
    const like = likeText(query.find);
    const day = lookedAtSinceDay();
    const since = new Date(periodOf(day, day, business.timeZone).from);
    const where = `f.business_id = ? AND f.kind = ? AND f.name = ? AND f.at >= ?
      ${query.find ? 'AND (f.page LIKE ? OR f.campaign LIKE ?)' : ''}`;
    const values = [...[business.id, query.kind, query.name, since], ...(query.find ? [like, like] : [])];
    const order = `${{ at: 'f.at', page: 'f.page', campaign: 'f.campaign' }[query.sort]} ${query.descending === 'yes' ? 'DESC' : 'ASC'}`;
    const [rows, counted] = await Promise.all([
      db.query<Row>(
        `SELECT f.hit_id AS id, f.at, f.page, f.campaign, f.detail, e.id AS enquiryId, COALESCE(l.company, '') AS company
         FROM findings f
         LEFT JOIN enquiries e ON e.business_id = f.business_id AND e.id =
           (SELECT MAX(n.id) FROM enquiries n WHERE n.business_id = f.business_id AND n.visitor_id = f.visitor_id)
         LEFT JOIN leads l ON l.business_id = e.business_id AND l.id = e.lead_id
         WHERE ${where} ORDER BY ${order}, f.hit_id LIMIT ? OFFSET ?`,
        { replacements: [...values, limit, (query.page - 1) * pageSize], type: QueryTypes.SELECT },
      ),
      db.query<{ n: number; lastAt: Date | null; page: string; campaign: string; detail: string }>(
        `SELECT COUNT(*) AS n, MAX(f.at) AS lastAt, f.page, f.campaign, f.detail FROM findings f
         WHERE ${where} GROUP BY f.page, f.campaign, f.detail`,
        { replacements: values, type: QueryTypes.SELECT },
      ),
    ]);
    const [found] = foldFindings(
      counted.map(({ n, lastAt, ...rest }) => ({
        ...{ ...rest, kind: query.kind, name: query.name, times: Number(n), lastAt: lastAt?.getTime() ?? 0 },
      })),
    );
    return {
      sentence: arrivalsSentence(found, query),
      rows: rows.map((row) => ({ ...row, at: row.at.toISOString(), company: role.seesPeople ? row.company : '' })),
      total: found?.times ?? 0,
      pageSize,
      timeZone: business.timeZone,
    };
  };
}
