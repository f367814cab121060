import { AvrixError } from '../../../core/errors';
import { nextStep } from '../../../core/leads/routines/routine';
import type { RunsView, RunView } from '../../../core/leads/routines/view';
import { now } from '../../clock';
import type { Context } from '../../context';
import { markWork, plain } from '../../db';
import type { Membership } from '../../people/people';
import { requireEditor } from '../../releases/draft';
import { called } from '../called';
import { readEnquiries } from '../queries';
import type { ActRow, RoutineRow, RunRow } from './table';

const mostRuns = 200;

/** Leads in routines: who is at which step, what was done with each, and what somebody decides of one. */
export function makeRuns({ db, tables }: Context) {
  return {
    /** Who is in a routine, and what became of each. @throws AVX_NOT_FOUND */
    async read({ business, role }: Membership, id: string): Promise<RunsView> {
      const found = await tables.routines.findOne({ where: { businessId: business.id, id } });
      if (!found) throw new AvrixError('AVX_NOT_FOUND', { what: 'routine' });
      const routine = found.get({ plain: true });
      const where = {
        businessId: business.id,
        routineId: id,
        state: ['going' as const, 'done' as const, 'let_go' as const],
      };
      const [rows, total] = await Promise.all([
        tables.routineRuns.findAll({
          where,
          order: [
            [db.literal("state = 'going'"), 'DESC'],
            ['beganAt', 'DESC'],
          ],
          limit: mostRuns,
        }),
        tables.routineRuns.count({ where }),
      ]);
      const runs = plain(rows);
      const [acts, enquiries] = await Promise.all([
        tables.routineActs.findAll({
          where: { businessId: business.id, runId: runs.map((run) => run.id) },
          order: [['at', 'ASC']],
        }),
        readEnquiries(
          db,
          business.id,
          runs.map(({ enquiryId }) => enquiryId),
        ),
      ]);
      const who = new Map(enquiries.map((row) => [row.id, called(row, role.seesPeople)]));
      const all = plain(acts);
      return {
        total,
        runs: runs.map((run) =>
          toRunView(
            run,
            routine,
            who.get(run.enquiryId) ?? 'a lead that is there no more',
            all.filter(({ runId }) => runId === run.id),
          ),
        ),
      };
    },

    /** Lets a lead go. @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND */
    async letGo(membership: Membership, byName: string, run: string): Promise<void> {
      requireEditor(membership);
      const where = { businessId: membership.business.id, id: run };
      const [changed] = await tables.routineRuns.update(
        { state: 'let_go', why: `by ${byName}`.slice(0, 200), endedAt: now(), dueAt: null },
        { where: { ...where, state: 'going' } },
      );
      if (changed === 0) throw new AvrixError('AVX_NOT_FOUND', { what: 'lead in the routine' });
    },

    /**
     * Says of an email whose answer was lost whether it arrived; one that did not is sent again.
     * @throws AVX_ROLE_TOO_SMALL, AVX_NOT_FOUND
     */
    async resolveUnsure(membership: Membership, byName: string, id: string, arrived: boolean): Promise<void> {
      requireEditor(membership);
      const { business } = membership;
      const where = { businessId: business.id, id, state: 'unsure' as const };
      const act = (await tables.routineActs.findOne({ where }))?.get({ plain: true });
      if (!act) throw new AvrixError('AVX_NOT_FOUND', { what: 'email' });
      const answer = arrived ? `${byName} knows that it arrived.` : `${byName} had it sent again.`;
      await tables.routineActs.update({ state: arrived ? 'done' : 'again', answer }, { where });
      if (!arrived) await markWork(db, 'routine_step', business.id, [act.runId], now());
    },
  };
}

function toRunView(run: RunRow, { means }: RoutineRow, lead: string, acts: ActRow[]): RunView {
  const next = run.state === 'going' ? nextStep(means.steps, run.lastStep ?? '', run.stepsDone) : null;
  return {
    id: run.id,
    enquiryId: run.enquiryId,
    lead,
    state: run.state,
    step: next?.id ?? '',
    dueAt: run.dueAt?.toISOString() ?? null,
    beganAt: run.beganAt.toISOString(),
    endedAt: run.endedAt?.toISOString() ?? null,
    why: run.why,
    acts: acts.map(({ id, stepId, at, state, words, answer }) => ({
      id,
      step: stepId,
      at: at.toISOString(),
      state,
      words,
      answer,
    })),
  };
}
