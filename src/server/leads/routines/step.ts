/* eslint-disable no-await-in-loop -- what somebody had done again is one act, as a rule */
import { nextStep, type Step } from '../../../core/leads/routines/routine';
import type { DueAfter } from '../../../core/leads/routines/waits';
import { makeDueAfter } from '../../../core/leads/routines/waits';
import type { ActState } from '../../../core/leads/routines/view';
import { routineActId } from '../../../core/strands';
import { usualHours } from '../../../core/leads';
import { now, nowMs } from '../../clock';
import type { Context } from '../../context';
import { inTransaction, insertRows, plain, type BusinessRow } from '../../db';
import type { Release } from '../../../core/releases';
import type { Releases } from '../../releases/releases';
import type { Act } from './acts';
import type { ActRow, RoutineRow, RunRow } from './table';
import { letGoWhy, readWhom, type Whom } from './whom';

const [minute, day] = [60_000, 86_400_000];
/** How long (ms) a step waits for what it needs, such as a record in the CRM; then it is left out. */
const mostPatience = 7 * day;

/** What became of a step. `later`: it has not happened, and is tried again after a while. */
export interface Done {
  state: 'done' | 'unsure' | 'refused' | 'left_out' | 'later';
  answer: string;
  /** How long (ms) to wait before it is tried again; usually longer each time. */
  after?: number;
  /** Whether it is waited for as long as it takes, such as a mail server that is away. */
  patient?: boolean;
}
/** What a step is done with. */
export interface Doing {
  business: BusinessRow;
  release: Release;
  routine: RoutineRow;
  run: RunRow;
  step: Step;
  whom: Whom;
  /** The act's own ID, the same each time it is tried. */
  actId: string;
  /** Keeps that it may happen from now on, with what it is; where somebody else began it, nothing more is done here. */
  begin(what: Pick<ActRow, 'words'> & Partial<ActRow>): Promise<void>;
}

/** Somebody else works on the step: this process stalled and lost it. */
class SomebodyElses extends Error {}

/** When steps of a business are due. */
export async function readDueAfter(
  { tables }: Pick<Context, 'tables'>,
  { id, timeZone }: Pick<BusinessRow, 'id' | 'timeZone'>,
): Promise<DueAfter> {
  const row = await tables.workingHours.findOne({ where: { businessId: id } });
  return makeDueAfter(row?.get({ plain: true }).hours ?? usualHours, timeZone);
}

/**
 * Takes leads from step to step. That a step is begun is stored before anything leaves, and what became of it after: where the
 * process ends in between, nobody knows whether an email went out, and it is not sent a second time.
 */
