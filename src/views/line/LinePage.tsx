import { repairable } from '../../core/reasons/codes';
import { useQuery } from '@tanstack/react-query';
import type { Ripe } from '../../core/results/ripeness-view';
import { ripeWords } from '../../core/results/ripeness-words';
import { count, counted, hopNameOf, type Hop, type LineView, type SetupStep } from '../../core/strands';
import { beginsElsewhere, waysIn } from '../../core/ways-in';
import { Sentence } from '../../ui/frame/Sentence';
import { LineFigure } from '../../ui/line/LineFigure';
import { restQuery, shownQuery, strandsAddress } from '../../ui/line/addresses';
import { RangePicker } from '../../ui/line/RangePicker';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live, pageRead } from '../../ui/live/Live';
import { readJson } from '../../ui/text/read';
import { Narrowed, ViewPicker, WayPicker } from './LinePickers';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

const betweenReads = 5000;

interface Props {
  business: string;
  initial: LineView;
}

/** The line: where the values of these days are, where they were lost, and who asked lately. */
export function LinePage(props: Props) {
  return (
    <Live>
      <LiveLine {...props} />
    </Live>
  );
}

function LiveLine({ business, initial }: Props) {
  const query = new URLSearchParams(shownQuery(initial)).toString();
  const { data: line } = useQuery({
    queryKey: ['line', business, query],
    queryFn: () => readJson<LineView>(`/api/b/${business}/line?${query}`),
    initialData: initial,
    refetchInterval: betweenReads,
    meta: pageRead,
  });
  return (
    <>
      <section className="bg-hero text-hero-ink px-6 pt-4 pb-5">
        <Sentence title={line.sentence.title} under={line.sentence.under} dark>
          <div className="flex flex-col gap-2 xl:items-end">
            {line.ways.length > 1 && <WayPicker line={line} business={business} />}
            <RangePicker range={line.range} path={`/b/${business}`} rest={restQuery(line)} />
          </div>
        </Sentence>
        <div className="mt-3 flex flex-wrap items-center justify-between gap-x-6 gap-y-2">
          <ViewPicker line={line} business={business} />
          <Narrowed line={line} business={business} />
        </div>
        {line.setup.length > 0 && <SettingUp steps={line.setup} business={business} />}
        <div className="mt-5">
          <LineFigure line={line} business={business} />
        </div>
        {line.view === 'followed' && line.setup.length === 0 && <Ripeness line={line} business={business} />}
      </section>
      <div className="grid grid-cols-1 items-start gap-4 px-6 pt-4 xl:grid-cols-[1.9fr_1fr]">
        <Losses line={line} business={business} />
        <Latest line={line} business={business} />
      </div>
    </>
  );
}

/** How complete what these clicks bring usually is by now: it is read once the line stands, which does not wait for it. */
function Ripeness({ line, business }: { line: LineView; business: string }) {
  const outcome = line.outcome || line.qualified;
  const { firstDay: from, lastDay: to } = line.range;
  const address = `/api/b/${business}/line/ripe?${new URLSearchParams({ outcome, from, to })}`;
  const { data: ripe } = useQuery({
    queryKey: [address],
    queryFn: () => readJson<Ripe | null>(address),
    enabled: outcome !== '',
  });
  return (
    <p className="text-hero-quiet mt-3 min-h-[20px] text-[13px]">
      {ripe && (
        <>
          {ripeWords(outcome, ripe)}{' '}
          <a href={`/b/${business}/results/ripeness?outcome=${outcome}`} className="underline underline-offset-4">
            By source and week
          </a>
        </>
      )}
    </p>
  );
}

/** What is to be done until the whole line is there; the first thing that is open is offered. */
function SettingUp({ steps, business }: { steps: SetupStep[]; business: string }) {
  const next = steps.find(({ isDone }) => !isDone);
  return (
    <ol className="mt-4 flex flex-wrap items-center gap-x-8 gap-y-3" aria-label="Setting up">
      {steps.map(({ words, seenBy, path, isDone }, at) => (
        <li key={words} className="flex items-baseline gap-2">
          <span className="text-hero-quiet">{at + 1}</span>
          <span>
            {isDone ? (
              <span className="text-hero-quiet inline-block py-1">{words}</span>
            ) : (
              <a
                href={`/b/${business}${path}`}
                className={
                  words === next?.words
                    ? 'bg-hero-ink text-hero inline-block rounded-[5px] px-3 py-1 font-semibold'
                    : 'inline-block py-1 underline underline-offset-4'
                }
              >
                {words}
              </a>
            )}
            <span className="text-hero-quiet block text-[12.5px]">
              {isDone ? `done: ${seenBy} is here` : `done with ${seenBy}`}
            </span>
          </span>
        </li>
      ))}
    </ol>
  );
}

