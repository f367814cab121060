import { spanWords } from '../../core/evidence';
import { drawFunnel } from '../../core/results/funnel-drawing';
import type { FunnelBehind, FunnelStepView, FunnelView } from '../../core/results/funnel-view';
import { shareWords } from '../../core/results/funnel-words';
import { count } from '../../core/strands';
import { Words } from '../../ui/text/Words';

const width = 560;
const height = 46;

/** The steps of a funnel, each with its strands: as long as it is of the first, frayed where the others went instead. */
export function FunnelFigure({
  view,
  skips,
  behind,
  onSkip,
}: {
  view: FunnelView;
  /** Whether each step may be skipped, as it is asked for now. */
  skips: readonly boolean[];
  /** Where a figure's journeys open. */
  behind: (step: number, end: FunnelBehind['end']) => string;
  onSkip: (step: number, skip: boolean) => void;
}) {
  const drawn = drawFunnel(view.steps, width, height);
  return (
    <ol className="sheet px-5 py-2" aria-label="Steps">
      {view.steps.map((step, i) => {
        const { through, lost, frays, open } = drawn[i]!;
        const isBetween = i > 0 && i < view.steps.length - 1;
        return (
          <li
            key={i}
            className="border-base-300 grid grid-cols-[minmax(0,1fr)_560px_88px] items-center gap-x-5 border-b py-2.5 last:border-b-0"
          >
            <div>
              <p className="first-letter:uppercase">
                <Words text={step.words} />
              </p>
              <p className="text-quiet text-[12.5px]">
                {step.median !== null && `half within ${spanWords(step.median)}`}
                {isBetween && (
                  <label className="ml-2 inline-flex items-center gap-1.5 whitespace-nowrap">
                    <input
                      type="checkbox"
                      className="checkbox checkbox-xs"
                      checked={skips[i] ?? false}
                      onChange={({ target }) => onSkip(i, target.checked)}
                    />
                    may be skipped
                  </label>
                )}
              </p>
            </div>
            <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} aria-hidden className="max-w-full">
              <path d={through} className="stroke-base-content" strokeWidth="2.8" fill="none" />
              <path d={through} className="stroke-[#e8b53c]" strokeWidth="1.5" fill="none" />
              <path d={open} className="stroke-quiet" strokeDasharray="2 3" strokeWidth="1.5" fill="none" />
              <path d={lost} className="stroke-quiet" strokeWidth="1" fill="none" opacity="0.7" />
              <path d={frays} className="stroke-error" strokeWidth="1.5" fill="none" />
            </svg>
            <div className="text-right">
              <a href={behind(i, 'made')} className="value text-[19px] font-semibold hover:underline">
                {count(step.made)}
              </a>
              <span className="text-quiet block text-[12.5px]">{shareWords(step.share)}</span>
            </div>
            {(step.lost > 0 || step.open > 0) && (
              <p className="text-quiet col-span-3 text-[13px]">
                <Gone step={step} href={(end) => behind(i, end)} />
              </p>
            )}
          </li>
        );
      })}
    </ol>
  );
}

/** What became of those that did not come to a step. */
function Gone({ step, href }: { step: FunnelStepView; href: (end: FunnelBehind['end']) => string }) {
  const { lost, open, left, instead, elsewhere } = step;
  return (
    <>
      {lost > 0 && (
        <>
          <a href={href('lost')} className="value text-error font-semibold hover:underline">
            −{count(lost)}
          </a>
          {' went elsewhere: '}
          {left > 0 && `${count(left)} opened nothing more`}
          {instead.map(({ page, count: many }, i) => (
            <span key={page}>
              {(i > 0 || left > 0) && ', '}
              {count(many)} opened <code className="value">{page.slice(page.indexOf('/'))}</code>
            </span>
          ))}
          {elsewhere > 0 && `, ${count(elsewhere)} other pages`}.{' '}
        </>
      )}
      {open > 0 && (
        <a href={href('open')} className="quiet-link">
          {count(open)} may still come to it
        </a>
      )}
    </>
  );
}
