import { useState } from 'react';
import type { RuleChange, RuleName } from '../../core/releases/rules';
import { useDraft } from './useDraft';

/**
 * A rule as it is being written on the screen, against the draft's form of it.
 *
 * @param stored as the draft has it; null where it is new
 * @param start what a new one begins with
 * @param changed the draft's rules that are not as they are live
 */
export function useRuleEditor<Rule>({
  business,
  nameOf,
  stored,
  start,
  changed,
}: {
  business: string;
  nameOf: (rule: Rule) => RuleName;
  stored: Rule | null;
  start: Rule;
  changed: RuleName[];
}) {
  const [rule, setRule] = useState(stored ?? start);
  const draft = useDraft(business);
  const name = nameOf(rule);
  const change: RuleChange = { ...name, value: rule };
  const isChanged = JSON.stringify(rule) !== JSON.stringify(stored ?? start);
  return {
    rule,
    setRule,
    edit: (part: Partial<Rule>) => setRule((before) => ({ ...before, ...part })),
    change,
    isChanged,
    /** What the bar beneath the rule shows and does. */
    bar: {
      business,
      changed: isChanged || stored === null,
      inDraft: changed.some(({ kind, id }) => kind === name.kind && id === name.id),
      busy: draft.put.isPending || draft.drop.isPending,
      wrong: draft.wrong,
      problem: draft.problem,
      onPut: (onDone?: () => void) => draft.put.mutate([change], { onSuccess: () => onDone?.() }),
      onBack: () => setRule(stored ?? start),
      onDrop: () => draft.drop.mutate([name]),
    },
  };
}
