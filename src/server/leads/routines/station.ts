import { Op } from 'sequelize';
import { AvrixError } from '../../../core/errors';
import { nextStep, type Takes } from '../../../core/leads/routines/routine';
import type { RoutineDo, RoutineGiven } from '../../../core/leads/routines/schema';
import { routineLines } from '../../../core/leads/routines/sentence';
import type { RoutineState, RoutinesView, RoutineView, TakesEffectView } from '../../../core/leads/routines/view';
import { mayChange } from '../../../core/people/rights';
import { counted, type Sentence } from '../../../core/strands';
import type { Changes } from '../../changes/changes';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { inTransaction, markWork, plain } from '../../db';
import { newId } from '../../ids';
import { readMailSettings } from '../../mail/settings';
import type { Membership } from '../../people/people';
import { tellsByMail } from '../../../core/releases';
import { requireEditor } from '../../releases/draft';
import type { Releases } from '../../releases/releases';
import { toListRow } from '../list';
import { readEnquiries, readRecordNames } from '../queries';
import { refuseTakenName } from '../../taken-name';
import { isSeenBy, readAllSegments } from '../segments/segments';
import { countMeant, countRuns, findMeant } from './queries';
import type { RoutineRow } from './table';
import type { TakeLeads } from './take';
import type { TryRoutine } from './try';

const [hour, day] = [3_600_000, 86_400_000];
const mostNewest = 5;

