import { useQuery } from '@tanstack/react-query';
import type { TellingView, TraceEvent, TraceView } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Copy } from '../../ui/text/Copy';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live, pageRead } from '../../ui/live/Live';
import { readJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { ResolveUnsure } from './ResolveUnsure';
import { TraceTable } from '../../ui/line/TraceTable';

const betweenReads = 3000;

interface Props {
  business: string;
  api: string;
  crumb: { words: string; href: string };
  initial: TraceView;
}

/** One enquiry's values hop by hop, what happened on the way, and what the platform was or will be told. */
export function TracePage(props: Props) {
  return (
    <Live>
      <LiveTrace {...props} />
    </Live>
  );
}

function LiveTrace({ business, api, crumb, initial }: Props) {
  const { data: trace, refetch } = useQuery({
    queryKey: [api],
    queryFn: () => readJson<TraceView>(api),
    initialData: initial,
    refetchInterval: betweenReads,
    meta: pageRead,
  });
  return (
    <StationFrame
      sentence={{ title: trace.title, under: trace.under }}
      crumb={
        <>
          <a href={crumb.href} className="quiet-link">
            {crumb.words}
          </a>{' '}
          / {trace.crumb}
        </>
      }
      actions={<Copy text={trace.forSales} words="Copy for sales" byKey />}
    >
      {trace.mend && (
        <p className="border-error mt-4 border-l-3 pl-3">
          <span className="text-error font-semibold">
            <Words text={trace.mend.text} />.
          </span>{' '}
          <Words text={trace.mend.mend} />
        </p>
      )}
      <TraceTable trace={trace} />
      <div className="mt-4 grid grid-cols-1 items-start gap-4 xl:grid-cols-[1.9fr_1fr]">
        <Happened events={trace.events} timeZone={trace.timeZone} />
        <div className="grid gap-4">
          {trace.telling.map((telling) => (
            <Telling
              key={telling.heading}
              telling={telling}
              timeZone={trace.timeZone}
              business={business}
              onDecided={() => void refetch()}
            />
          ))}
        </div>
      </div>
    </StationFrame>
  );
}

function Happened({ events, timeZone }: { events: TraceEvent[]; timeZone: string }) {
  const columns: Column<TraceEvent & { place: number }>[] = [
    {
      id: 'at',
      head: 'When',
      by: ({ place }) => place,
      className: 'w-40 value',
      cell: ({ at }) => <Time iso={at} timeZone={timeZone} />,
    },
    { id: 'what', head: 'What happened', cell: ({ text }) => <Words text={text} /> },
    {
      id: 'by',
      head: 'Seen by',
      by: ({ seenBy }) => seenBy,
      className: 'w-32 text-quiet',
      cell: ({ seenBy }) => seenBy,
    },
  ];
  return (
    <DataTable
      label="What happened"
      rows={events.map((event, place) => ({ ...event, place }))}
      idOf={({ place }) => String(place)}
      columns={columns}
      none="Nothing is recorded."
    />
  );
}

interface TellingProps {
  telling: TellingView;
  timeZone: string;
  business: string;
  onDecided(): void;
}

function Telling({ telling, timeZone, business, onDecided }: TellingProps) {
  return (
    <section className="sheet p-4" aria-label="Telling">
      <h2 className="text-[15px]">{telling.heading}</h2>
      <dl className="mt-3 grid grid-cols-[88px_1fr] gap-y-2">
        {telling.rows.map((row) => (
          <div key={row.name} className="contents">
            <dt className="text-quiet">{row.name}</dt>
            <dd>
              <span className={row.mono ? 'value' : ''}>{row.value}</span>
              {row.note && (
                <span className="text-quiet">
                  {row.value.trim() && ', '}
                  <Words text={row.note} />
                </span>
              )}
            </dd>
          </div>
        ))}
      </dl>
      {telling.unsure && <ResolveUnsure business={business} {...telling.unsure} onDecided={onDecided} />}
      {telling.attempts.length > 0 && (
        <>
          <h3 className="mt-4 font-semibold">Attempts</h3>
          <ul className="mt-1">
            {telling.attempts.map((attempt) => (
              <li key={attempt.at} className="flex gap-4 py-1">
                <span className="value">
                  <Time iso={attempt.at} timeZone={timeZone} />
                </span>
                <span>{attemptWords(attempt)}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

function attemptWords({ status, answer }: TellingView['attempts'][number]): string {
  if (status === '200' || status === 'not taken') return answer;
  return `no answer for the row (${status})`;
}
