import type { ReactNode } from 'react';
import { freezingPlatforms, placeholdersIn, type LinkProblem, type Placeholder } from '../../core/links';
import type { LinkContract } from '../../core/platforms/contract';
import type { TagRule } from '../../core/plan';
import { Combobox, isChoosing, type Choice } from '../../ui/pick/Combobox';
import { Words } from '../../ui/text/Words';
import { underline } from './underlines';

/** One tag of a link: picked from the plan or typed, with what is wrong and the repair beside it. */
export function TagField({
  rule,
  index,
  value,
  choices,
  fixedBy,
  beneath,
  offered,
  platforms,
  problems,
  onChange,
}: {
  rule: TagRule;
  /** Its place among the tags, for the shape of its line. */
  index: number;
  value: string;
  /** What there is to pick from. */
  choices: readonly Choice[];
  /** Whose source prescribes its value; '' where it is free. */
  fixedBy: string;
  beneath?: ReactNode;
  /** Placeholders of the platforms there are accounts of. */
  offered: Placeholder[];
  platforms: readonly LinkContract[];
  problems: LinkProblem[];
  onChange: (value: string) => void;
}) {
  const id = `tag-${rule.tag}`;
  const filled = placeholdersIn(value, platforms);
  const frozen = freezingPlatforms(value, platforms);
  return (
    <div className="group border-base-300 border-b py-2 last:border-0">
      <div className="grid grid-cols-[150px_1fr] items-baseline gap-3">
        <label htmlFor={id}>
          <span className={`font-semibold ${underline(index)}`}>{rule.name}</span>
          {rule.required && <span className="text-quiet text-[12px]"> needed</span>}
          <code className="value text-quiet block text-[11.5px]">{rule.tag}</code>
        </label>
        <div className="min-w-0">
          {/* Enter takes the repair, Tab leaves what was typed. */}
          <div
            onKeyDownCapture={(event) => {
              const repaired = problems.find((problem) => problem.repaired)?.repaired;
              if (event.key !== 'Enter' || !repaired || isChoosing(event.target)) return;
              event.preventDefault();
              onChange(repaired);
            }}
          >
            <Combobox
              label={rule.name}
              id={id}
              value={value}
              choices={choices}
              disabled={fixedBy !== '' && problems.length === 0}
              placeholder={rule.example || (rule.entry === 'picked' ? 'pick one' : '')}
              isInvalid={problems.length > 0}
              describedBy={`${id}-wrong`}
              onChange={onChange}
            />
          </div>
          <div id={`${id}-wrong`} className="text-[12.5px]">
            {fixedBy !== '' && problems.length === 0 && <p className="text-quiet mt-1">Always so for {fixedBy}.</p>}
            {problems.map((problem) => (
              <p key={problem.code + problem.words} className="text-error mt-1">
                <Words text={problem.words} />{' '}
                {problem.repaired && (
                  <button
                    type="button"
                    className="quiet-link text-base-content cursor-pointer"
                    onClick={() => onChange(problem.repaired!)}
                  >
                    Use <code className="value">{problem.repaired}</code>
                  </button>
                )}
              </p>
            ))}
            {filled.length > 0 && (
              <p className="text-quiet mt-1">
                {filled.map(({ words }) => words).join(', ')}, filled in at each click.
                {frozen.length > 0 &&
                  ` ${frozen.join(' and ')} keeps the name an ad had when it was first published, also when it is renamed.`}
              </p>
            )}
            {beneath}
            {offered.length > 0 && (rule.entry === 'typed' || rule.named) && filled.length === 0 && (
              <details className="text-quiet mt-1 hidden group-focus-within:block">
                <summary className="w-fit cursor-pointer">Let the platform fill it in</summary>
                <span className="mt-1 flex flex-wrap gap-1.5">
                  {offered.map(({ platform, text, words }) => (
                    <button
                      key={platform + text}
                      type="button"
                      className="border-base-300 hover:bg-base-200 text-base-content cursor-pointer rounded border px-1.5"
                      title={`${platform}: ${text}`}
                      onClick={() => onChange(value + text)}
                    >
                      {words}
                    </button>
                  ))}
                </span>
              </details>
            )}
          </div>
        </div>
      </div>
    </div>
  );
}
