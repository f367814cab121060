import { X } from 'lucide-react';
import { useState } from 'react';
import { callPart, keyFor } from '../../core/plan/name-pattern';
import { checkNaming, type NamePart, type Naming } from '../../core/plan';
import { ruleSentence } from '../../core/rules';
import { sameRule } from '../../core/rules/same';
import type { EffectView, TagsView } from '../../core/plan/view';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { ChoicePart, NumberPart, TextPart } from '../../ui/rule/parts';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { Words } from '../../ui/text/Words';
import { Effect } from './Effect';
import { NameTrial } from './NameTrial';
import { OutcomeCodes } from './OutcomeCodes';
import { PatternEditor } from './PatternEditor';
import { PlanFrame } from './PlanFrame';
import { quoteValue } from '../../core/quote-value';

interface Props {
  business: string;
  initial: TagsView;
}

const kinds = [
  ['listed', 'one of'],
  ['digits', 'digits'],
  ['word', 'one word'],
  ['words', 'words with hyphens'],
] as const;

/** How campaign names are put together, with names built and read back on the spot. */
export function NamesPage(props: Props) {
  return (
    <Live>
      <Names {...props} />
    </Live>
  );
}

function Names({ business, initial }: Props) {
  const api = `/api/b/${business}/plan/tags`;
  const view = useView(api, initial);
  const { naming } = view.plan;
  return (
    <PlanFrame business={business} section="Campaign names" sentence={sentenceOf(naming)} offPlan={view.offPlan}>
      <NamingEditor business={business} view={view} />
      <OutcomeCodes business={business} view={view} />
    </PlanFrame>
  );
}

const sentenceOf = (naming: Naming) => ({
  title: naming.pattern ? 'Campaign names are put together from parts.' : 'Campaign names have no parts yet.',
  under: naming.pattern
    ? ruleSentence('naming', naming)!
    : 'Name the parts, such as market and quarter; a name is then picked, and any name can be read back.',
});

function NamingEditor({ business, view }: { business: string; view: TagsView }) {
  const stored = view.plan.naming;
  const {
    rule: naming,
    setRule: setNaming,
    change,
    isChanged,
    bar,
  } = useRuleEditor({
    business,
    kind: 'naming' as const,
    stored,
    start: stored,
    changed: view.changed,
  });
  const problems = checkNaming(naming);
  const { data: effect } = useEffectOf<EffectView>(
    `/api/b/${business}/plan/effect`,
    problems.length === 0 ? [change] : [],
  );
  const setPart = (index: number, part: Partial<NamePart>) =>
    setNaming({ ...naming, parts: naming.parts.map((one, i) => (i === index ? { ...one, ...part } : one)) });
  const disabled = !view.mayChange;
  return (
    <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_310px]">
      <div className="flex min-w-0 flex-col gap-4">
        <section className="sheet" aria-label="The rule">
          <PatternEditor naming={naming} disabled={disabled} onEdit={(pattern) => setNaming({ ...naming, pattern })} />
          {problems.map(({ was, fix }) => (
            <p key={was} role="alert" className="text-error -mt-2 px-5 pb-3">
              {was.charAt(0).toUpperCase() + was.slice(1)}. {fix}
            </p>
          ))}
          <table className="rows border-base-300 border-t [&_td:first-child]:pl-5 [&_th:first-child]:pl-5">
            <thead>
              <tr>
                <th scope="col">Part</th>
                <th scope="col">Is</th>
                <th scope="col">Values</th>
                <th>
                  <span className="sr-only">Take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {naming.parts.map((part, index) => (
                <tr key={index}>
                  <td>
                    <TextPart
                      label="Part"
                      isValue={false}
                      value={part.label}
                      disabled={disabled}
                      onChange={(label) => setNaming(callPart(naming, index, label, stored))}
                    />
                  </td>
                  <td className="whitespace-nowrap">
                    {part.kind === 'digits' && (
                      <>
                        <NumberPart
                          label="How many digits"
                          value={part.digits}
                          disabled={disabled}
                          onChange={(digits) => setPart(index, { digits: Math.max(1, Math.min(8, digits)) })}
                        />{' '}
                      </>
                    )}
                    <ChoicePart
                      label="Kind of part"
                      value={part.kind}
                      options={kinds}
                      disabled={disabled}
                      onChange={(kind) => setPart(index, { kind })}
                    />
                  </td>
                  <td>
                    {part.kind === 'listed' && (
                      <PartValues part={part} disabled={disabled} onEdit={(values) => setPart(index, { values })} />
                    )}
                  </td>
                  <td className="w-10 pl-0!">
                    {!disabled && (
                      <button
                        type="button"
                        className="hover:bg-base-200 cursor-pointer rounded p-1"
                        aria-label={`Take out ${part.label || part.key}`}
                        title="Take out"
                        onClick={() => setNaming({ ...naming, parts: naming.parts.filter((_, i) => i !== index) })}
                      >
                        <X size={15} aria-hidden />
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {!disabled && (
            <>
              <p className="px-5 py-3">
                <button
                  type="button"
                  className="button"
                  data-new
                  onClick={() =>
                    setNaming({
                      ...naming,
                      parts: [
                        ...naming.parts,
                        {
                          key: keyFor(
                            '',
                            naming.parts.map(({ key }) => key),
                          ),
                          label: '',
                          kind: 'word',
                          values: [],
                          digits: 1,
                        },
                      ],
                    })
                  }
                >
                  Add a part
                </button>
              </p>
              <DraftBar {...bar} {...(problems.length > 0 ? { wrong: [], problem: '' } : {})} />
            </>
          )}
        </section>
        {naming.pattern && problems.length === 0 && <NameTrial naming={naming} />}
      </div>
      <Effect effect={effect} changed={isChanged} weeks={view.weeks} />
    </div>
  );
}

/** Values written as `uk United Kingdom, ie Ireland`. */
const valuesIn = (text: string): NamePart['values'] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean)
    .map((one) => {
      const [value = '', ...label] = one.split(/\s+/);
      return { value, label: label.join(' ') };
    });

/** Listed values as one line: `uk United Kingdom, ie Ireland`. */
function PartValues({
  part,
  disabled,
  onEdit,
}: {
  part: NamePart;
  disabled: boolean;
  onEdit: (values: NamePart['values']) => void;
}) {
  const written = part.values.map(({ value, label }) => (label ? `${value} ${label}` : value)).join(', ');
  const [text, setText] = useState(written);
  // What came from elsewhere, such as Undo, takes the place of what was typed.
  const shown = sameRule(valuesIn(text), part.values) ? text : written;
  if (disabled) return <Words text={part.values.map(({ value }) => quoteValue(value)).join(', ')} />;
  return (
    <input
      className="border-base-300 w-full min-w-56 border-b bg-transparent"
      aria-label={`Values of ${part.label || part.key}, each with what it is called, parted by commas`}
      placeholder="uk United Kingdom, ie Ireland"
      value={shown}
      spellCheck={false}
      onChange={(event) => {
        setText(event.target.value);
        onEdit(valuesIn(event.target.value));
      }}
    />
  );
}