/** Routines: what follows when leads meet a condition, who is at which step, and what became of each. */
export function makeRoutinesStation(
  context: Context,
  releases: Releases,
  changes: Changes,
  takeLeads: TakeLeads,
  tryRoutine: TryRoutine,
) {
  const { db, tables } = context;

  const readRoutines = async (businessId: string): Promise<RoutineRow[]> =>
    plain(await tables.routines.findAll({ where: { businessId }, order: [['madeAt', 'ASC']] }));

  /** @throws AVX_NOT_FOUND */
  async function rowOf(businessId: string, id: string): Promise<RoutineRow> {
    const row = await tables.routines.findOne({ where: { businessId, id } });
    if (!row) throw new AvrixError('AVX_NOT_FOUND', { what: 'routine' });
    return row.get({ plain: true });
  }

  /** What routines can be made of; of segments those that somebody sees. */
  async function besideOf({ business, role }: Membership): Promise<Pick<RoutinesView, 'mails' | 'segments'>> {
    const [mails, segments] = await Promise.all([
      tables.mailTemplates.findAll({ where: { businessId: business.id, retiredAt: null }, order: [['name', 'ASC']] }),
      readAllSegments(context, business.id),
    ]);
    const seen = segments.filter(isSeenBy(role.personId)).filter(({ retiredAt }) => retiredAt === null);
    return {
      mails: plain(mails).map(({ id, name }) => ({ id, name })),
      segments: seen.map(({ id, name }) => ({ id, name })),
    };
  }

  async function view(membership: Membership): Promise<RoutinesView> {
    const { business, role } = membership;
    const [rows, counts, beside, release, settings, crmFields, people] = await Promise.all([
      readRoutines(business.id),
      countRuns(db, business.id, now()),
      besideOf(membership),
      releases.live(business.id),
      readMailSettings(context, business.id),
      readRecordNames(db, business.id, 'fields'),
      peopleOf(business.id),
    ]);
    const heldBack = new Map(
      await Promise.all(
        rows
          .filter(({ state }) => state === 'braked')
          .map(async (row): Promise<[string, number]> => [
            row.id,
            (await countMeant(db, await takeLeads.meantByRoutine(row), now())).now,
          ]),
      ),
    );
    const routines = rows.map((row): RoutineView => {
      const own = counts.filter(({ routineId }) => routineId === row.id);
      const going = own.filter(({ state }) => state === 'going');
      const sumOf = (state: string) => own.reduce((sum, one) => sum + (one.state === state ? one.runs : 0), 0);
      const waiting: Record<string, number> = {};
      for (const { lastStep, stepsDone, runs } of going) {
        const step = nextStep(row.means.steps, lastStep ?? '', stepsDone)?.id ?? '';
        waiting[step] = (waiting[step] ?? 0) + runs;
      }
      return {
        id: row.id,
        name: row.name,
        means: row.means,
        state: row.state,
        startedAt: row.startedAt?.toISOString() ?? null,
        changedAt: row.changedAt.toISOString(),
        heldBack: heldBack.get(row.id) ?? 0,
        going: sumOf('going'),
        done: sumOf('done'),
        letGo: sumOf('let_go'),
        waiting,
        dueNow: going.reduce((sum, { due }) => sum + due, 0),
      };
    });
    const { content } = release;
    return {
      sentence: sentenceOf(routines),
      routines,
      ...beside,
      offers: {
        forms: content.capture.forms.map(({ name }) => name),
        stages: [...(content.crm?.stages.inOrder ?? []), ...(content.crm?.stages.ended ?? [])],
        crmFields,
        people,
      },
      canSend: settings !== null,
      mayChange: mayChange(role),
      timeZone: business.timeZone,
    };
  }

  async function peopleOf(businessId: string): Promise<string[]> {
    const roles = plain(await tables.roles.findAll({ where: { businessId } }));
    const people = await tables.people.findAll({ where: { id: roles.map(({ personId }) => personId) } });
    return plain(people).map(({ mail }) => mail);
  }

  const note = (
    { business, role }: Membership,
    name: string,
    was: string,
    became: string,
    transaction: Parameters<Changes['note']>[3],
  ) => {
    const subject = `Routine “${name}”`;
    return changes.note(business.id, role.personId, [{ kind: 'lead', subject, was, became }], transaction);
  };

  /** Has everybody who is in a routine looked at: their next step may be another one, or due. */
  async function markRuns({ businessId, id }: RoutineRow): Promise<void> {
    const where = { businessId, routineId: id, state: 'going' as const };
    const runs = plain(await tables.routineRuns.findAll({ attributes: ['id'], where }));
    for (let from = 0; from < runs.length; from += 2000) {
      const ids = runs.slice(from, from + 2000).map((run) => run.id);
      // eslint-disable-next-line no-await-in-loop -- statements are bounded in length
      await markWork(db, 'routine_step', businessId, ids, now());
    }
  }

  /** Addresses are kept only while something needs them. */
  async function forgetAddresses(businessId: string): Promise<void> {
    if (tellsByMail(await releases.live(businessId))) return;
    const inUse = await tables.routines.count({ where: { businessId, state: { [Op.ne]: 'retired' as const } } });
    if (inUse === 0) await tables.leadAddresses.destroy({ where: { businessId } });
  }

  const markLook = ({ businessId, id }: RoutineRow) => markWork(db, 'routine_look', businessId, [id], now());

  /** Sets how a routine stands, and keeps who did. */
  async function setState(
    membership: Membership,
    row: RoutineRow,
    given: Partial<RoutineRow>,
    became: string,
  ): Promise<RoutineRow> {
    const { businessId, id } = row;
    await inTransaction(db, async (transaction) => {
      await tables.routines.update(given, { where: { businessId, id }, transaction });
      await note(membership, row.name, stateWords[row.state], became, transaction);
    });
    takeLeads.forget(businessId);
    return { ...row, ...given };
  }

  return {
    view,
    besideOf,

    /** Whom it would take. */
    async effect({ business, role }: Membership, takes: Takes): Promise<TakesEffectView> {
      const [meant, release] = await Promise.all([
        takeLeads.meantBy(business, takes, null, null),
        releases.live(business.id),
      ]);
      const since = new Date(nowMs() - 28 * day);
      const [counts, found] = await Promise.all([
        countMeant(db, meant, since),
        findMeant(db, { ...meant, from: since }, null, 2000),
      ]);
      const ids = found
        .slice(-mostNewest)
        .map(({ id }) => id)
        .reverse();
      const rows = await readEnquiries(db, business.id, ids);
      return {
        ...counts,
        newest: rows.map((row) => {
          const { company, cameFrom, sentAt } = toListRow(row, release, role.seesPeople);
          return { id: row.id, company, cameFrom, at: sentAt };
        }),
      };
    },

    /** Says what it would do with one lead. @throws AVX_FIELD_WRONG where no lead is known by the text */
    tryOn: async (membership: Membership, { means, enquiry }: { means: RoutineRow['means']; enquiry: string }) =>
      tryRoutine(membership, means, enquiry, await besideOf(membership)),

    /**
     * Keeps a routine. What runs goes on by what it says now; whoever comes to fit because of the change is passed over.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND, AVX_FIELD_WRONG where the name is taken, AVX_ROUTINE_CHANGED
     */
    async save(membership: Membership, given: RoutineGiven): Promise<{ id: string }> {
      requireEditor(membership);
      const { business } = membership;
      const all = await readRoutines(business.id);
      const before = all.find(({ id }) => id === given.id);
      if (given.id !== '' && !before) throw new AvrixError('AVX_NOT_FOUND', { what: 'routine' });
      if (before && before.changedAt.toISOString() !== given.seen) throw new AvrixError('AVX_ROUTINE_CHANGED');
      refuseTakenName(all, given, 'a routine');
      const row: RoutineRow = {
        businessId: business.id,
        id: before?.id ?? newId(),
        name: given.name,
        means: given.means,
        state: before?.state ?? 'draft',
        startedAt: before?.startedAt ?? null,
        unbrakedUntil: before?.unbrakedUntil ?? null,
        madeAt: before?.madeAt ?? now(),
        changedAt: now(),
      };
      const beside = await besideOf(membership);
      const lines = (one: RoutineRow) => routineLines(one.means, beside).join('\n');
      const isOn = row.state !== 'draft' && row.state !== 'retired';
      const takesOthers = before && JSON.stringify(before.means.takes) !== JSON.stringify(row.means.takes);
      if (isOn && takesOthers) await takeLeads.passOver(row);
      await inTransaction(db, async (transaction) => {
        // How it stands may change meanwhile, and is not what is saved here.
        const { businessId, id, name, means, changedAt } = row;
        if (before)
          await tables.routines.update({ name, means, changedAt }, { where: { businessId, id }, transaction });
        else await tables.routines.create(row, { transaction });
        await note(membership, row.name, before ? lines(before) : '', lines(row), transaction);
      });
      takeLeads.forget(business.id);
      if (isOn) await markRuns(row);
      return { id: row.id };
    },

    /**
     * Starts, pauses, retires a routine, or says what becomes of leads that it holds back.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async act(membership: Membership, { id, what, those }: RoutineDo): Promise<RoutinesView> {
      requireEditor(membership);
      const row = await rowOf(membership.business.id, id);
      const running = { state: 'running' as const, changedAt: now() };
      const asked = new Date(nowMs() + hour);
      switch (what) {
        case 'start': {
          if (row.state !== 'draft') break;
          const startedAt = those ? null : now();
          const begun = { ...row, ...running, startedAt };
          if (!those) await takeLeads.passOver(begun);
          const became = those ? 'running, also for those that fit already' : 'running';
          const given = { ...running, startedAt, unbrakedUntil: those ? asked : null };
          await markLook(await setState(membership, row, given, became));
          break;
        }
        case 'pause':
          if (row.state === 'running' || row.state === 'braked')
            await setState(membership, row, { state: 'paused', changedAt: now() }, 'paused');
          break;
        case 'go_on': {
          if (row.state !== 'paused') break;
          const on = await setState(membership, row, running, 'running');
          await markRuns(on);
          await markLook(on);
          break;
        }
        case 'take':
          if (row.state === 'braked')
            await markLook(
              await setState(membership, row, { ...running, unbrakedUntil: asked }, 'taking all that came'),
            );
          break;
        case 'pass_over': {
          if (row.state !== 'braked') break;
          await takeLeads.passOver(row);
          await markLook(await setState(membership, row, running, 'running, without those that came at once'));
          break;
        }
        case 'retire':
          await setState(membership, row, { state: 'retired', changedAt: now() }, 'retired');
          await tables.routineRuns.update(
            { state: 'let_go', why: 'the routine was retired', endedAt: now(), dueAt: null },
            { where: { businessId: row.businessId, routineId: id, state: 'going' } },
          );
          await forgetAddresses(row.businessId);
          break;
        case 'use_again':
          if (row.state === 'retired')
            await setState(membership, row, { state: 'draft', changedAt: now() }, 'not started');
          break;
      }
      return view(membership);
    },
  };
}

const stateWords: Record<RoutineState, string> = {
  draft: 'not started',
  running: 'running',
  paused: 'paused',
  braked: 'holding leads back',
  retired: 'retired',
};

function sentenceOf(routines: RoutineView[]): Sentence {
  const used = routines.filter(({ state }) => state !== 'retired');
  if (used.length === 0)
    return {
      title: 'No routine yet.',
      under:
        'Say what follows when a lead meets a condition, such as an email and, two working days later, a reminder.',
    };
  const braked = used.filter(({ state }) => state === 'braked');
  const going = used.reduce((sum, one) => sum + one.going, 0);
  if (braked.length > 0)
    return {
      title: `“${braked[0]!.name}” holds ${counted(braked[0]!.heldBack, 'lead', 'leads')} back: so many came at once.`,
      under: 'Look at them, then take them or pass them over.',
    };
  const running = used.filter(({ state }) => state === 'running').length;
  if (running === 0) return { title: 'No routine is running.', under: 'Nothing is sent or set until one is started.' };
  return {
    title: `${counted(running, 'routine is', 'routines are')} running; ${going === 0 ? 'nobody is' : counted(going, 'lead is', 'leads are')} on the way through.`,
    under: 'A change holds at once, also for leads that are in it.',
  };
}
