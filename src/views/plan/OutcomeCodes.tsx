import { useState } from 'react';
import { checkOutcomeCode, type OutcomeCodeRule } from '../../core/plan';
import type { TagsView } from '../../core/plan/view';
import { sameRule } from '../../core/rules/same';
import { DraftBar } from '../../ui/rule/DraftBar';
import { RuleSentence } from '../../ui/rule/RuleSentence';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';

const writeBeginnings = ({ beginnings }: OutcomeCodeRule): string =>
  beginnings.map(({ code, label }) => `${code} ${label}`.trim()).join(', ');

const beginningsIn = (text: string): OutcomeCodeRule['beginnings'] =>
  text
    .split(',')
    .map((one) => one.trim().split(/\s+/))
    .flatMap(([code = '', ...label]) => (code ? [{ code, label: label.join(' ') }] : []));

/** What outcome codes look like: a short beginning for each line of business, a hyphen, and what happened. */
export function OutcomeCodes({ business, view }: { business: string; view: TagsView }) {
  const stored = view.plan.outcomeCodes;
  const { rule, setRule, bar } = useRuleEditor({
    business,
    kind: 'outcome_codes' as const,
    stored,
    start: stored,
    changed: view.changed,
  });
  const [text, setText] = useState(() => writeBeginnings(stored));
  // What came from elsewhere, such as Undo, takes the place of what was typed.
  const shown = sameRule(beginningsIn(text), rule.beginnings) ? text : writeBeginnings(rule);
  const disabled = !view.mayChange;
  return (
    <section className="sheet mt-4 xl:mr-[326px]" aria-label="Outcome codes">
      <div className="px-5 py-4">
        <h2 className="text-base">Outcome codes</h2>
        <RuleSentence
          className="mt-1 text-[17px] leading-[1.9]"
          kind="outcome_codes"
          rule={rule}
          onEdit={setRule}
          beside={{}}
          disabled={disabled}
        />
        <p className="mt-1">
          In use:{' '}
          {view.outcomes.map((code, index) => {
            const wrong = checkOutcomeCode(rule, code);
            return (
              <span key={code}>
                {index > 0 && ', '}
                <code className="value">{code}</code>
                {wrong && <span className="text-error"> does not fit: {wrong}</span>}
              </span>
            );
          })}
          .
        </p>
        <label className="mt-2 block">
          <span className="text-quiet block text-[12.5px]">Beginnings, each with its meaning</span>
          <input
            className="field value mt-0.5 w-full"
            value={shown}
            disabled={disabled}
            placeholder="FLT Fleet, SHP Shop"
            spellCheck={false}
            onChange={(event) => {
              setText(event.target.value);
              setRule({ ...rule, beginnings: beginningsIn(event.target.value) });
            }}
          />
        </label>
      </div>
      {view.mayChange && <DraftBar {...bar} />}
    </section>
  );
}
