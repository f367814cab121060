import { useEffect, type ReactNode } from 'react';
import { ruleKinds, type ChangedRule, type RuleChange, type RuleKindName, type RuleOf } from '../../core/rules';
import type { Beside } from '../../core/rules/says';
import { DraftBar } from './DraftBar';
import { RuleSentence } from './RuleSentence';
import { TakeOut } from './TakeOut';
import { useRuleEditor } from './useRuleEditor';

/** A rule on a sheet of its own: its sentence, and once it is changed what can be done with it. */
export function RuleSheet<Kind extends RuleKindName>({
  kind,
  label,
  business,
  stored,
  start,
  view,
  beside,
  onWritten,
  onKept,
  children,
}: {
  kind: Kind;
  label: string;
  business: string;
  /** As the draft has it; null where it is new. */
  stored: RuleOf<Kind> | null;
  /** What a new one begins with. */
  start?: RuleOf<Kind>;
  view: { changed: ChangedRule[]; mayChange: boolean };
  beside: Beside;
  /** What is written here, for the effect beside it. */
  onWritten?: (change: RuleChange) => void;
  /** A new one is in the draft, and stands among the others from then on. */
  onKept?: () => void;
  /** What stands beneath the sentence. */
  children?: (rule: RuleOf<Kind>, setRule: (rule: RuleOf<Kind>) => void) => ReactNode;
}) {
  const { rule, setRule, change, isChanged, bar } = useRuleEditor<Kind>({
    business,
    kind,
    stored,
    changed: view.changed,
    start: (start ?? stored)!,
  });
  const text = JSON.stringify(change);
  useEffect(() => {
    if (isChanged) onWritten?.(JSON.parse(text) as RuleChange);
    // It is told what is written, not that whoever hears of it was drawn anew.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text, isChanged]);
  return (
    <section className="sheet" aria-label={label}>
      <RuleSentence
        kind={kind}
        rule={rule}
        onEdit={setRule}
        beside={beside}
        disabled={!view.mayChange}
        isNew={stored === null}
      />
      {children?.(rule, setRule)}
      {view.mayChange && (bar.changed || bar.inDraft) && <DraftBar {...bar} {...(onKept ? { onDone: onKept } : {})} />}
      {view.mayChange && stored !== null && !ruleKinds[kind].at.isOne && (
        <TakeOut business={business} name={{ kind, id: change.id }} />
      )}
    </section>
  );
}
