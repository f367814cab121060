/* eslint-disable no-await-in-loop -- routines of a business are few; leads are passed over part by part */
import { Op, type Transaction } from 'sequelize';
import { takesMeans, type Takes } from '../../../core/leads/routines/routine';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { inTransaction, insertRows, markWork, plain, type BusinessRow } from '../../db';
import { newId } from '../../ids';
import { makeLastKnown } from '../../last-known';
import type { Releases } from '../../releases/releases';
import { compileSegment } from '../segments/condition-sql';
import { compilingOf, readAllSegments } from '../segments/segments';
import { findMeant, type Meant } from './queries';
import type { RoutineRow, RunRow } from './table';

const minute = 60_000;
/** Leads that are taken within an hour without somebody being asked. */
export const mostAtOnce = 100;
/** How often (ms) it is looked for leads that time alone brings into a segment, and for any that were missed. */
const betweenLooks = { segment: 10 * minute, other: 60 * minute };
const atOnce = 2000;

export type TakeLeads = ReturnType<typeof makeTakeLeads>;

/** Takes leads into routines: those that were followed anew, and by looking now and then those that time alone brought there. */
export function makeTakeLeads(context: Context, releases: Releases) {
  const { db, tables } = context;
  const runningOf = makeLastKnown(async (businessId) =>
    plain(await tables.routines.findAll({ where: { businessId, state: 'running' } })),
  );
  const businessOf = async (id: string): Promise<BusinessRow> =>
    (await tables.businesses.findOne({ where: { id }, rejectOnEmpty: true })).get({ plain: true });

  /** Whom it means now. @param routineId null for one that is not there yet */
  async function meantBy(
    business: Pick<BusinessRow, 'id' | 'timeZone'>,
    takes: Takes,
    routineId: string | null,
    startedAt: Date | null,
  ): Promise<Meant> {
    const [release, segments] = await Promise.all([releases.live(business.id), readAllSegments(context, business.id)]);
    const where = compileSegment(compilingOf(business, release, segments), takesMeans(takes));
    // Who sent a form before it began is not looked at, so that nobody need be passed over.
    const from = takes.on === 'form' ? startedAt : null;
    return { businessId: business.id, routineId, once: takes.once, where, from };
  }

  const meantByRoutine = async ({ businessId, id, means, startedAt }: RoutineRow): Promise<Meant> =>
    meantBy(await businessOf(businessId), means.takes, id, startedAt);

  const toRun = (
    { businessId, id: routineId }: RoutineRow,
    { id, subject }: { id: string; subject: string },
    state: 'going' | 'passed',
  ): RunRow => ({
    businessId,
    id: newId(),
    routineId,
    subjectId: subject,
    enquiryId: id,
    state,
    lastStep: null,
    stepsDone: 0,
    lastAt: now(),
    dueAt: state === 'going' ? now() : null,
    beganAt: now(),
    endedAt: state === 'going' ? null : now(),
    why: '',
  });

  /** Takes the leads that were found, each once; more than usual in an hour are held back until somebody says so. */
  async function takeThese(routine: RoutineRow, found: { id: string; subject: string }[]): Promise<void> {
    if (found.length === 0) return;
    const { businessId, id: routineId } = routine;
    await inTransaction(db, async (transaction) => {
      const row = await tables.routines.findOne({
        where: { businessId, id: routineId, state: 'running' },
        transaction,
        lock: transaction.LOCK.UPDATE,
      });
      if (!row) return;
      const isAsked = (row.get({ plain: true }).unbrakedUntil?.getTime() ?? 0) > nowMs();
      const beganAt = { [Op.gte]: new Date(nowMs() - 60 * minute) };
      const where = { businessId, routineId, beganAt, state: { [Op.ne]: 'passed' as const } };
      const lately = isAsked ? 0 : await tables.routineRuns.count({ where, transaction });
      if (!isAsked && lately + found.length > mostAtOnce) {
        await row.update({ state: 'braked' }, { transaction });
        return;
      }
      const runs = found.map((one) => toRun(routine, one, 'going'));
      await insertRows(tables.routineRuns, runs, [], transaction);
      const id = runs.map((run) => run.id);
      const taken = plain(
        await tables.routineRuns.findAll({ attributes: ['id'], where: { businessId, id }, transaction }),
      );
      const ids = taken.map((run) => run.id);
      await markWork(db, 'routine_step', businessId, ids, now(), transaction);
    });
  }

  return {
    meantBy,
    meantByRoutine,

    /** Has enquiries looked at that were followed, in the same transaction. */
    async mark(businessId: string, ids: string[], transaction: Transaction): Promise<void> {
      if ((await runningOf.get(businessId)).length === 0) return;
      await markWork(db, 'routine_take', businessId, [...ids].sort(), now(), transaction);
    },

    /** Takes those of some enquiries that are meant now, and has those looked at that were taken before: they may be let go. */
    async takeOf(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
      for (const routine of plain(await tables.routines.findAll({ where: { businessId, state: 'running' } })))
        await takeThese(routine, await findMeant(db, await meantByRoutine(routine), ids, ids.length));
      const where = { businessId, enquiryId: ids, state: 'going' as const };
      const going = plain(await tables.routineRuns.findAll({ attributes: ['id'], where }));
      await markWork(db, 'routine_step', businessId, going.map(({ id }) => id).sort(), now());
      return new Map();
    },

    /** Looks for leads that a routine means by now. @returns when to look again; null where it takes none */
    async look(businessId: string, id: string): Promise<Date | null> {
      const routine = (await tables.routines.findOne({ where: { businessId, id } }))?.get({ plain: true });
      if (routine?.state !== 'running') return null;
      const found = await findMeant(db, await meantByRoutine(routine), null, atOnce);
      await takeThese(routine, found);
      const { on, also } = routine.means.takes;
      if (found.length === atOnce) return now();
      return new Date(nowMs() + betweenLooks[on === 'segment' || also !== '' ? 'segment' : 'other']);
    },

    /** Passes over all that it means now. */
    async passOver(routine: RoutineRow): Promise<void> {
      const meant = await meantByRoutine(routine);
      for (let found = null; found === null || found.length > 0;) {
        found = await findMeant(db, meant, null, atOnce);
        const rows = found.map((one) => toRun(routine, one, 'passed'));
        await inTransaction(db, (transaction) => insertRows(tables.routineRuns, rows, [], transaction));
      }
    },

    /** Has a process that changed a routine know it at once. */
    forget: (businessId: string) => runningOf.forget(businessId),
  };
}
