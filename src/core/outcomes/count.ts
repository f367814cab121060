import { passes } from '../events/compare';
import type { Happening } from './happening';
import type { Stages } from './reached';
import { isReached } from './reached';
import type { Condition } from '../events/schema';
import type { Money, OutcomeRule } from './schema';
import { worthOf } from './worth';

/** What shows that an outcome was reached. */
export type OutcomeEvidence =
  | {
      kind: 'stage';
      /** The stage at which it was reached: the outcome's own or a later one. */
      stage: string;
      /** True where the outcome's own stage was passed over. */
      skipped: boolean;
      /** Who moved the deal there, as the CRM says; missing where it does not. */
      by?: string;
    }
  | { kind: 'order' }
  | { kind: 'field'; name: string; value: string }
  | { kind: 'event'; event: string }
  | { kind: 'page'; path: string }
  | { kind: 'file'; says: string }
  | { kind: 'postback'; sender: string; step: string };

/** An outcome that a happening reached. */
export interface Counted {
  /** What it is counted once for (rules of counting): the kind and its ID. */
  key: string;
  at: number;
  evidence: OutcomeEvidence;
  /** The amount that the worth is made of, null where there is none; and the worth, null where it cannot be known. */
  amount: Money | null;
  worth: Money | null;
}

/**
 * Whether something that happened reaches an outcome, and what is then counted. Pure: that nothing is counted twice holds
 * whoever stores it, by its key; and the rule must be the one that was in force when it happened.
 *
 * @param stages of the CRM under the same release
 * @returns null where it does not, or had been reached before
 */
export function countOutcome(happening: Happening, rule: OutcomeRule, stages: Stages): Counted | null {
  const key = dedupeKey(happening, rule);
  const evidence = evidenceOf(happening, rule, stages);
  if (key === null || evidence === null) return null;
  return { key, at: happening.at, evidence, ...worthOf(happening.amounts, rule.worth) };
}

/** What an outcome is counted once for, as its kind and ID; null where there is none of that kind. */
export function dedupeKey({ keys }: Pick<Happening, 'keys'>, rule: OutcomeRule): string | null {
  const id = keys[rule.countedOnceFor];
  return id === undefined ? null : `${rule.countedOnceFor} ${id}`;
}

/** Every key under which a happening may be counted already: its own, and of what became one with it. */
export function dedupeKeys(happening: Pick<Happening, 'keys' | 'formerly'>, rule: OutcomeRule): string[] {
  const formerly = happening.formerly?.[rule.countedOnceFor] ?? [];
  return [dedupeKey(happening, rule) ?? [], formerly.map((id) => `${rule.countedOnceFor} ${id}`)].flat();
}

function evidenceOf({ what, fields }: Happening, { reachedBy }: OutcomeRule, stages: Stages): OutcomeEvidence | null {
  if (what.kind === 'order') return reachedBy.kind === 'order' ? { kind: 'order' } : null;
  if (what.kind === 'field') {
    const { name, value } = what;
    const isIt = reachedBy.kind === 'field' && reachedBy.name === name && passes(reachedBy.test, value, reachedBy.text);
    return isIt ? { kind: 'field', name, value } : null;
  }
  if (what.kind === 'event') {
    if (reachedBy.kind !== 'event' || reachedBy.event !== what.event) return null;
    const holds = ({ reading, test, not, text }: Condition) => passes(test, fields[reading] ?? '', text) !== not;
    return reachedBy.conditions.every(holds) ? { kind: 'event', event: what.event } : null;
  }
  if (what.kind === 'file') {
    const isIt = reachedBy.kind === 'file' && reachedBy.says === what.says;
    return isIt ? { kind: 'file', says: what.says } : null;
  }
  if (what.kind === 'page') {
    const isIt = reachedBy.kind === 'page' && passes(reachedBy.test, what.path, reachedBy.text);
    return isIt ? { kind: 'page', path: what.path } : null;
  }
  if (what.kind === 'postback') {
    const { sender, step } = what;
    const isIt = reachedBy.kind === 'postback' && reachedBy.sender === sender && reachedBy.step === step;
    return isIt ? { kind: 'postback', sender, step } : null;
  }
  if (reachedBy.kind !== 'stage') return null;
  const reaches = (stage: string) => isReached(reachedBy.stage, stage, stages);
  // Going back and forth counts once: what reached it before is the time it was reached.
  if (!reaches(what.stage) || what.before.some(reaches)) return null;
  const skipped = what.stage !== reachedBy.stage;
  return what.by === ''
    ? { kind: 'stage', stage: what.stage, skipped }
    : { kind: 'stage', stage: what.stage, skipped, by: what.by };
}
