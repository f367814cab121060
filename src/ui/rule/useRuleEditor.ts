import { useEffect, useState } from 'react';
import { ruleKind, type ChangedRule, type RuleChange, type RuleKindName, type RuleOf } from '../../core/rules';
import { sameRule } from '../../core/rules/same';
import { keepWritten, readWritten } from '../form/written';
import { sayEditing } from './editing';
import { useDraft } from './useDraft';

export type RuleEditor<Kind extends RuleKindName> = ReturnType<typeof useRuleEditor<Kind>>;

/** A rule as it is written on the screen, and the draft's form of it that is being changed. */
interface Written<Rule> {
  rule: Rule;
  base: Rule | null;
}

/**
 * A rule as it is being written on the screen, against the draft's form of it. What somebody is writing stays when the
 * draft changes beneath it, when another rule is opened, and when the page is left and opened again in this tab; whose
 * change it would take away is asked when it is put there.
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
  changed: ChangedRule[];
}) {
  const [rule, setRule] = useState<RuleOf<Kind>>(stored ?? start);
  /** The draft's form that is being changed. */
  const [base, setBase] = useState(stored);
  const isChanged = !sameRule(rule, base ?? start);
  if (!sameRule(stored, base) && (!isChanged || sameRule(rule, stored))) {
    setBase(stored);
    setRule(stored ?? start);
  }
  // A new one that begins otherwise is another one.
  const place = `${business} ${kind} ${stored ? ruleKind(kind).at.idOf(stored) : `new ${JSON.stringify(start)}`}`;
  useEffect(() => {
    const written = readWritten<Written<RuleOf<Kind>>>(place);
    if (!written) return;
    setBase(written.base);
    setRule(written.rule);
  }, [place]);
  const written = isChanged ? JSON.stringify({ rule, base }) : '';
  const [isRead, setRead] = useState(false);
  useEffect(() => {
    // The first time it is what was drawn, before what was written is read.
    if (isRead) keepWritten(place, written ? JSON.parse(written) : null);
    setRead(true);
  }, [place, written, isRead]);
  const draft = useDraft(business);
  const name = { kind, id: ruleKind(kind).at.idOf(rule) };
  const change: RuleChange = { ...name, value: rule };
  const changeNow = isChanged ? JSON.stringify(change) : '';
  useEffect(() => {
    sayEditing(place, changeNow ? (JSON.parse(changeNow) as RuleChange) : null);
    return () => sayEditing(place, null);
  }, [place, changeNow]);
  const inDraft = changed.find((one) => one.kind === kind && one.id === name.id);
  const put = (from: unknown, onDone?: () => void) =>
    draft.put.mutate([{ ...change, from }], {
      onSuccess() {
        keepWritten(place, null);
        onDone?.();
      },
    });
  const [conflict = null] = draft.conflicts;
  return {
    rule,
    setRule,
    edit: (part: Partial<RuleOf<Kind>>) => setRule((before) => ({ ...(before as object), ...part }) as RuleOf<Kind>),
    change,
    isChanged,
    /** Whether it is not in the draft yet, and may still be named. */
    isNew: stored === null,
    /** What the bar beneath the rule shows and does. */
    bar: {
      business,
      kind: kind as RuleKindName,
      changed: isChanged || stored === null,
      inDraft: inDraft !== undefined,
      busy: draft.put.isPending || draft.drop.isPending,
      wrong: draft.wrong,
      problem: draft.problem,
      warnings: draft.warnings,
      /** Who changed the draft's form since this began; '' where nobody did. */
      meanwhileBy: sameRule(stored, base) ? '' : (inDraft?.by ?? 'Somebody'),
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
