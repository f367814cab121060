import type { ReleaseContent } from '../releases/schema';
import { alias } from './alias';
import { callCode } from './call-code';
import { carry } from './carry';
import { channel } from './channel';
import { clickId } from './click-id';
import { consent } from './consent';
import { crm } from './crm';
import { crmWrite } from './crm-write';
import type { RuleKind } from './define';
import { elsewhere } from './elsewhere';
import { event } from './event';
import { fill } from './fill';
import { followedForm } from './followed-form';
import { keep } from './keep';
import { keptValue } from './kept-value';
import { naming } from './naming';
import { makingSteps } from './making-steps';
import { noCustomer } from './no-customer';
import { order } from './order';
import { outcome } from './outcome';
import { outcomeCodes } from './outcome-codes';
import { ownCrm } from './own-crm';
import { pii } from './pii';
import { platform } from './platform';
import { presses } from './presses';
import { goal } from './goal';
import { ladder } from './ladder';
import { qualified } from './qualified';
import { reading } from './reading';
import { referrer } from './referrer';
import { source } from './source';
import { sayPieces, type Beside } from './says';
import { swap } from './swap';
import { tag } from './tag';
import { tagCarry } from './tag-carry';
import { telling } from './telling';
import { visit } from './visit';
import { wire } from './wire';

export { aliasId } from './alias';
export type { RuleKind, RuleProblem, RuleRef } from './define';

/** Every kind of rule that can be changed in the draft; each stands in a file of its own. */
export const ruleKinds = {
  tag,
  naming,
  channel,
  source,
  referrer,
  alias,
  outcome_codes: outcomeCodes,
  making_steps: makingSteps,
  keep,
  click_id: clickId,
  carry,
  tag_carry: tagCarry,
  kept_value: keptValue,
  visit,
  consent,
  pii,
  fill,
  swap,
  elsewhere,
  no_customer: noCustomer,
  followed_form: followedForm,
  order,
  call_code: callCode,
  reading,
  event,
  wire,
  presses,
  platform,
  own_crm: ownCrm,
  crm,
  crm_write: crmWrite,
  outcome,
  telling,
  ladder,
  goal,
  qualified,
};
export type RuleKindName = keyof typeof ruleKinds;
/** What a kind's rules hold. */
export type RuleOf<Kind extends RuleKindName> = (typeof ruleKinds)[Kind] extends RuleKind<infer Rule> ? Rule : never;

/** Which rule of a release: its kind, and its own name among those of the kind, '' where there is only one. */
export interface RuleName {
  kind: RuleKindName;
  id: string;
}
/** A rule as the draft changes it; null takes it out. */
/** A rule that is not as it is live, and who changed it last. */
export interface ChangedRule extends RuleName {
  by: string;
  /** UTC, ISO 8601. */
  changedAt: string;
}

export interface RuleChange extends RuleName {
  value: unknown;
  /** The rule that was changed, null where there was none; left out where that does not matter. */
  from?: unknown;
}

export const isRuleKind = (kind: string): kind is RuleKindName => Object.hasOwn(ruleKinds, kind);

/** The kind with its value's type forgotten: callers hold values that its schema has let through. */
export const ruleKind = (kind: RuleKindName) => ruleKinds[kind] as unknown as RuleKind<unknown>;

/** A rule's value in a release; null where the release has none of that name. */
export const readRule = (content: ReleaseContent, { kind, id }: RuleName): unknown =>
  ruleKind(kind)
    .at.read(content)
    .find(([known]) => known === id)?.[1] ?? null;

/** The content of a release with changes made to it. */
export const applyChanges = (content: ReleaseContent, changes: RuleChange[]): ReleaseContent =>
  changes.reduce((before, { kind, id, value }) => ruleKind(kind).at.write(before, id, value), content);

/** A rule's sentence; null where there is no rule. @param beside what it may name */
export const ruleSentence = (kind: RuleKindName, value: unknown, beside: Beside = {}): string | null =>
  value === null ? null : sayPieces(ruleKind(kind).says, value, beside);

/** What differs between two forms of a rule that its sentences do not say. */
export function ruleDetails(kind: RuleKindName, before: unknown, after: unknown): string[] {
  const { start, details, detailsOfNew } = ruleKind(kind);
  const was = before ?? (detailsOfNew ? start?.({}, []) : null) ?? null;
  return was === null || after === null ? [] : (details?.(was, after) ?? []);
}
