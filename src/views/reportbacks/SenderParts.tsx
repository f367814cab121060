import type { NoticeMeans } from '../../core/outcomes/notices';
import type { SenderGiven } from '../../core/outcomes/notices/schema';
import type { SenderSetUpView } from '../../core/outcomes/notices/view';
import { count } from '../../core/strands';
import { Cell, Part, Select } from '../../ui/form/rows';
import { Words } from '../../ui/text/Words';

export interface SenderPartProps {
  view: SenderSetUpView;
  given: SenderGiven;
  set: (part: Partial<SenderGiven>) => void;
  disabled: boolean;
}

const meansWords: Record<NoticeMeans, string> = {
  happens: 'happened: outcomes can be reached by it',
  refund: 'a refund',
  chargeback: 'a chargeback',
  nothing: 'nothing that counts',
};

/** What each step that it posts means. */
export function SenderSteps({ view, given, set, disabled }: SenderPartProps) {
  const change = (at: number, part: Partial<SenderGiven['steps'][number]>) =>
    set({ steps: given.steps.map((one, i) => (i === at ? { ...one, ...part } : one)) });
  const unknown = view.steps.filter(({ says }) => !given.steps.some((one) => one.says === says));
  const countOf = new Map(view.steps.map(({ says, count: n }) => [says, n]));
  return (
    <Part
      heading="What its steps mean"
      under="A step that nobody explained waits, and counts once you say what it means."
    >
      <ul className="flex flex-col gap-2">
        {given.steps.map(({ says, means }, at) => (
          <li key={at} className="flex flex-wrap items-center gap-2">
            <Cell
              label={`Step ${at + 1}`}
              className="w-44"
              value={says}
              disabled={disabled}
              placeholder="refund"
              onChange={(text) => change(at, { says: text })}
            />
            <span>means</span>
            <Select
              label={`What step ${at + 1} means`}
              className="w-auto"
              value={means}
              disabled={disabled}
              onChange={(value) => change(at, { means: value })}
              options={Object.entries(meansWords) as [NoticeMeans, string][]}
            />
            {view.mayChange && (
              <button
                type="button"
                className="quiet-link cursor-pointer"
                aria-label={`Take out ${says || `step ${at + 1}`}`}
                onClick={() => set({ steps: given.steps.filter((_one, i) => i !== at) })}
              >
                Take out
              </button>
            )}
            {countOf.has(says) && <span className="text-quiet text-[13px]">posted {count(countOf.get(says)!)}</span>}
          </li>
        ))}
        {unknown.map(({ says, count: n }) => (
          <li key={says} className="flex flex-wrap items-center gap-2">
            <span className="text-error">
              <Words text={`\`${says}\``} /> was posted {count(n)}, and nobody said what it means.
            </span>
            {view.mayChange && (
              <button
                type="button"
                className="button"
                onClick={() => set({ steps: [...given.steps, { says, means: 'happens' }] })}
              >
                Explain {says}
              </button>
            )}
          </li>
        ))}
      </ul>
      {view.mayChange && (
        <button
          type="button"
          className="quiet-link mt-2 cursor-pointer"
          onClick={() => set({ steps: [...given.steps, { says: '', means: 'happens' }] })}
        >
          Add a step
        </button>
      )}
    </Part>
  );
}
