import type { UseMutationResult } from '@tanstack/react-query';
import { placeholdersIn, previewValue, readLanding, type LinkPlan, type LinkProblem } from '../../core/links';
import { Problem } from '../../ui/form/Problem';
import { Copy } from '../../ui/text/Copy';
import { Words } from '../../ui/text/Words';
import { FinishedLink } from './FinishedLink';
import { ShortOf, useShorten } from './ShortOf';

/** The finished link, the largest thing on the screen, with what can be done with it and whether it is on plan. */
export function LinkSheet({
  business,
  landing,
  link,
  plan,
  tags,
  problems,
  pasted,
  mayChange,
  save: keep,
  onClear,
}: {
  business: string;
  landing: string;
  /** '' as long as there is none. */
  link: string;
  plan: LinkPlan;
  tags: Record<string, string>;
  problems: LinkProblem[];
  /** What was wrong with the link that was pasted, apart from its tags. */
  pasted: LinkProblem[];
  mayChange: boolean;
  /** Saves the link; gives the one it saved. */
  save: UseMutationResult<string, Error, void>;
  onClear: () => void;
}) {
  const read = readLanding(landing);
  const shorten = useShorten(business, link);
  const filled = Object.values(tags).some((value) => placeholdersIn(value, plan.platforms).length > 0);
  const good = link !== '' && problems.length === 0;
  // What is wrong with a tag stands at its field; the rest has none.
  const elsewhere = problems.filter(({ tag }) => !plan.tags.some((rule) => rule.tag === tag));
  return (
    <section className="sheet min-h-32 px-6 py-5" aria-label="The link">
      {link ? (
        <div className="grid grid-cols-[1fr_auto] items-start gap-6">
          <div className="min-w-0">
            <FinishedLink link={link} plan={plan} tags={tags} />
            {filled && (
              <p className="text-quiet mt-2">
                After a click, for example: <code className="value">{previewValue(link, plan.platforms)}</code>
              </p>
            )}
            {shorten.data && <ShortOf business={business} short={shorten.data} />}
            <Problem text={shorten.problem} />
          </div>
          <div className="flex flex-col items-end gap-2">
            <Copy key={link} text={link} words="Copy" byKey />
            {mayChange && (
              <button
                type="button"
                className="button"
                disabled={keep.isPending || keep.data === link}
                onClick={() => keep.mutate()}
              >
                {keep.data === link ? 'Saved' : 'Save link'}
              </button>
            )}
            {mayChange && good && !filled && !shorten.data && (
              <button type="button" className="button" disabled={shorten.isPending} onClick={() => shorten.mutate()}>
                Shorten
              </button>
            )}
            <button type="button" className="quiet-link cursor-pointer" onClick={onClear}>
              Clear
            </button>
          </div>
        </div>
      ) : (
        <p className="text-quiet text-[19px]">
          {landing === '' || !('problem' in read)
            ? 'The link appears here as soon as it has a page.'
            : `The page: ${read.problem.was}. ${read.problem.fix}`}
        </p>
      )}
      <p className="mt-2 text-[13px]" role="status">
        {keep.error && (
          <span className="text-error">
            <Words text={keep.error.message} />
          </span>
        )}
        {!keep.error && link && (
          <span className={good ? 'text-success' : 'text-error'}>
            {good
              ? `On plan. ${link.length} characters.`
              : `${problems.length === 1 ? 'One thing is' : `${problems.length} things are`} wrong with it.`}
          </span>
        )}
      </p>
      {elsewhere.map(({ words, tag }) => (
        <p key={tag + words} className="text-error mt-1">
          <Words text={words} />
        </p>
      ))}
      {pasted.map(({ words, code }) => (
        <p key={words + code} role="alert" className="text-error mt-1">
          What you pasted: <Words text={words} />
        </p>
      ))}
    </section>
  );
}
