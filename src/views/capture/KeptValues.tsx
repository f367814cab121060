import { useState } from 'react';
import type { KeptView } from '../../core/capture/station-view';
import { keptValue } from '../../core/rules/kept-value';
import { RuleGrid } from '../../ui/rule/RuleGrid';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import { KeptTraffic } from './KeptTraffic';

interface Props {
  business: string;
  view: KeptView;
}

/** The business's own query values that are kept, as sentences or as a grid. */
export function KeptValues({ business, view }: Props) {
  const [asGrid, setAsGrid] = useState(false);
  const [adding, setAdding] = useState(false);
  const { values } = view.rules.keep;
  const beside = { capture: view.rules, platforms: view.ownPlatforms };
  const common = { business, view, beside, kind: 'kept_value' as const };
  return (
    <>
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="mr-auto text-base">
          {values.length === 0 ? 'No other query value is kept' : 'Other query values that are kept'}
        </h2>
        <button type="button" className="button" onClick={() => setAsGrid(!asGrid)}>
          {asGrid ? 'As sentences' : 'As a grid'}
        </button>
        {view.mayChange && !asGrid && (
          <button type="button" className="button" disabled={adding} onClick={() => setAdding(true)}>
            Keep another
          </button>
        )}
      </div>
      {asGrid ? (
        <RuleGrid
          business={business}
          kind="kept_value"
          label="Kept values"
          stored={values}
          beside={beside}
          disabled={!view.mayChange}
        />
      ) : (
        <>
          {values.map((rule) => (
            <RuleSheet {...common} label={`Kept value ${rule.name}`} stored={rule} key={rule.name}>
              {(written) => <KeptTraffic business={business} rule={written} view={view} />}
            </RuleSheet>
          ))}
          {adding && (
            <RuleSheet
              {...common}
              label="Kept value new"
              stored={null}
              start={keptValue.start!(beside, [])}
              onKept={() => setAdding(false)}
            >
              {(written) => <KeptTraffic business={business} rule={written} view={view} />}
            </RuleSheet>
          )}
        </>
      )}
    </>
  );
}
