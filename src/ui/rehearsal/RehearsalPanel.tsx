import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import type { RehearsalOffers } from '../../core/rehearsal/view';
import { Live } from '../live/Live';
import { readJson } from '../text/read';
import { ChoiceMenu } from '../pick/ChoiceMenu';
import { Words } from '../text/Words';
import { TraceTable } from '../line/TraceTable';
import { Expectations } from './Expectations';
import { Lines } from './Lines';
import { Cleaned, RealWalk, useRealWalk } from './RealWalk';
import { Told } from './Told';
import { Traits } from './Traits';
import { openRehearsal, rehearsalBefore, useWalk, type Written } from './useRehearsal';

interface Props {
  business: string;
  written: Written;
  write: (part: Partial<Written>) => void;
  /** How often somebody called for it on this page. */
  called: number;
}

/** What the dock holds once it is open. */
export default function RehearsalPanel(props: Props) {
  return (
    <Live isPage={false}>
      <Panel {...props} />
    </Live>
  );
}

const rulesWords = { draft: 'the draft', live: 'what is live' } as const;
const ruleOptions = [
  ['draft', rulesWords.draft],
  ['live', rulesWords.live],
] as const;

/** The lines on the left; on the right what comes of them, what would be told, and what is expected. */
function Panel({ business, written, write, called }: Props) {
  const walk = useWalk(business, written);
  const { data: offers } = useQuery({
    queryKey: ['rehearse offers', business],
    queryFn: () => readJson<RehearsalOffers>(`/api/b/${business}/rehearse/offers`),
    staleTime: 60_000,
  });
  useEffect(() => {
    if (called > 0) document.getElementById('rehearsal-line')?.focus();
  }, [called]);
  const real = useRealWalk(business, written.isReal);
  const bringBack = rehearsalBefore(business);
  const isOn = real.view?.isOn ?? false;
  const isReal = isOn && written.isReal;
  const view = written.lines.length > 0 ? walk.data : undefined;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_1fr] xl:grid-cols-[minmax(300px,26%)_1fr] gap-4 px-6 pb-3">
      <div className="flex min-h-0 flex-col gap-2">
        <Lines
          lines={written.lines}
          walked={view?.lines ?? []}
          timeZone={view?.timeZone ?? 'UTC'}
          offers={offers ?? null}
          write={(lines) => write(lines.length > 0 ? { lines } : { lines, saved: null, expected: [] })}
          onClear={() => openRehearsal(business, {})}
        >
          <Traits traits={written.traits} write={(traits) => write({ traits })} />
          {written.lines.length === 0 && bringBack && (
            <button type="button" className="quiet-link" onClick={bringBack}>
              Bring back what was here
            </button>
          )}
          <ChoiceMenu
            label={`by ${rulesWords[written.rules]}`}
            value={written.rules}
            options={ruleOptions}
            disabled={false}
            onChange={(rules) => write({ rules })}
          >
            by <span className="part">{rulesWords[written.rules]}</span>
          </ChoiceMenu>
          {offers?.mayChange && (
            <button
              type="button"
              className="quiet-link"
              disabled={real.begin.isPending}
              onClick={() => {
                real.end.reset();
                // One that goes on, or that somebody began to see through a page, is looked at and not begun anew.
                if (!isOn) real.begin.mutate();
                write({ isReal: !isReal });
              }}
            >
              {isReal ? 'Back to the rehearsal' : isOn ? 'Look at your own browser' : 'Walk it for real'}
            </button>
          )}
        </Lines>
      </div>
      <div className="min-h-0 overflow-y-auto pb-2" aria-live="polite" aria-busy={walk.isFetching}>
        {walk.error && (
          <p role="alert" className="text-error">
            This could not be rehearsed: <Words text={walk.error.message} />
          </p>
        )}
        {(real.begin.error ?? real.end.error) && (
          <p role="alert" className="text-error">
            {(real.begin.error ?? real.end.error)!.message}
          </p>
        )}
        {isReal && real.view?.isOn && <RealWalk view={real.view} lines={written.lines} end={real.end} />}
        {!isReal && real.end.data && <Cleaned {...real.end.data} />}
        {!isReal && !view && !walk.error && (
          <p className="text-quiet max-w-[62ch] pt-1">
            <Words text="Paste a live address, or type a short step such as `arrive /fleet?utm_source=letter`, and press Enter. Then `send` a form, `wait 9 days`, `come back`, move the deal to a `stage`. It walks by the rules in the draft, those you are writing too. Nothing is sent or stored." />
          </p>
        )}
        {!isReal && view && (
          <>
            <h2 className="text-[19px] leading-tight">{view.sentence.title}</h2>
            <p className="text-quiet mt-0.5 mb-2">{view.sentence.under}</p>
            {view.trace && <TraceTable trace={view.trace} isNarrow />}
            <Told requests={view.requests} />
            <Expectations
              business={business}
              facts={view.facts}
              written={written}
              write={write}
              mayChange={offers?.mayChange ?? false}
            />
          </>
        )}
      </div>
    </div>
  );
}
