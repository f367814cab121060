import { AvrixError } from '../../../core/errors';
import { segmentsIn, type SegmentMeans } from '../../../core/leads/segments/condition';
import type { SegmentGiven } from '../../../core/leads/segments/schema';
import { segmentPieces } from '../../../core/leads/segments/sentence';
import type { SegmentEffectView, SegmentsView, SegmentView } from '../../../core/leads/segments/view';
import { mayChange } from '../../../core/people/rights';
import { sayPieces } from '../../../core/rules/says';
import { counted, type Sentence } from '../../../core/strands';
import type { Changes } from '../../changes/changes';
import { readPagesSeen } from '../../capture/queries';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { dayIn } from '../../days';
import { inTransaction, selectRows, text } from '../../db';
import { newId } from '../../ids';
import type { Membership } from '../../people/people';
import { requireEditor } from '../../releases/draft';
import type { Releases } from '../../releases/releases';
import { toListRow } from '../list';
import { countPeople, findEnquiries, readEnquiries, readRecordNames } from '../queries';
import { readRoutineUse } from '../routines/users';
import { refuseTakenName } from '../../taken-name';
import { segmentsBehind } from './condition-sql';
import { compilingOf, isSeenBy, narrowingOf, readAllSegments } from './segments';
import type { SegmentRow } from './table';

const mostShown = 5;
/** Values of one kind that are offered. */
const mostOffered = 300;