function Losses({ line, business }: { line: LineView; business: string }) {
  /** Whether clicks come before what comes in, so that they are followed up to Kept in either view. */
  const isFollowed = !beginsElsewhere(waysIn[line.way]);
  const nameOf = (hop: Hop) => hopNameOf(waysIn[line.way], line.outcome, hop);
  const beside = [
    line.beside > 0 && {
      words: `${counted(line.beside, waysIn[line.way].one, waysIn[line.way].many)} without any known click`,
      href: strandsAddress(business, line, { hop: 'clicked', state: 'unknown' }),
    },
    line.corrected > 0 && {
      words: `${counted(line.corrected, 'click', 'clicks')} confirmed, and corrected since`,
      href: strandsAddress(business, line, { hop: 'confirmed', state: 'made_it', corrected: 'yes' }),
    },
    line.noCustomers > 0 && {
      words: `${counted(line.noCustomers, 'click', 'clicks')} from staff or bots, not counted`,
      href: strandsAddress(business, line, { mark: 'any' }),
    },
    line.counted > 0 && {
      words: `${counted(line.counted, 'landing', 'landings')} between Landed and Kept of people who did not agree: a count without rows`,
      href: null,
    },
    line.landedUncounted > 0 && {
      words: `${counted(line.landedUncounted, 'landing', 'landings')} from campaigns with no click count`,
      href: null,
    },
    line.surplus > 0 && {
      words: `${counted(line.surplus, 'landing', 'landings')} more than the platform reported clicks`,
      href: null,
    },
  ].filter((row) => row !== false);
  const columns: Column<LineView['losses'][number]>[] = [
    {
      id: 'hop',
      head: 'Hop',
      className: 'font-semibold whitespace-nowrap',
      cell: ({ from, to }) => `${nameOf(from)} → ${nameOf(to)}`,
    },
    {
      id: 'why',
      head: 'Why',
      cell: ({ words, kind }) => (
        <>
          <Words text={words.text} />
          <div className="text-quiet text-[12.5px]">{kindWords[kind]}</div>
        </>
      ),
    },
    {
      id: 'lost',
      head: 'Lost',
      by: ({ strands }) => strands,
      right: true,
      cell: ({ kind, strands, to, reason }) =>
        kind === 'inferred' ? (
          <span className="value font-semibold" title="Worked out from two totals; there are no rows behind it">
            {count(strands)}
          </span>
        ) : (
          <a
            className="value quiet-link font-semibold"
            href={strandsAddress(business, line, { hop: to, state: 'lost', reason: reason.code })}
          >
            {count(strands)}
          </a>
        ),
    },
    {
      id: 'fix',
      head: 'Fix',
      className: 'max-w-72 text-[13px]',
      cell: ({ words, kind, reason }) => (
        <>
          <Words text={words.mend} />
          {kind !== 'inferred' && repairable.includes(reason.code) && (
            <>
              {' '}
              Then{' '}
              <a href={`/b/${business}/leads/repair`} className="quiet-link">
                put back what was lost
              </a>
              .
            </>
          )}
        </>
      ),
    },
  ];
  return (
    <div id="losses">
      <DataTable
        label="Losses"
        rows={line.losses}
        idOf={(loss) => `${loss.to} ${loss.words.text} ${loss.kind}`}
        columns={columns}
        none={
          line.view === 'happened'
            ? isFollowed
              ? 'Nothing was lost up to Kept in these days.'
              : 'Nothing is followed in this view.'
            : 'Nothing was lost in these days.'
        }
      />
      {line.view === 'happened' && (
        <p className="text-quiet px-3.5 pt-2.5 text-[13px]">
          {isFollowed ? 'Losses after Kept are listed where' : 'Losses are listed where'}{' '}
          <a
            className="quiet-link"
            href={`/b/${business}?${new URLSearchParams(shownQuery({ ...line, view: 'followed' }))}`}
          >
            these days’ {isFollowed ? 'clicks' : waysIn[line.way].many} are followed
          </a>
          .
        </p>
      )}
      {beside.length > 0 && (
        <p className="text-quiet px-3.5 py-2.5 text-[13px]">
          Beside the line:{' '}
          {beside.map(({ words, href }, i) => (
            <span key={words}>
              {i > 0 && '; '}
              {href ? (
                <a href={href} className="quiet-link">
                  {words}
                </a>
              ) : (
                words
              )}
            </span>
          ))}
          .
        </p>
      )}
    </div>
  );
}

const kindWords = {
  proven: 'proven: both sides were seen',
  inferred: 'inferred from totals of platforms and short links; no rows',
  unexplained: 'unexplained',
};

function Latest({ line, business }: { line: LineView; business: string }) {
  const { latest } = waysIn[line.way];
  const columns: Column<LineView['latest'][number]>[] = [
    {
      id: 'lead',
      head: latest,
      cell: ({ path, title, at }) => (
        <>
          {path ? (
            <a href={`/b/${business}${path}`} className="quiet-link">
              {title}
            </a>
          ) : (
            title
          )}
          <div className="text-quiet text-[12.5px]">
            <Time iso={at} timeZone={line.timeZone} />
          </div>
        </>
      ),
    },
    { id: 'cameFrom', head: 'Came from', className: 'text-[13px]', cell: ({ cameFrom }) => cameFrom },
    {
      id: 'hop',
      head: 'Last hop',
      className: 'whitespace-nowrap',
      cell: ({ state, lastHop, why }) => (
        <span className={state === 'lost' ? 'text-error' : ''} title={why || undefined}>
          {state === 'lost' ? `lost after ${lastHop}` : lastHop}
        </span>
      ),
    },
  ];
  return (
    <DataTable
      label={latest}
      rows={line.latest}
      idOf={({ id }) => id}
      columns={columns}
      none={`No ${waysIn[line.way].one} yet.`}
    />
  );
}
