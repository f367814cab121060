import type { EffectView, ValueEffect } from '../../core/plan/view';
import { count, counted } from '../../core/strands';
import { EffectSheet } from '../../ui/rule/EffectSheet';

/** What a rule as it stands on the screen does to what was recorded, and to the links there are. */
export function Effect({
  effect,
  changed,
  weeks,
}: {
  effect: EffectView | undefined;
  changed: boolean;
  weeks: number;
}) {
  if (!effect) return <EffectSheet heading={null} />;
  const { off, noLongerFits, takenIn, links, recordedSince } = effect;
  if (!recordedSince)
    return (
      <EffectSheet heading="Nothing is recorded yet" under="The first tagged visit shows what this rule does.">
        <LinksPart links={links} />
      </EffectSheet>
    );
  return (
    <EffectSheet
      heading={
        off.values === 0
          ? `All that arrived in ${weeks} weeks fits`
          : `${counted(off.values, 'value', 'values')} in ${weeks} weeks off plan`
      }
      under={
        <>
          {changed ? 'As written here.' : 'As the draft has it.'}{' '}
          {off.values > 0 && `${counted(off.arrivals, 'arrival', 'arrivals')} carried them.`}
        </>
      }
    >
      <Values effect={off} />
      {noLongerFits.values > 0 && (
        <>
          <h3 className="text-error mt-4 font-semibold">
            Would no longer fit: {counted(noLongerFits.values, 'value', 'values')}, {count(noLongerFits.arrivals)}{' '}
            arrivals
          </h3>
          <Values effect={noLongerFits} />
        </>
      )}
      {takenIn.values > 0 && (
        <>
          <h3 className="mt-4 font-semibold">
            Would fit now: {counted(takenIn.values, 'value', 'values')}, {count(takenIn.arrivals)} arrivals
          </h3>
          <Values effect={takenIn} />
        </>
      )}
      <LinksPart links={links} />
    </EffectSheet>
  );
}

function LinksPart({ links }: { links: EffectView['links'] }) {
  if (links.total === 0) return <p className="text-quiet border-base-300 mt-4 border-t pt-3">No link is made yet.</p>;
  return (
    <div className="border-base-300 mt-4 border-t pt-3">
      {links.noLongerFits === 0 ? (
        <p className="text-quiet">
          {links.total === 1 ? 'The one link still fits.' : `All ${count(links.total)} links still fit.`}
        </p>
      ) : (
        <>
          <h3 className="text-error font-semibold">
            {count(links.noLongerFits)} of {counted(links.total, 'link', 'links')} would no longer fit
          </h3>
          <ul className="mt-1">
            {links.examples.map((url) => (
              <li key={url} className="border-base-300 border-b py-1.5 last:border-0">
                <code className="value text-[12px]">{url}</code>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

function Values({ effect }: { effect: ValueEffect }) {
  return (
    <ul className="mt-1">
      {effect.first.map(({ tag, value, arrivals, nearest }) => (
        <li
          key={`${tag} ${value}`}
          className="border-base-300 flex justify-between gap-3 border-b py-1.5 last:border-0"
        >
          <span className="min-w-0">
            <code className="value">{value}</code>
            {nearest && (
              <span className="text-quiet block text-[12.5px]">
                should be <code className="value">{nearest}</code>
              </span>
            )}
          </span>
          <span className="tabular-nums">{count(arrivals)}</span>
        </li>
      ))}
      {effect.values > effect.first.length && (
        <li className="text-quiet py-1.5">and {count(effect.values - effect.first.length)} more</li>
      )}
    </ul>
  );
}
