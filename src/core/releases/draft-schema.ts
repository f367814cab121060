import { z } from 'zod';
import { noCustomerRuleSchema } from '../capture/no-customer';
import {
  callCodeRuleSchema,
  captureRulesSchema,
  carryRuleSchema,
  clickIdRuleSchema,
  elsewhereSchema,
  fillRuleSchema,
  keepRuleSchema,
  orderRuleSchema,
  swapTableSchema,
  tagCarrySchema,
  touchRuleSchema,
  valueRuleSchema,
} from '../capture/schema';
import { eventRuleSchema, eventRulesSchema, readingRuleSchema, wireRuleSchema } from '../events/schema';
import { ownCrmSchema } from '../crms/schema';
import { ownPlatformSchema } from '../platforms/schema';
import { crmRuleSchema, crmWriteRuleSchema } from '../leads/schema';
import {
  goalRuleSchema,
  ladderRuleSchema,
  outcomeRuleSchema,
  qualifiedRuleSchema,
  tellingRuleSchema,
} from '../outcomes/schema';
import {
  aliasSchema,
  channelRuleSchema,
  makingStepsSchema,
  namingSchema,
  outcomeCodeRuleSchema,
  referrerRuleSchema,
  sourceRuleSchema,
  tagRuleSchema,
} from '../plan/schema';
import { readAs } from '../read-as';
import { isRuleKind, ruleKinds, type RuleChange, type RuleKindName } from '../rules';

/** What a rule of each kind must be. */
export const ruleSchemas: Record<RuleKindName, z.ZodType> = {
  tag: tagRuleSchema,
  naming: namingSchema,
  channel: channelRuleSchema,
  source: sourceRuleSchema,
  referrer: referrerRuleSchema,
  alias: aliasSchema,
  outcome_codes: outcomeCodeRuleSchema,
  making_steps: makingStepsSchema,
  keep: keepRuleSchema.pick({ touchDays: true, touchAge: true, utmLowerCase: true }).extend({
    setBy: keepRuleSchema.shape.setBy.unwrap(),
  }),
  kept_value: valueRuleSchema,
  swap: swapTableSchema,
  elsewhere: elsewhereSchema,
  no_customer: noCustomerRuleSchema,
  click_id: clickIdRuleSchema,
  carry: carryRuleSchema,
  tag_carry: tagCarrySchema,
  visit: touchRuleSchema,
  consent: captureRulesSchema.shape.consent,
  pii: captureRulesSchema.shape.pii.unwrap(),
  fill: fillRuleSchema,
  followed_form: captureRulesSchema.shape.forms.element,
  order: orderRuleSchema,
  call_code: callCodeRuleSchema,
  reading: readingRuleSchema,
  event: eventRuleSchema,
  wire: wireRuleSchema,
  presses: eventRulesSchema.pick({ presses: true }),
  platform: ownPlatformSchema,
  own_crm: ownCrmSchema,
  crm: crmRuleSchema,
  crm_write: crmWriteRuleSchema,
  outcome: outcomeRuleSchema,
  telling: tellingRuleSchema,
  ladder: ladderRuleSchema,
  goal: goalRuleSchema,
  qualified: qualifiedRuleSchema,
};

const ruleName = {
  kind: z.enum(Object.keys(ruleKinds) as [RuleKindName], 'must be a kind of rule'),
  id: z.string().max(250),
};

/**
 * Changes of the draft: each names a rule and gives its new value, or null to take it out; `from`, where it is given, is
 * the rule that was changed, null where there was none.
 */
export const changesSchema = z.strictObject({
  changes: z
    .array(z.strictObject({ ...ruleName, value: z.unknown(), from: z.unknown().optional() }))
    .min(1)
    .max(500, 'must be at most 500 at a time'),
});

/** Changes with their values as their kinds' schemas have them. @throws AVX_FIELD_WRONG */
export const readChanges = (changes: RuleChange[]): RuleChange[] =>
  changes.map((change) =>
    change.value === null
      ? change
      : { ...change, value: readAs(ruleSchemas[change.kind], change.value, 'Fix it and send it again.') },
  );

/** Of rules that are being written, those that could be put into a draft as they are. */
export const readEditing = (written: { kind: string; id: string; value: unknown }[]): RuleChange[] =>
  written.flatMap(({ kind, id, value }) => {
    if (!isRuleKind(kind)) return [];
    const read = ruleSchemas[kind].safeParse(value);
    return read.success ? [{ kind, id, value: read.data }] : [];
  });

/** Rules whose change is dropped; without any, all are. */
export const dropSchema = z.strictObject({ rules: z.array(z.strictObject(ruleName)).max(500) });

export const newReleaseSchema = z.strictObject({
  name: z.string().trim().min(1, 'must say what the release is called').max(120, 'must have at most 120 characters'),
  /** The draft as it was seen: a change made since is not taken along unseen. */
  seen: z
    .array(z.strictObject({ ...ruleName, changedAt: z.iso.datetime() }))
    .min(1)
    .max(5000),
  /** Why it goes live although saved rehearsals fail, which only an owner may say; '' where none may fail. */
  overrule: z.string().trim().max(200, 'must have at most 200 characters').default(''),
});
export type NewReleaseWanted = z.infer<typeof newReleaseSchema>;

/** The release that is taken back. */
export const takeBackSchema = z.strictObject({ number: z.number().int().min(1, 'must be the number of a release') });

/** Which page of the history: releases with numbers below this one. */
export const historyQuerySchema = z.object({ before: z.coerce.number().int().min(1).optional() });
