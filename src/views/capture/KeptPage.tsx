import { useState } from 'react';
import type { CaptureEffectView, KeptView } from '../../core/capture/station-view';
import { platformName } from '../../core/platforms/links';
import type { RuleChange } from '../../core/rules';
import { count } from '../../core/strands';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { RuleSheet } from '../../ui/rule/RuleSheet';
import { useEffectOf } from '../../ui/rule/useEffectOf';
import { CaptureEffect } from './CaptureEffect';
import { CaptureFrame } from './CaptureFrame';
import { CarryNames } from './CarryNames';
import { KeptValues } from './KeptValues';

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
  const common = { business, view, beside: { capture: rules, platforms: view.ownPlatforms }, onWritten: setWritten };
  const { touchDays, touchAge, utmLowerCase, setBy, clickIds } = rules.keep;
  const keep = { touchDays, touchAge, utmLowerCase, setBy };
  const missing = view.platforms.filter(({ kind }) => !clickIds.some(({ platform }) => platform === kind));
  const [adding, setAdding] = useState('');
  const added = missing.find(({ kind }) => kind === adding);
  return (
    <CaptureFrame business={business} section="Kept" view={view}>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_310px]">
        <div className="flex min-w-0 flex-col gap-4">
          <RuleSheet {...common} kind="keep" label="Touches" stored={keep}>
            {(rule) => rule.setBy === 'server' && <OwnEdge business={business} ownEdge={view.ownEdge} />}
          </RuleSheet>
          {clickIds.map((rule) => (
            <RuleSheet
              {...common}
              kind="click_id"
              label={`Click ID of ${platformName(rule.platform, view.ownPlatforms)}`}
              stored={rule}
              key={rule.platform}
            />
          ))}
          {added && (
            <RuleSheet
              {...common}
              kind="click_id"
              label={`Click ID of ${added.words}`}
              stored={null}
              start={{ ...added.starts, platform: added.kind, days: 90 }}
              key={added.kind}
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
          <RuleSheet {...common} kind="visit" label="Visits" stored={rules.touch} />
          <RuleSheet {...common} kind="consent" label="Consent" stored={rules.consent} />
          <RuleSheet {...common} kind="pii" label="Personal data" stored={rules.pii} />
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

function OwnEdge({ business, ownEdge }: { business: string; ownEdge: string }) {
  return (
    <p className="text-quiet px-5 pb-4">
      Browsers that end a script’s cookies after 7 days leave a server’s alone. The snippet must load from{' '}
      <code className="value">{ownEdge}</code>, which leads to Avrix:{' '}
      <a className="quiet-link" href={`/b/${business}/capture/install`}>
        see the snippet
      </a>
      .
    </p>
  );
}
