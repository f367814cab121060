import { useState } from 'react';
import type { CaptureEffectView, KeptView } from '../../core/capture/station-view';
import type { RuleChange } from '../../core/releases/rules';
import { count } from '../../core/strands';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { CaptureEffect } from './CaptureEffect';
import { CaptureFrame } from './CaptureFrame';
import { CarryNames } from './CarryNames';
import { KeptValues } from './KeptValues';
import { ConsentRule, Pii } from './PrivacyRules';
import { ClickId, TouchRule, Visit } from './TouchRules';

interface Props {
  business: string;
  initial: KeptView;
}

/** What pages keep: touches, click IDs, names that carry them, own hosts, and what must not stay in addresses. */
export function KeptPage(props: Props) {
  return (
    <Live>
      <Kept {...props} />
    </Live>
  );
}

function Kept({ business, initial }: Props) {
  const view = useView(`/api/b/${business}/capture/kept`, initial);
  const [written, setWritten] = useState<RuleChange | null>(null);
  const { rules } = view;
  const { data: effect } = useEffectOf<CaptureEffectView>(
    `/api/b/${business}/capture/effect`,
    written ? [written] : [{ kind: 'visit', id: '', value: rules.touch }],
  );
  const common = { business, view, onWritten: setWritten };
  const missing = view.platforms.filter(({ kind }) => !rules.keep.clickIds.some(({ platform }) => platform === kind));
  const [adding, setAdding] = useState('');
  const added = missing.find(({ kind }) => kind === adding);
  return (
    <CaptureFrame business={business} section="Kept" view={view}>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_310px]">
        <div className="flex min-w-0 flex-col gap-4">
          <TouchRule {...common} rule={rules.keep} key={JSON.stringify(rules.keep)} />
          {rules.keep.clickIds.map((rule) => (
            <ClickId {...common} rule={rule} key={JSON.stringify(rule)} />
          ))}
          {added && (
            <ClickId
              {...common}
              isNew
              rule={{ platform: added.kind, parameter: added.parameter, days: 90, source: added.kind, medium: '' }}
            />
          )}
          {view.mayChange && missing.length > 0 && !added && (
            <p>
              {missing.map(({ kind, words }) => (
                <button key={kind} type="button" className="button mr-2" data-new onClick={() => setAdding(kind)}>
                  Keep the click ID of {words} too
                </button>
              ))}
            </p>
          )}
          <CarryNames business={business} view={view} />
          <KeptValues business={business} view={view} />
          <Visit {...common} rule={rules.touch} key={JSON.stringify(rules.touch)} />
          <ConsentRule {...common} rule={rules.consent} key={JSON.stringify(rules.consent)} />
          <Pii {...common} rule={rules.pii} key={JSON.stringify(rules.pii)} />
        </div>
        <div className="flex flex-col gap-4">
          <CaptureEffect effect={effect} weeks={view.weeks} timeZone={view.timeZone} />
          {view.bytes && (
            <section className="sheet p-4" aria-label="Room in cookies">
              <h2 className="text-base">
                {count(view.bytes.most)} of {count(view.bytes.limit)} bytes
              </h2>
              <p className="text-quiet mt-1">
                The most that one of the newest visits keeps in cookies, of what browsers are sure to hold. Beyond it
                the oldest click IDs go.
              </p>
            </section>
          )}
        </div>
      </div>
    </CaptureFrame>
  );
}
