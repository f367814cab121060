import { noStages } from '../../../core/outcomes';
import { meansNoEnquiry, type SegmentMeans } from '../../../core/leads/segments/condition';
import type { Release } from '../../../core/releases';
import { nowMs } from '../../clock';
import type { Context } from '../../context';
import { plain, type BusinessRow, type RoleRow } from '../../db';
import { AvrixError } from '../../../core/errors';
import { compileSegment, type Compiled, type Compiling } from './condition-sql';
import type { SegmentRow } from './table';

/** Whose enquiries a list is narrowed to: a condition over `enquiries e`, and whether those of nobody are meant too. */
export interface SegmentNarrowing {
  name: string;
  where: Compiled;
  meansNoEnquiry: boolean;
}

/** Every segment of a business: one that is shared may be made of one that only its owner sees. */
export const readAllSegments = async (
  { tables }: Pick<Context, 'tables'>,
  businessId: string,
): Promise<SegmentRow[]> => {
  const order: [string, string][] = [
    ['name', 'ASC'],
    ['id', 'ASC'],
  ];
  return plain(await tables.segments.findAll({ where: { businessId }, order }));
};

/** Whether somebody sees a segment: their own, and those that are shared. */
export const isSeenBy =
  (personId: string) =>
  ({ isShared, ownerId }: SegmentRow): boolean =>
    isShared || ownerId === personId;

/** Segments that lists can be narrowed to, for somebody. @param current stays there when it is retired */
export async function readChoices(
  context: Pick<Context, 'tables'>,
  businessId: string,
  personId: string,
  current: string,
): Promise<{ id: string; name: string }[]> {
  return (await readAllSegments(context, businessId))
    .filter(isSeenBy(personId))
    .filter(({ id, retiredAt }) => retiredAt === null || id === current)
    .map(({ id, name }) => ({ id, name }));
}

/** What segments are compiled with, as they and the release are now. @param all every segment, those that are made of others */
export const compilingOf = (
  business: Pick<BusinessRow, 'id' | 'timeZone'>,
  { content }: Release,
  all: readonly Pick<SegmentRow, 'id' | 'means'>[],
): Compiling => {
  const meansOf = new Map(all.map(({ id, means }) => [id, means]));
  return {
    businessId: business.id,
    timeZone: business.timeZone,
    now: nowMs(),
    stages: content.crm?.stages ?? noStages,
    meansOf: (id) => meansOf.get(id) ?? null,
  };
};

/** What a list is narrowed to by some conditions. @throws AVX_SEGMENT_CIRCLE */
export const narrowingOf = (name: string, means: SegmentMeans, compiling: Compiling, id = ''): SegmentNarrowing => ({
  name,
  where: compileSegment(compiling, means, id === '' ? [] : [id]),
  meansNoEnquiry: meansNoEnquiry(means),
});

/** What a list is narrowed to by a segment; null for none. @throws AVX_NOT_FOUND, AVX_SEGMENT_CIRCLE */
export async function readNarrowing(
  context: Pick<Context, 'tables'>,
  business: BusinessRow,
  role: RoleRow,
  release: Release,
  id: string,
): Promise<SegmentNarrowing | null> {
  if (id === '') return null;
  const all = await readAllSegments(context, business.id);
  const found = all.filter(isSeenBy(role.personId)).find((row) => row.id === id);
  if (!found) throw new AvrixError('AVX_NOT_FOUND', { what: 'segment' });
  return narrowingOf(found.name, found.means, compilingOf(business, release, all), found.id);
}
