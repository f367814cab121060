import { useState } from 'react';
import { ruleKind, type RuleChange, type RuleKindName, type RuleName, type RuleOf } from '../../core/rules';
import { useDraft } from './useDraft';

/**
 * A rule as it is being written on the screen, against the draft's form of it.
 *
 * @param stored as the draft has it; null where it is new
 * @param start what a new one begins with
 * @param changed the draft's rules that are not as they are live
 */
export function useRuleEditor<Kind extends RuleKindName>({
  business,
  kind,
  stored,
  start,
  changed,
}: {
  business: string;
  kind: Kind;
  stored: RuleOf<Kind> | null;
  start: RuleOf<Kind>;
  changed: RuleName[];
}) {
  const [rule, setRule] = useState<RuleOf<Kind>>(stored ?? start);
  const draft = useDraft(business);
  const name = { kind, id: ruleKind(kind).at.idOf(rule) };
  const change: RuleChange = { ...name, value: rule };
  const isChanged = JSON.stringify(rule) !== JSON.stringify(stored ?? start);
  return {
    rule,
    setRule,
    edit: (part: Partial<RuleOf<Kind>>) => setRule((before) => ({ ...(before as object), ...part }) as RuleOf<Kind>),
    change,
    isChanged,
    /** What the bar beneath the rule shows and does. */
    bar: {
      business,
      changed: isChanged || stored === null,
      inDraft: changed.some((one) => one.kind === kind && one.id === name.id),
      busy: draft.put.isPending || draft.drop.isPending,
      wrong: draft.wrong,
      problem: draft.problem,
      onPut: (onDone?: () => void) => draft.put.mutate([change], { onSuccess: () => onDone?.() }),
      onBack: () => setRule(stored ?? start),
      onDrop: () => draft.drop.mutate([name]),
    },
  };
}
