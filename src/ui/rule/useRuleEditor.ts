import { useState } from 'react';
import { ruleKind, type RuleChange, type RuleKindName, type RuleName, type RuleOf } from '../../core/rules';
import { sameRule } from '../../core/rules/same';
import { useDraft } from './useDraft';

/**
 * A rule as it is being written on the screen, against the draft's form of it. What somebody is writing stays when the
 * draft changes beneath it; whose change it would take away is asked when it is put there.
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
  /** The draft's form that is being changed. */
  const [base, setBase] = useState(stored);
  const isChanged = !sameRule(rule, base ?? start);
  if (!sameRule(stored, base) && (!isChanged || sameRule(rule, stored))) {
    setBase(stored);
    setRule(stored ?? start);
  }
  const draft = useDraft(business);
  const name = { kind, id: ruleKind(kind).at.idOf(rule) };
  const change: RuleChange = { ...name, value: rule };
  const put = (from: unknown, onDone?: () => void) =>
    draft.put.mutate([{ ...change, from }], { onSuccess: () => onDone?.() });
  const [conflict = null] = draft.conflicts;
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
      warnings: draft.warnings,
      /** Whether the draft has it otherwise than when this began. */
      isChangedMeanwhile: !sameRule(stored, base),
      conflict,
      onPut: (onDone?: () => void) => put(base, onDone),
      /** Mine in place of theirs. */
      onPutOver: (onDone?: () => void) => put(conflict!.theirs, onDone),
      /** Theirs in place of mine. */
      onTakeTheirs() {
        const theirs = (conflict?.theirs ?? stored) as RuleOf<Kind> | null;
        setBase(theirs);
        setRule(theirs ?? start);
        draft.put.reset();
      },
      onBack() {
        setBase(stored);
        setRule(stored ?? start);
        draft.put.reset();
      },
      onDrop: () => draft.drop.mutate([name]),
    },
  };
}
