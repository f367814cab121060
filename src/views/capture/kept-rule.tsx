import { useEffect } from 'react';
import type { KeptView } from '../../core/capture/station-view';
import type { RuleChange, RuleName } from '../../core/releases/rules';
import { DraftBar } from '../../ui/rule/DraftBar';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';

export interface EditorProps<Rule> {
  business: string;
  view: KeptView;
  rule: Rule;
  /** What is written here, for the effect beside it. */
  onWritten: (change: RuleChange) => void;
}

/** A rule on the screen; what is written is told as it changes. */
export function useKeptRule<Rule>(
  { business, view, rule, onWritten }: EditorProps<Rule>,
  name: RuleName,
  isNew = false,
) {
  const editor = useRuleEditor<Rule>({
    ...{ business, stored: isNew ? null : rule, start: rule, changed: view.changed, nameOf: () => name },
  });
  const text = JSON.stringify(editor.rule);
  const { isChanged } = editor;
  useEffect(() => {
    if (isChanged) onWritten({ ...name, value: JSON.parse(text) as unknown });
    // Its name does not change while it stands here.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [text, isChanged]);
  return { ...editor, disabled: !view.mayChange };
}

/** How a rule's sentence stands on its sheet. */
export const sentence = 'px-5 py-4 text-[17px] leading-[1.9]';

/** What can be done with a rule; nothing while it stands as it is live. */
export function KeptBar({ bar, mayChange }: { bar: ReturnType<typeof useKeptRule>['bar']; mayChange: boolean }) {
  return mayChange && (bar.changed || bar.inDraft) ? <DraftBar {...bar} onPut={() => bar.onPut()} /> : null;
}

/** Values written with commas or spaces between them. */
export const wordsIn = (text: string) => text.split(/[\s,]+/).filter(Boolean);
