import type { ShareView } from '../../core/plan/view';
import { useFocusFirst } from '../../ui/form/useFocusFirst';
import { DraftBar } from '../../ui/rule/DraftBar';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';

/** The business's own steps of making a campaign, a line each. */
export function StepsEditor({ business, view, onDone }: { business: string; view: ShareView; onDone: () => void }) {
  const stored = view.plan.making;
  const { rule, edit, bar } = useRuleEditor({
    business,
    kind: 'making_steps' as const,
    stored,
    start: stored,
    changed: view.changed,
  });
  const first = useFocusFirst<HTMLElement>(true);
  return (
    <section ref={first} className="sheet mb-4 print:hidden" aria-label="Steps of making a campaign">
      <label className="block px-5 pt-4">
        <span className="font-semibold">How a campaign is made, a step on each line</span>
        <textarea
          className="field mt-2 w-full"
          rows={Math.max(6, rule.steps.length + 1)}
          value={rule.steps.join('\n')}
          onChange={({ target }) => edit({ steps: target.value.split('\n') })}
          onBlur={() => edit({ steps: rule.steps.map((step) => step.trim()).filter(Boolean) })}
        />
      </label>
      <DraftBar {...bar} onDone={onDone} />
      <p className="px-5 pb-4">
        <button type="button" className="button" onClick={onDone}>
          Close
        </button>
      </p>
    </section>
  );
}
