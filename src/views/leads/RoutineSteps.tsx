import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { v4 } from 'uuid';
import { freshStep, type Step } from '../../core/leads/routines/routine';
import { stepPieces } from '../../core/leads/routines/sentence';
import type { Beside } from '../../core/rules/says';
import { count } from '../../core/strands';
import { Sentence, type Offers } from '../../ui/rule/RuleSentence';

const most = 20;

/** The steps of a routine in their order, each a sentence, with how many wait for it. */
export function RoutineSteps({
  steps,
  waiting,
  onEdit,
  beside,
  disabled,
  offers,
}: {
  steps: Step[];
  waiting: Record<string, number>;
  onEdit: (steps: Step[]) => void;
  beside: Beside;
  disabled: boolean;
  offers: Offers;
}) {
  const put = (at: number, step: Step) => onEdit(steps.map((one, i) => (i === at ? step : one)));
  const move = (at: number, by: 1 | -1) => {
    const next = [...steps];
    [next[at], next[at + by]] = [next[at + by]!, next[at]!];
    onEdit(next);
  };
  const add = () => onEdit([...steps, { ...freshStep(v4()), wait: steps.length === 0 ? 'at_once' : 'working_days' }]);
  return (
    <ol className="border-base-300 border-y" aria-label="Steps">
      {steps.map((step, at) => (
        <li key={step.id} className="border-base-300 flex items-start gap-3 border-b px-5 py-1.5 last:border-b-0">
          <span className="text-quiet w-5 shrink-0 pt-[7px] text-right tabular-nums" aria-hidden>
            {at + 1}
          </span>
          <Sentence
            className="min-w-0 flex-1 text-[16px] leading-[1.9]"
            pieces={stepPieces}
            rule={step}
            onEdit={(next) => put(at, next)}
            beside={beside}
            disabled={disabled}
            offers={offers}
          />
          {(waiting[step.id] ?? 0) > 0 && (
            <span className="shrink-0 pt-[7px] text-[13px] whitespace-nowrap">
              <b className="tabular-nums">{count(waiting[step.id]!)}</b> <span className="text-quiet">next</span>
            </span>
          )}
          {!disabled && (
            <span className="flex shrink-0 pt-[5px]">
              <Turn label={`Move step ${at + 1} up`} disabled={at === 0} onClick={() => move(at, -1)}>
                <ArrowUp size={15} aria-hidden />
              </Turn>
              <Turn label={`Move step ${at + 1} down`} disabled={at === steps.length - 1} onClick={() => move(at, 1)}>
                <ArrowDown size={15} aria-hidden />
              </Turn>
              <Turn
                label={`Take step ${at + 1} out`}
                disabled={steps.length === 1}
                onClick={() => onEdit(steps.filter((_, i) => i !== at))}
              >
                <X size={15} aria-hidden />
              </Turn>
            </span>
          )}
        </li>
      ))}
      {!disabled && steps.length < most && (
        <li className="px-5 py-2 pl-13">
          <button type="button" className="quiet-link cursor-pointer" onClick={add}>
            Add a step
          </button>
        </li>
      )}
    </ol>
  );
}

function Turn({
  label,
  disabled,
  onClick,
  children,
}: {
  label: string;
  disabled: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={label}
      disabled={disabled}
      onClick={onClick}
      className="text-quiet hover:text-base-content grid size-6 cursor-pointer place-items-center rounded-[4px] disabled:cursor-default disabled:opacity-30"
    >
      {children}
    </button>
  );
}
