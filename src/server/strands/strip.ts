import type { CaptureStation } from '../capture/station';
import type { BusinessRow } from '../db';
import type { makeEventsStation } from '../events/station';
import { makeLastKnown } from '../last-known';
import type { PlanService } from '../plan/plan';
import type { HeldAsOne } from '../reportbacks/held-as-one';
import type { makeStrandPages } from './line';

/** How old (ms) the figures on the strip may be. */
const freshFor = 5000;

interface Figures {
  /** Strands lost, by the station whose node shows them. */
  lost: Record<string, number>;
  offPlan: number;
  faults: number;
  /** Events that have gone quiet. */
  quiet: number;
  /** Report-backs that wait until somebody looked at them. */
  unseen: number;
}

/** What the strip shows of every station: counted for all pages together, so that none waits for it. */
export function makeStrip(
  { losses }: Pick<ReturnType<typeof makeStrandPages>, 'losses'>,
  plan: PlanService,
  capture: CaptureStation,
  events: Pick<ReturnType<typeof makeEventsStation>, 'quietCount'>,
  heldAsOne: Pick<HeldAsOne, 'unseen'>,
) {
  const businesses = new Map<string, BusinessRow>();
  const figures = makeLastKnown(async (id): Promise<Figures> => {
    const [lost, offPlan, faults, quiet, unseen] = await Promise.all([
      losses(businesses.get(id)!),
      plan.offPlanCount(id),
      capture.faultCount(id),
      events.quietCount(id),
      heldAsOne.unseen(id),
    ]);
    return { lost, offPlan, faults, quiet, unseen };
  }, freshFor);
  return (business: BusinessRow): Promise<Figures> => {
    businesses.set(business.id, business);
    return figures.get(business.id);
  };
}
