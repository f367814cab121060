import { useState } from 'react';
import { checkOutcomeCode, type OutcomeCodeRule } from '../../core/plan';
import type { TagsView } from '../../core/plan/view';
import { DraftBar } from '../../ui/rule/DraftBar';
import { NumberPart } from '../../ui/rule/parts';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';

const writeBeginnings = ({ beginnings }: OutcomeCodeRule): string =>
  beginnings.map(({ code, label }) => `${code} ${label}`.trim()).join(', ');

/** What outcome codes look like: a short beginning for each line of business, a hyphen, and what happened. */
export function OutcomeCodes({ business, view }: { business: string; view: TagsView }) {
  const stored = view.plan.outcomeCodes;
  const { rule, setRule, bar } = useRuleEditor<OutcomeCodeRule>({
    ...{ business, stored, start: stored, changed: view.changed },
    nameOf: () => ({ kind: 'outcome_codes', id: '' }),
  });
  const [text, setText] = useState(() => writeBeginnings(stored));
  const disabled = !view.mayChange;
  const example = rule.beginnings[0] ? `${rule.beginnings[0].code}-${'QUAL'.slice(0, rule.longest)}` : '';
  return (
    <section className="sheet mt-4 xl:mr-[326px]" aria-label="Outcome codes">
      <div className="px-5 py-4">
        <h2 className="text-base">Outcome codes</h2>
        <p className="mt-1 text-[17px] leading-[1.9]">
          An outcome’s code is one of the beginnings, a hyphen, and what happened in 2 to{' '}
          <NumberPart
            label="Most letters of what happened"
            value={rule.longest}
            disabled={disabled}
            onChange={(longest) => setRule({ ...rule, longest })}
          />{' '}
          capital letters{example && ', such as '}
          {example && <code className="value text-[0.86em]">{example}</code>}. Its version and its words stand beside
          it.
        </p>
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
          <span className="text-quiet block text-[12.5px]">Beginnings, each with what it stands for</span>
          <input
            className="field value mt-0.5 w-full"
            value={text}
            disabled={disabled}
            placeholder="FLT Fleet, SHP Shop"
            spellCheck={false}
            onChange={(event) => {
              setText(event.target.value);
              const beginnings = event.target.value
                .split(',')
                .map((one) => one.trim().split(/\s+/))
                .flatMap(([code = '', ...label]) => (code ? [{ code, label: label.join(' ') }] : []));
              setRule({ ...rule, beginnings });
            }}
          />
        </label>
      </div>
      {view.mayChange && (
        <DraftBar
          {...bar}
          onPut={() => bar.onPut()}
          onBack={() => {
            bar.onBack();
            setText(writeBeginnings(stored));
          }}
        />
      )}
    </section>
  );
}
