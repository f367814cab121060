import { useState } from 'react';
import { capital } from '../../core/capital';
import { dimensionWords } from '../../core/results/dimensions';
import type {
  Measured,
  RipenessQuery,
  RipenessRow,
  RipenessView,
  RipeningWeek,
} from '../../core/results/ripeness-view';
import {
  limitWords,
  percent,
  ripenessAddress,
  ripenessPieces,
  verdictWords,
  withinDays,
} from '../../core/results/ripeness-words';
import { count } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { Sentence } from '../../ui/rule/RuleSentence';
import { dayWords } from '../../ui/text/time';
import { resultsParts } from './ResultsFrame';
import { RipeningBar } from './RipeningBar';
import { useResult } from './useResult';

interface Props {
  business: string;
  initial: RipenessView;
}

/** How long after their click outcomes come, by what brought them; and how complete what recent clicks brought is. */
export function RipenessPage(props: Props) {
  return (
    <Live>
      <Ripeness {...props} />
    </Live>
  );
}

function Ripeness({ business, initial }: Props) {
  const api = `/api/b/${business}/results/ripeness`;
  const [asked, setAsked] = useState<RipenessQuery>(initial.asked);
  const { view, query, isBusy } = useResult(api, ripenessAddress(asked), initial);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Ripeness')}
      actions={
        <a href={`${api}.csv?${query}`} className="button" download>
          Export CSV
        </a>
      }
    >
      {view.outcomes.length > 0 && (
        <>
          <Sentence
            pieces={ripenessPieces(view)}
            className="text-[17px] leading-[1.9]"
            rule={asked}
            onEdit={setAsked}
            beside={{}}
            disabled={false}
          />
          <div className="mt-3 grid items-start gap-4 min-[1100px]:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
            <div>
              <Delays view={view} isBusy={isBusy} />
              <Limits view={view} />
            </div>
            <Weeks view={view} isBusy={isBusy} href={`${api}/weeks.csv?${query}`} />
          </div>
        </>
      )}
    </StationFrame>
  );
}

/** How many days it takes, by what brought it. */
function Delays({ view, isBusy }: { view: RipenessView; isBusy: boolean }) {
  const longest = Math.max(1, ...view.rows.map(({ curve }) => curve.length - 1));
  const columns: Column<RipenessRow>[] = [
    {
      id: 'cell',
      head: capital(dimensionWords(view.asked.by)),
      cell: ({ text, isValue }) => (isValue ? <code className="value [overflow-wrap:anywhere]">{text}</code> : text),
    },
    {
      id: 'count',
      head: view.asked.outcome,
      right: true,
      className: 'whitespace-nowrap',
      cell: ({ count: n }) => count(n),
    },
    { id: 'half', head: 'Half within', right: true, cell: (row) => <Days of={row} days={row.half} /> },
    { id: 'nine', head: 'Nine in ten', right: true, cell: ({ nine }) => (nine === null ? '' : withinDays(nine)) },
    {
      id: 'curve',
      head: `Day 0 to ${longest}`,
      className: 'w-[120px]',
      cell: ({ curve }) => <Curve curve={curve} longest={longest} />,
    },
  ];
  const { all } = view;
  const foot: Record<string, string> = {
    cell: 'All together',
    count: count(all.count),
    half: all.half === null ? '' : withinDays(all.half),
    nine: all.nine === null ? '' : withinDays(all.nine),
  };
  return (
    <DataTable
      label="Days from click to outcome"
      rows={view.rows}
      idOf={({ cell }) => cell}
      columns={columns}
      foot={(column) => foot[column] ?? null}
      none="None came from a click that is known."
      isBusy={isBusy}
    />
  );
}

const Days = ({ of, days }: { of: Measured; days: number | null }) =>
  days === null ? <span className="text-quiet">{of.count === 0 ? '' : 'too few'}</span> : withinDays(days);

/** Which share has come by each day, from the click on. */
function Curve({ curve, longest }: { curve: readonly number[]; longest: number }) {
  if (curve.length === 0) return null;
  const [width, height] = [120, 22];
  const x = (day: number) => (width * day) / longest;
  const y = (share: number) => height - 1 - (height - 2) * share;
  const steps = curve.map((share, day) => `${day === 0 ? `M0 ${height - 1}V` : `H${x(day)}V`}${y(share)}`);
  return (
    <svg viewBox={`0 0 ${width} ${height}`} width={width} height={height} aria-hidden="true" className="block">
      <path d={`${steps.join('')}H${width}`} className="stroke-base-content fill-none" strokeWidth="1.4" />
    </svg>
  );
}

/** What clicks of the last weeks brought: what is still to come is hatched, and left out of more and fewer. */
function Weeks({ view, isBusy, href }: { view: RipenessView; isBusy: boolean; href: string }) {
  const expected = ({ came, complete }: RipeningWeek) => (complete ? came / complete : came);
  const most = Math.max(1, ...view.weeks.map(expected));
  const columns: Column<RipeningWeek>[] = [
    { id: 'week', head: 'Week of clicks', className: 'whitespace-nowrap', cell: ({ week }) => dayWords(week) },
    { id: 'visits', head: 'Visits', right: true, cell: ({ visits }) => count(visits) },
    {
      id: 'came',
      head: view.asked.outcome,
      right: true,
      className: 'whitespace-nowrap',
      cell: ({ came }) => count(came),
    },
    {
      id: 'bar',
      head: 'Drawn',
      isHeadHidden: true,
      className: 'w-[22%]',
      cell: (week) => <RipeningBar came={week.came} expected={expected(week)} most={most} />,
    },
    {
      id: 'complete',
      head: 'Usual by now',
      right: true,
      className: 'whitespace-nowrap',
      cell: ({ complete }) => (complete === null ? '' : percent(complete)),
    },
    {
      id: 'verdict',
      head: 'Compared',
      className: 'whitespace-nowrap',
      cell: ({ verdict }) => (
        <span className={verdict === 'more' || verdict === 'fewer' ? '' : 'text-quiet'}>{verdictWords[verdict]}</span>
      ),
    },
  ];
  return (
    <div>
      <DataTable
        label="Weeks of clicks"
        rows={view.weeks}
        idOf={({ week }) => week}
        columns={columns}
        none="No visit was recorded yet."
        isBusy={isBusy}
      />
      <p className="text-quiet mt-1 text-[13px]">
        Hatched: what is usually still to come.{' '}
        <a href={href} className="quiet-link" download>
          Export the weeks
        </a>
      </p>
    </div>
  );
}

/** What ends before the outcome comes, and which stage before it comes in time. */
function Limits({ view }: { view: RipenessView }) {
  return (
    <section className="sheet mt-4 px-4 py-2" aria-label="What comes too late">
      <ul>
        {view.limits.map((limit) => {
          const { text, advice } = limitWords(limit);
          return (
            <li key={limit.key} className="border-base-300 flex flex-wrap gap-x-2 border-b py-1.5 last:border-b-0">
              <span>{limit.words}.</span>
              <span className={limit.late > 0 ? 'font-semibold' : 'text-quiet'}>{text}</span>
              {advice && <span>{advice}</span>}
            </li>
          );
        })}
      </ul>
    </section>
  );
}
