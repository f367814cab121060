import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { isoNow, nowMs } from '../shared/clock';
import type { Rows, Store } from '../shared/store';
import type { Partner } from './partners';

const day = 86_400_000;
/** Oldest click that is paid for, in days. */
export const clickDays = 45;
/** Latest return or dispute that is taken, in days after its step. */
export const changeDays = 60;

export const stepNames = ['joined', 'paid', 'again', 'back-again', 'returned', 'disputed'] as const;

const isGivenBack = (step: string): boolean => step === 'returned' || step === 'disputed';

/** The five names of the template, each once, and nothing else. */
export const stepSchema = z.strictObject({
  wwk: z.string().min(1).max(60),
  step: z.enum(stepNames),
  sum: z.string().regex(/^\d{1,9}(\.\d{1,3})?$/, 'must be a decimal number such as 129.00'),
  cur: z.string().regex(/^[A-Z]{3}$/, 'must be three capital letters'),
  no: z.string().min(1).max(60),
});
type Step = z.infer<typeof stepSchema>;

interface Click {
  id: string;
  partner: string;
  at: string;
}
export interface CountedStep extends Step {
  id: string;
  /** What it is worth since it was returned or disputed. */
  now?: string;
  at: string;
  partner: string;
}
export type Steps = ReturnType<typeof makeSteps>;

/** Clicks on partners' links, and what advertisers say became of them. It counts whatever it is told, also twice. */
export function makeSteps(store: Store) {
  const clicks: Rows<Click> = store.rows('clicks');
  const counted: Rows<CountedStep> = store.rows('steps');

  const put = (step: Step, partner: string) =>
    counted.put({ ...step, id: `S-${counted.all().length + 1}`, at: isoNow(), partner });

  /** Notes that an earlier step with the same number is worth the given sum from now on. */
  function giveBack(step: Step, partner: string): string {
    const earlier = counted.all().filter(({ no, step: was }) => no === step.no && !isGivenBack(was));
    if (earlier.length === 0) return 'no such step';
    if (nowMs() - Date.parse(earlier[0]!.at) > changeDays * day) return 'too late';
    for (const one of earlier) counted.put({ ...one, now: step.sum });
    put(step, partner);
    return 'counted';
  }

  return {
    /** A reader's click gets a fresh key. */
    click(partner: Partner): string {
      const id = `wk-${randomBytes(9).toString('base64url')}`;
      clicks.put({ id, partner: partner.id, at: isoNow() });
      return id;
    },

    /** Takes a click of a replay under its own key and time (ms). */
    replay: (partner: string, id: string, at: number) => clicks.put({ id, partner, at: new Date(at).toISOString() }),

    /** @returns "counted", or what is wrong with the step */
    take(step: Step): string {
      const click = clicks.get(step.wwk);
      if (!click) return 'no such click';
      if (isGivenBack(step.step)) return giveBack(step, click.partner);
      if (nowMs() - Date.parse(click.at) > clickDays * day) return 'click too old';
      put(step, click.partner);
      return 'counted';
    },

    newest: (count: number) => counted.all().slice(-count).reverse(),
    clicks: () => clicks.all().length,
    all: () => counted.all(),
    /** What all steps in a currency are worth now. */
    worth: (currency: string) =>
      counted
        .all()
        .filter(({ cur, step }) => cur === currency && !isGivenBack(step))
        .reduce((sum, { sum: was, now }) => sum + Number(now ?? was), 0),
  };
}
