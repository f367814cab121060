import { useQueryClient } from '@tanstack/react-query';
import type { ReportBackDetail } from '../../core/reportbacks/queue-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { Acts } from './Acts';
import { reportBacksParts } from './ReportBacksFrame';
import { ResolveUnsure } from './ResolveUnsure';

interface Props {
  business: string;
  initial: ReportBackDetail;
}

/** One report-back: what is told, where it is, every attempt with what was sent and answered, and what can be done. */
export function ReportBackPage(props: Props) {
  return (
    <Live>
      <ReportBack {...props} />
    </Live>
  );
}

function ReportBack({ business, initial }: Props) {
  const client = useQueryClient();
  const one = useView(`/api/b/${business}/report-backs/${initial.id}`, initial);
  return (
    <StationFrame
      sentence={one.sentence}
      parts={reportBacksParts(business, 'Queue')}
      crumb={
        <a href={`/b/${business}/report-backs/queue`} className="quiet-link">
          Queue
        </a>
      }
      actions={one.acts.length > 0 && <Acts business={business} acts={one.acts} chosen={{ ids: [one.id] }} />}
    >
      <div className="mt-4 grid grid-cols-1 items-start gap-5 xl:grid-cols-[1fr_1.6fr]">
        <section aria-label="What is told" className="sheet px-4 py-3">
          {one.mend && (
            <p className="mb-3">
              <Words text={one.mend} />
            </p>
          )}
          <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5">
            {one.facts.map(({ name, value, mono }) => (
              <div key={name} className="contents">
                <dt className="text-quiet">{name}</dt>
                <dd>{mono ? <code className="value">{value}</code> : value}</dd>
              </div>
            ))}
            <dt className="text-quiet">Happened</dt>
            <dd>
              <Time iso={one.happenedAt} timeZone={one.timeZone} />
            </dd>
            {one.dueAt && (
              <>
                <dt className="text-quiet">Due</dt>
                <dd>
                  <Time iso={one.dueAt} timeZone={one.timeZone} />
                </dd>
              </>
            )}
          </dl>
          {one.trace && (
            <p className="mt-3">
              <a href={`/b/${business}${one.trace}`} className="quiet-link">
                Its trace, hop by hop
              </a>
            </p>
          )}
          {one.isUnsure && one.mayChange && (
            <ResolveUnsure
              business={business}
              reportBack={one.id}
              platform={one.account}
              onDecided={() => void client.invalidateQueries()}
            />
          )}
        </section>
        <section aria-label="Attempts" className="sheet px-4 py-3">
          <h2 className="text-base">
            {one.attempts.length === 0 ? 'It has not been told yet' : 'What was sent and answered'}
          </h2>
          <ol className="mt-2 flex flex-col gap-3">
            {one.attempts.map(({ at, status, answer, request }) => (
              <li key={`${at} ${status}`} className="border-t border-base-300 pt-2">
                <p>
                  <Time iso={at} timeZone={one.timeZone} />: <code className="value">{status}</code>
                  {answer && <> {answer}</>}
                </p>
                {request !== '{}' && (
                  <details className="mt-1">
                    <summary className="quiet-link cursor-pointer">What was sent</summary>
                    <pre className="value mt-1 overflow-x-auto text-[12px] whitespace-pre-wrap">{request}</pre>
                  </details>
                )}
              </li>
            ))}
          </ol>
        </section>
      </div>
    </StationFrame>
  );
}