/** Segments: who is in each, kept, shared and taken out of use. */
export function makeSegmentsStation(context: Context, releases: Releases, changes: Changes) {
  const { db, tables } = context;

  async function view({ business, role }: Membership): Promise<SegmentsView> {
    const [all, release, offers, routines] = await Promise.all([
      readAllSegments(context, business.id),
      releases.live(business.id),
      readOffers(business.id, business.timeZone),
      readRoutineUse(context, business.id),
    ]);
    const names = { segments: all.map(({ id, name }) => ({ id, name })) };
    const segments = all.filter(isSeenBy(role.personId)).map((row): SegmentView => ({
      id: row.id,
      name: row.name,
      means: row.means,
      says: sayPieces(segmentPieces, row.means, names),
      isShared: row.isShared,
      owner: row.ownerId === role.personId ? '' : row.ownerName,
      isRetired: row.retiredAt !== null,
      changedAt: row.changedAt.toISOString(),
      mayChange: mayChange(role),
      usedBy: [
        ...all.filter(({ means }) => segmentsIn(means).includes(row.id)).map(({ name }) => `“${name}”`),
        ...routines.filter(({ segments: of }) => of.includes(row.id)).map(({ name }) => `the routine “${name}”`),
      ],
    }));
    const { content } = release;
    return {
      sentence: sentenceOf(segments),
      segments,
      offers: {
        ...offers,
        forms: content.capture.forms.map(({ name }) => name),
        stages: [...(content.crm?.stages.inOrder ?? []), ...(content.crm?.stages.ended ?? [])],
        outcomes: content.outcomes.map(({ code }) => code),
      },
      mayMake: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  /** Values that arrived lately, the most frequent first. */
  async function readOffers(businessId: string, timeZone: string) {
    const since = dayIn(timeZone, nowMs() - 400 * 86_400_000);
    const valuesOf = async (column: 'source' | 'medium' | 'campaign') =>
      (
        await selectRows(
          db,
          { value: text().of(column) },
          `FROM touch_days WHERE business_id = ? AND zone = '' AND day >= ? AND ${column} <> ''
           GROUP BY ${column} ORDER BY SUM(touches) DESC LIMIT ${mostOffered}`,
          [businessId, since],
        )
      ).map(({ value }) => value);
    const [sources, mediums, campaigns, pages, crmFields] = await Promise.all([
      valuesOf('source'),
      valuesOf('medium'),
      valuesOf('campaign'),
      readPagesSeen(db, businessId, since),
      readRecordNames(db, businessId, 'fields'),
    ]);
    return { sources, mediums, campaigns, crmFields, paths: pages.map(({ page }) => page).slice(0, mostOffered) };
  }

  /** @throws AVX_NOT_FOUND */
  async function rowOf({ business, role }: Membership, id: string): Promise<{ row: SegmentRow; all: SegmentRow[] }> {
    const all = await readAllSegments(context, business.id);
    const row = all.filter(isSeenBy(role.personId)).find((one) => one.id === id);
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'segment' });
    return { row, all };
  }

  const note = (
    { business, role }: Membership,
    name: string,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) => {
    const subject = `Segment “${name}”`;
    return changes.note(business.id, role.personId, [{ kind: 'lead', subject, was, became }], transaction);
  };

  return {
    view,

    /** Whom conditions mean now. @throws AVX_SEGMENT_CIRCLE */
    async effect({ business, role }: Membership, id: string, means: SegmentMeans): Promise<SegmentEffectView> {
      const [release, all] = await Promise.all([releases.live(business.id), readAllSegments(context, business.id)]);
      const segment = narrowingOf('', means, compilingOf(business, release, all), id);
      const order = { sort: 'sentAt', descending: 'yes' } as const;
      const [counts, ids] = await Promise.all([
        countPeople(db, business.id, segment),
        findEnquiries(db, business.id, order, null, role.seesPeople, { limit: mostShown }, { segment }),
      ]);
      const rows = await readEnquiries(db, business.id, ids);
      return {
        ...counts,
        newest: rows.map((row) => {
          const { company, cameFrom, sentAt } = toListRow(row, release, role.seesPeople);
          return { id: row.id, company, cameFrom, at: sentAt };
        }),
      };
    },

    /**
     * Keeps a segment. Where somebody else changed it meanwhile, nothing is written.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where the name is taken, AVX_SEGMENT_CIRCLE,
     * AVX_SEGMENT_CHANGED
     */
    async save(membership: Membership, byName: string, given: SegmentGiven): Promise<{ id: string }> {
      requireEditor(membership);
      const { business, role } = membership;
      const all = await readAllSegments(context, business.id);
      const seen = all.filter(isSeenBy(role.personId));
      const before = seen.find(({ id }) => id === given.id);
      if (given.id !== '' && !before) throw new AvrixError('AVX_NOT_FOUND', { what: 'segment' });
      if (before && before.changedAt.toISOString() !== given.seen) throw new AvrixError('AVX_SEGMENT_CHANGED');
      refuseTakenName(seen, given, 'a segment');
      const meansOf = new Map(all.map(({ id, means }) => [id, means]));
      segmentsBehind(given.id, given.means, (id) => meansOf.get(id) ?? null);
      const id = given.id || newId();
      const row: SegmentRow = {
        businessId: business.id,
        id,
        name: given.name,
        means: given.means,
        isShared: given.isShared,
        ownerId: before?.ownerId ?? role.personId,
        ownerName: before?.ownerName ?? byName,
        madeAt: before?.madeAt ?? now(),
        changedAt: now(),
        retiredAt: before?.retiredAt ?? null,
      };
      const names = { segments: all.map((one) => ({ id: one.id, name: one.name })) };
      const says = (means: SegmentMeans) => sayPieces(segmentPieces, means, names);
      await inTransaction(db, async (transaction) => {
        await tables.segments.upsert(row, { transaction });
        await note(membership, row.name, before ? says(before.means) : '', says(row.means), transaction);
      });
      return { id };
    },

    /**
     * Takes a segment out of use, or into use again.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_SEGMENT_USED where others in use are made of it
     */
    async retire(membership: Membership, id: string, retired: boolean): Promise<SegmentsView> {
      requireEditor(membership);
      const { row, all } = await rowOf(membership, id);
      const users = [
        ...all.filter((one) => one.retiredAt === null && segmentsIn(one.means).includes(id)),
        ...(await readRoutineUse(context, row.businessId)).filter(({ segments: of }) => of.includes(id)),
      ];
      if (retired && users.length > 0)
        throw new AvrixError('AVX_SEGMENT_USED', { by: users.map(({ name }) => `“${name}”`).join(', ') });
      await inTransaction(db, async (transaction) => {
        const where = { businessId: membership.business.id, id };
        await tables.segments.update({ retiredAt: retired ? now() : null, changedAt: now() }, { where, transaction });
        const [was, became] = retired ? ['in use', 'retired'] : ['retired', 'in use'];
        await note(membership, row.name, was!, became!, transaction);
      });
      return view(membership);
    },
  };
}

function sentenceOf(segments: SegmentView[]): Sentence {
  const used = segments.filter(({ isRetired }) => !isRetired);
  if (used.length === 0)
    return {
      title: 'No segment yet.',
      under: 'Say which leads you mean, such as those of one partner this month, and find them again with one press.',
    };
  const shared = used.filter(({ isShared }) => isShared).length;
  return {
    title: `${counted(used.length, 'segment', 'segments')} to narrow lists by.`,
    under: `${shared === used.length ? 'Everybody sees them' : shared === 0 ? 'Only you see them' : `Everybody sees ${shared} of them`}. Each says who is in it now, not who was when it was made.`,
  };
}