export function makeStepOn(context: Context, releases: Releases, act: Act) {
  const { db, tables } = context;

  async function end(run: RunRow, state: 'done' | 'let_go', why: string): Promise<null> {
    await tables.routineRuns.update(
      { state, why: why.slice(0, 200), endedAt: now(), dueAt: null },
      { where: { businessId: run.businessId, id: run.id, state: 'going' } },
    );
    return null;
  }

  async function readFor({ businessId, routineId, enquiryId }: RunRow) {
    const [routine, business, release] = await Promise.all([
      tables.routines.findOne({ where: { businessId, id: routineId } }),
      tables.businesses.findOne({ where: { id: businessId }, rejectOnEmpty: true }),
      releases.live(businessId),
    ]);
    return {
      routine: routine?.get({ plain: true }),
      business: business.get({ plain: true }),
      release,
      whom: await readWhom(context, businessId, enquiryId, release),
    };
  }

  /** Does one step. @returns what became of it; null where it is somebody else's */
  async function doStep(given: Omit<Doing, 'actId' | 'begin'>): Promise<Done | null> {
    const { run, routine, step, whom } = given;
    const { businessId } = run;
    const id = routineActId(run.id, step.id);
    const before = (await tables.routineActs.findOne({ where: { businessId, id } }))?.get({ plain: true });
    if (before && ['done', 'unsure', 'refused', 'left_out'].includes(before.state))
      return { state: before.state as 'done', answer: before.answer };
    const row: ActRow = {
      businessId,
      id,
      runId: run.id,
      routineId: routine.id,
      enquiryId: whom.enquiry.id,
      stepId: step.id,
      does: step.does,
      state: 'waiting',
      at: now(),
      since: before?.since ?? now(),
      words: before?.words ?? '',
      answer: '',
      mailId: null,
      mailHash: '',
      sent: null,
    };
    const columns = ['state', 'at', 'words', 'answer', 'mailId', 'mailHash', 'sent'] as const;
    const store = (part: Partial<ActRow>) =>
      inTransaction(db, (transaction) =>
        insertRows(tables.routineActs, [{ ...row, ...part }], [...columns], transaction),
      );
    // Whoever began it ended before they could say what became of it. What is told by webhook has a key, and is told again.
    if (before?.state === 'begun' && (step.does === 'mail' || step.does === 'tell_mail')) {
      const answer = 'Avrix was stopped while it was sent.';
      await tables.routineActs.update({ state: 'unsure', answer }, { where: { businessId, id } });
      return { state: 'unsure', answer };
    }
    let begun: Partial<ActRow> = {};
    const begin: Doing['begin'] = async (what) => {
      begun = what;
      await inTransaction(db, async (transaction) => {
        const found = await tables.routineActs.findOne({ where: { businessId, id }, transaction, lock: true });
        const state = found?.get({ plain: true }).state ?? 'waiting';
        if (state !== 'waiting' && state !== 'again' && !(state === 'begun' && before?.state === 'begun'))
          throw new SomebodyElses();
        await insertRows(tables.routineActs, [{ ...row, ...what, state: 'begun' }], [...columns], transaction);
      });
    };
    let done: Done;
    try {
      done = await act({ ...given, actId: id, begin });
    } catch (error) {
      if (error instanceof SomebodyElses) return null;
      throw error;
    }
    const waitedFor = nowMs() - row.since.getTime();
    const isGivenUp = done.state === 'later' && !done.patient && waitedFor > mostPatience;
    const ended: Done = isGivenUp ? { state: 'left_out', answer: done.answer } : done;
    const waiting: ActState = before?.state === 'again' ? 'again' : 'waiting';
    const state = ended.state === 'later' ? waiting : ended.state;
    await store({ ...begun, state, at: now(), answer: ended.answer.slice(0, 500) });
    if (ended.state !== 'later') return ended;
    return { ...ended, after: ended.after ?? Math.min(Math.max(minute, waitedFor), day / 4) };
  }

  /** Does once more what somebody had done again, whether the lead is still in the routine or not. @returns when to try again */
  async function doAgain(run: RunRow): Promise<Date | null> {
    const { businessId } = run;
    const acts = plain(await tables.routineActs.findAll({ where: { businessId, runId: run.id, state: 'again' } }));
    if (acts.length === 0) return null;
    let again: Date | null = null;
    const { routine, business, release, whom } = await readFor(run);
    for (const { id, stepId } of acts) {
      const step = routine?.means.steps.find((one) => one.id === stepId);
      const done = routine && step && whom ? await doStep({ business, release, routine, run, step, whom }) : undefined;
      const answer = 'The step is there no more.';
      if (done === undefined)
        await tables.routineActs.update({ state: 'left_out', answer }, { where: { businessId, id } });
      if (done?.state === 'later') again = new Date(nowMs() + done.after!);
    }
    return again;
  }

  /** Does the next step where it is due. @returns when the one after it is; null where none is, or the lead is let go */
  async function goOn(run: RunRow): Promise<Date | null> {
    const { businessId, id: runId } = run;
    if (run.state !== 'going') return null;
    const { routine, business, release, whom } = await readFor(run);
    // While it is paused everybody stays where they are; one that takes too many at once goes on with those that it has.
    if (!routine || (routine.state !== 'running' && routine.state !== 'braked')) return null;
    if (!whom) return end(run, 'let_go', 'the enquiry is there no more');
    const why = letGoWhy(whom, routine.means.letGo, release);
    if (why) return end(run, 'let_go', why);
    const { steps } = routine.means;
    const step = nextStep(steps, run.lastStep ?? '', run.stepsDone);
    if (!step) return end(run, 'done', '');
    const dueAfter = await readDueAfter(context, business);
    const due = new Date(dueAfter(run.lastAt.getTime(), step));
    const where = { businessId, id: runId };
    if (due.getTime() > nowMs()) {
      if (due.getTime() !== run.dueAt?.getTime()) await tables.routineRuns.update({ dueAt: due }, { where });
      return due;
    }
    const done = await doStep({ business, release, routine, run, step, whom });
    if (!done) return null;
    if (done.state === 'later') {
      const again = new Date(nowMs() + done.after!);
      await tables.routineRuns.update({ why: done.answer.slice(0, 200) }, { where });
      return again;
    }
    const stepsDone = run.stepsDone + 1;
    const next = nextStep(steps, step.id, stepsDone);
    const dueAt = next ? new Date(dueAfter(nowMs(), next)) : null;
    await tables.routineRuns.update({ lastStep: step.id, stepsDone, lastAt: now(), dueAt, why: '' }, { where });
    if (next) return dueAt;
    return end(run, 'done', '');
  }

  /** Takes a lead on by what is due of it. @returns when to look again; null where nothing is to come */
  return async function stepOn(businessId: string, runId: string): Promise<Date | null> {
    const run = (await tables.routineRuns.findOne({ where: { businessId, id: runId } }))?.get({ plain: true });
    if (!run) return null;
    const times = [await doAgain(run), await goOn(run)].flatMap((at) => at ?? []);
    return times.length === 0 ? null : new Date(Math.min(...times.map((at) => at.getTime())));
  };
}
