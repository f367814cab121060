import type { Sequelize } from 'sequelize';
import type { TouchValues } from '../../core/results/dimensions';
import type { CreditedTouch } from '../../core/results/figures';
import { groupBy } from '../../core/group-by';
import { inParts } from '../lists';
import { readBrowsers, readTouchesNamed, readTouchesOf, type CreditedTouchRow, type FollowedRow } from './queries';

/** The browsers of whoever something is of, and what brought them. */
export interface Paths {
  visitorsOf: (row: FollowedRow) => string[];
  touchesOf: (row: FollowedRow) => CreditedTouch[];
}

/** The touches of all browsers of a person, and the one that an enquiry itself names. */
export async function readPaths(db: Sequelize, businessId: string, rows: readonly FollowedRow[]): Promise<Paths> {
  const browsers = new Map<string, string[]>();
  const people = distinct(rows.map(({ personId }) => personId));
  for await (const part of inParts(people, (ids) => readBrowsers(db, businessId, ids)))
    for (const [person, own] of groupBy(part, ({ personId }) => personId))
      browsers.set(
        person,
        own.map(({ visitorId }) => visitorId),
      );
  const visitorsOf = ({ personId, visitorId }: FollowedRow) =>
    distinct([...(personId === null ? [] : (browsers.get(personId) ?? [])), visitorId]);
  const byVisitor = new Map<string, CreditedTouch[]>();
  const byId = new Map<string, CreditedTouch>();
  const keep = (row: CreditedTouchRow): CreditedTouch => {
    const touch = { id: row.id, at: row.at.getTime(), values: valuesOf(row) };
    byId.set(row.id, touch);
    return touch;
  };
  for await (const part of inParts(distinct(rows.flatMap(visitorsOf)), (ids) => readTouchesOf(db, businessId, ids)))
    for (const [visitor, own] of groupBy(part, ({ visitorId }) => visitorId)) byVisitor.set(visitor, own.map(keep));
  const named = distinct(rows.map(({ touchId }) => touchId)).filter((id) => !byId.has(id));
  for await (const part of inParts(named, (ids) => readTouchesNamed(db, businessId, ids))) part.forEach(keep);
  return {
    visitorsOf,
    touchesOf(row) {
      const touches = visitorsOf(row).flatMap((visitor) => byVisitor.get(visitor) ?? []);
      const own = row.touchId === null ? undefined : byId.get(row.touchId);
      return own && !touches.includes(own) ? [...touches, own] : touches;
    },
  };
}

const valuesOf = ({ id: _, visitorId: __, at: ___, ...values }: CreditedTouchRow): TouchValues => values;
export const distinct = (ids: readonly (string | null)[]): string[] => [...new Set(ids.filter((id) => id !== null))];
