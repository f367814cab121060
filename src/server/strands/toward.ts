import {
  followToward,
  isBehind,
  madeHopWithin,
  nilId,
  type Followed,
  type Hop,
  type HopRow,
  type HopState,
  type Period,
  type StrandKind,
  type TowardOutcome,
} from '../../core/strands';
import type { Release } from '../../core/releases';
import { groupBy } from '../../core/group-by';
import type { WayIn } from '../../core/ways-in';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { plain, selectRows, uuid } from '../db';
import { inParts } from '../lists';
import { hopsOfTellings } from '../reportbacks/write';
import { ofSegment } from './in-segment';
import { cameWith, type Narrowing } from './narrowing';
import { countedKinds } from './standing';
import { fromHopRow } from './store';
import { hops } from './table';

/* A line that is narrowed to an outcome other than the Qualified of its way in: its strands are followed when it is read. */

/** A strand as it stands toward an outcome. */
interface TowardStrand {
  followed: Followed;
  rows: HopRow[];
  kind: StrandKind;
  /** Its platform took a correction of it since. */
  isCorrected: boolean;
}

/** The outcome that a line is narrowed to, and how every strand stands toward it that came to where it is counted. */
export interface Toward {
  code: string;
  way: WayIn;
  strands: ReadonlyMap<string, TowardStrand>;
}

/** IDs of those behind one number of a line that is narrowed to an outcome. @param within the days in which the hop was made; null: ever */
export const idsBehind = (
  { strands, way }: Toward,
  { hop, state, reason, corrected }: { hop: Hop; state: HopState; reason: string; corrected: string },
  within: Period | null,
): string[] =>
  [...strands].flatMap(([id, { followed, rows, isCorrected }]) =>
    isBehind(followed, way, hop, state, reason) &&
    (corrected === '' || isCorrected) &&
    (within === null || madeHopWithin(rows, hop, within))
      ? [id]
      : [],
  );

/** Follows strands on a way in to an outcome. */
export async function readToward(
  context: Context,
  businessId: string,
  { content }: Release,
  way: WayIn,
  code: string,
  ids: string[],
): Promise<Toward> {
  const { db, tables } = context;
  const rule = content.outcomes.find((one) => one.code === code);
  const toward = { code, clickDays: rule?.clickDays ?? null };

  async function readPart(part: string[]): Promise<[string, TowardStrand][]> {
    const [found, hopRows] = await Promise.all([
      tables.strands.findAll({ attributes: ['id', 'kind', 'firstAt', 'clickId'], where: { businessId, id: part } }),
      selectRows(
        db,
        hops.columns,
        `FROM hops WHERE business_id = ? AND strand_id IN (?) AND way_in IN ('none', ?) AND (outcome = '' OR hop = 'qualified')`,
        [businessId, part, way.kind],
      ),
    ]);
    const subjects = [...new Set(hopRows.map(({ subjectId }) => subjectId))].filter((id) => id !== nilId);
    const [outcomes, enquiries] = await Promise.all([
      tables.outcomes.findAll({ where: { businessId, code, subjectId: subjects } }),
      way.subject === 'enquiry'
        ? tables.enquiries.findAll({ attributes: ['id', 'stage'], where: { businessId, id: subjects } })
        : [],
    ]);
    const outcomeOf = new Map(plain(outcomes).map((outcome) => [outcome.subjectId, outcome]));
    const stageOf = new Map(plain(enquiries).map(({ id, stage }) => [id, stage]));
    const outcomeId = [...outcomeOf.values()].map(({ id }) => id);
    const reportBacks = groupBy(
      plain(await tables.reportBacks.findAll({ where: { businessId, outcomeId }, order: [['madeAt', 'ASC']] })),
      (row) => row.outcomeId,
    );
    const rowsOf = groupBy(hopRows.map(fromHopRow), ({ strand }) => strand);
    return plain(found).map(({ id, kind, firstAt, clickId }) => {
      const rows = rowsOf.get(id) ?? [];
      const own = rows.filter(({ subject }) => subject !== nilId);
      let isCorrected = false;
      const standing = [...groupBy(own, ({ subject }) => subject)].map(([subject, [row]]): [string, TowardOutcome] => {
        const outcome = outcomeOf.get(subject);
        const told = outcome ? (reportBacks.get(outcome.id) ?? []) : [];
        isCorrected ||= told.some(({ correction, state }) => correction > 0 && ['told', 'confirmed'].includes(state));
        const click = way.subject === 'enquiry' ? undefined : clickId;
        return [
          subject,
          {
            reachedAt: outcome?.happenedAt.getTime() ?? null,
            telling: outcome ? hopsOfTellings(row!, outcome, click, told, content.platforms) : [],
            stage: stageOf.get(subject) ?? '',
          },
        ];
      });
      const strand = { kind, firstAt: firstAt.getTime() };
      const stands = followToward(strand, rows, new Map(standing), toward, way, nowMs());
      return [id, { ...stands, kind, isCorrected }];
    });
  }

  const strands = new Map<string, TowardStrand>();
  for await (const part of inParts(ids, readPart)) for (const [id, strand] of part) strands.set(id, strand);
  return { code, way, strands };
}

/** Strands of what came to an outcome, was told of it or confirmed in some days, whenever they were first seen. */
export async function findToward(
  { db }: Context,
  businessId: string,
  { from, to }: Period,
  way: WayIn,
  code: string,
  { segment, tags }: Omit<Narrowing, 'toward'>,
): Promise<string[]> {
  const narrowed = [...(segment ? [ofSegment('s.id', businessId, segment, way.kind)] : []), cameWith('s', tags)];
  const days = [new Date(from), new Date(to)];
  const rows = await selectRows(
    db,
    { id: uuid().of('s.id') },
    `FROM outcomes o
     JOIN hops h ON h.business_id = o.business_id AND h.subject_id = o.subject_id AND h.way_in = ?
     JOIN strands s ON s.business_id = h.business_id AND s.id = h.strand_id AND s.marked = '' AND ${countedKinds(way.kind)}
     WHERE o.business_id = ? AND o.code = ? AND o.happened_at < ?
       AND (o.happened_at >= ? OR EXISTS (SELECT 1 FROM report_backs r WHERE r.business_id = o.business_id
         AND r.outcome_id = o.id AND (r.answered_at >= ? AND r.answered_at < ? OR r.confirmed_at >= ? AND r.confirmed_at < ?)))
       AND ${narrowed.map(({ sql }) => sql).join(' AND ')}
     GROUP BY s.id`,
    [way.kind, businessId, code, days[1], days[0], ...days, ...days, ...narrowed.flatMap(({ values }) => values)],
  );
  return rows.map(({ id }) => id);
}
