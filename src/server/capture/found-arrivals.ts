import { arrivalsSentence, foldFindings } from '../../core/capture/faults';
import type { FoundArrivalsQuery } from '../../core/capture/found-schema';
import type { FoundArrivalsView } from '../../core/capture/station-view';
import type { Context } from '../context';
import { pick, selectRows, text, time, uuid, whole, likeText } from '../db';
import { pageSize } from '../leads/queries';
import type { Membership } from '../people/people';
import { lookedAtSinceDay } from '../plan/plan';
import { periodOf } from '../strands/range';
import { findings } from './table';

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
      selectRows(
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
         WHERE ${where} ORDER BY ${order}, f.hit_id LIMIT ? OFFSET ?`,
        [...values, limit, (query.page - 1) * pageSize],
      ),
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
      rows: rows.map((row) => ({ ...row, at: row.at.toISOString(), company: role.seesPeople ? row.company : '' })),
      total: found?.times ?? 0,
      pageSize,
      timeZone: business.timeZone,
    };
  };
}
