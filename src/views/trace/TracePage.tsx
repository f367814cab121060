import { useQuery } from '@tanstack/react-query';
import { qualityWords } from '../../core/leads/quality';
import type { AnsweredView, OtherEnquiry, TellingView, TraceEvent, TraceView } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live, pageRead } from '../../ui/live/Live';
import { readJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { SayQuality, sayingOf, useSayQuality } from '../leads/SayQuality';
import { LeadCard } from './LeadCard';
import { ResolveUnsure } from '../reportbacks/ResolveUnsure';
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
    >
      {trace.mend && (
        <p className="border-error mt-4 border-l-3 pl-3">
          <span className="text-error font-semibold">
            <Words text={trace.mend.text} />.
          </span>{' '}
          <Words text={trace.mend.mend} />
        </p>
      )}
      {trace.answered && <Answered business={business} answered={trace.answered} />}
      <TraceTable trace={trace} />
      <div className="mt-4 grid grid-cols-1 items-start gap-4 xl:grid-cols-[1.9fr_1fr]">
        <Happened events={trace.events} business={business} timeZone={trace.timeZone} />
        <div className="grid min-w-0 gap-4">
          <LeadCard business={business} trace={trace} />
          {trace.others.length > 0 && <Others business={business} others={trace.others} timeZone={trace.timeZone} />}
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

/** How far the enquiry was answered, to be said otherwise. */
function Answered({ business, answered }: { business: string; answered: AnsweredView }) {
  const { enquiry, company, quality, reason, mayChange } = answered;
  const { saying, onSay, error } = useSayQuality(business);
  return (
    <>
      <p className="mt-2 flex flex-wrap items-baseline gap-x-3">
        <span>
          <span className="font-semibold">{qualityWords[quality].replace(/^./, (first) => first.toUpperCase())}</span>
          {reason && `: ${reason}`}
        </span>
        {mayChange && quality !== 'qualified' && !saying && (
          <button
            type="button"
            className="quiet-link cursor-pointer"
            onClick={() => onSay(sayingOf(enquiry, company, null))}
          >
            Change
          </button>
        )}
      </p>
      <Problem text={error} />
      {saying && <SayQuality saying={saying} onSay={onSay} />}
    </>
  );
}

/** Further enquiries of the same person, each with its own trace. */
function Others({ business, others, timeZone }: { business: string; others: OtherEnquiry[]; timeZone: string }) {
  return (
    <section className="sheet p-4" aria-label="Also from them">
      <h2 className="text-[15px]">Also from them</h2>
      <ul className="mt-2">
        {others.map(({ id, form, at, stage }) => (
          <li key={id} className="grid grid-cols-[auto_1fr] gap-x-3 py-1">
            <span className="value">
              <Time iso={at} timeZone={timeZone} />
            </span>
            <span>
              <a href={`/b/${business}/leads/${id}`} className="quiet-link">
                {form}
              </a>
              , <span className="text-quiet">{stage}</span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Happened({ events, business, timeZone }: { events: TraceEvent[]; business: string; timeZone: string }) {
  const columns: Column<TraceEvent & { place: number }>[] = [
    {
      id: 'at',
      head: 'When',
      by: ({ place }) => place,
      className: 'w-40 value',
      cell: ({ at }) => <Time iso={at} timeZone={timeZone} />,
    },
    {
      id: 'what',
      head: 'What happened',
      cell: ({ text, of }) => (
        <span className={of ? 'text-quiet' : ''}>
          {of && (
            <>
              <a href={`/b/${business}/leads/${of}`} className="quiet-link">
                Another enquiry
              </a>
              :{' '}
            </>
          )}
          <Words text={text} />
        </span>
      ),
    },
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
