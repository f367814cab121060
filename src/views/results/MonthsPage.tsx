import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import { behindAddress } from '../../core/results/behind-address';
import type { CellView } from '../../core/results/dimensions';
import { figureText } from '../../core/results/figure-text';
import { measureWords, neededFor } from '../../core/results/measures';
import type { MonthLine } from '../../core/results/months';
import { monthsAddress, monthsPieces } from '../../core/results/months-words';
import type { MonthsView, PeriodView } from '../../core/results/months-view';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { Sentence } from '../../ui/rule/RuleSentence';
import { sendJson } from '../../ui/text/read';
import { Opens } from '../../ui/text/Opens';
import { dayOfYear, exactTime, monthWords, quarterWords } from '../../ui/text/time';
import { resultsParts } from './ResultsFrame';
import { useResult } from './useResult';

interface Props {
  business: string;
  initial: MonthsView;
}

/** What months and quarters brought, by funnel stage and channel: to be printed, and closed. */
export function MonthsPage(props: Props) {
  return (
    <Live>
      <Months {...props} />
    </Live>
  );
}

function Months({ business, initial }: Props) {
  const api = `/api/b/${business}/results/months`;
  const [asked, setAsked] = useState(initial.asked);
  const { view, query, isBusy } = useResult(api, monthsAddress(asked), initial);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Months')}
      actions={
        <div className="flex gap-2 print:hidden">
          <a href={`${api}.csv?${query}`} className="button" download>
            Export CSV
          </a>
          <button type="button" className="button" onClick={() => print()}>
            Print
          </button>
        </div>
      }
    >
      <Sentence
        pieces={monthsPieces(view)}
        className="text-[17px] leading-[1.9]"
        rule={asked}
        onEdit={setAsked}
        beside={{}}
        disabled={false}
      />
      <div className="sheet mt-3 overflow-x-auto print:border-0">
        <Table view={view} business={business} api={api} isBusy={isBusy} />
      </div>
      <p className="text-quiet mt-1 text-[13px]">
        Visitors are counted once in each month. A closed month stays as it was; what changed since stands below it.
      </p>
    </StationFrame>
  );
}

function Table({ view, business, api, isBusy }: { view: MonthsView; business: string; api: string; isBusy: boolean }) {
  const { asked, periods, stages, sums } = view;
  // A visitor counts once in each month, and not in all of them together.
  const isByMonth = neededFor([asked.count]).includes('visitors');
  const number = 'px-3 py-2 text-right tabular-nums whitespace-nowrap';
  const text = (figure: number | null) => (figure === null ? '' : figureText(asked.count, figure, view.currency));
  const isOpen = periods.every(({ closed }) => closed === null);
  /** A figure opens what is behind it; what is behind a closed one may have changed since. */
  const cell = (
    figure: number | null,
    { firstDay, lastDay }: Pick<PeriodView, 'firstDay' | 'lastDay'>,
    of: Of,
    opens: boolean,
  ) => {
    const { credit, count: counted } = asked;
    const query = { count: counted, by: of.by, credit, against: 'none', range: 'own', from: firstDay, to: lastDay };
    const path = behindAddress(query, counted, of.row === null ? null : JSON.stringify(of.row));
    return (
      <Opens href={opens && figure ? `/b/${business}/results/${path}` : null} className="hover:underline">
        {text(figure)}
      </Opens>
    );
  };
  const line = ({ figures, total }: MonthLine, of: Of) => (
    <>
      {figures.map((figure, i) => (
        <td key={periods[i]!.key} className={number}>
          {cell(figure, periods[i]!, of, periods[i]!.closed === null)}
        </td>
      ))}
      <td className={`${number} font-semibold`}>
        {cell(total, { firstDay: periods[0]!.firstDay, lastDay: periods.at(-1)!.lastDay }, of, isOpen && !isByMonth)}
      </td>
    </>
  );
  return (
    <table className="w-full text-[14px]" aria-label="Months and quarters" aria-busy={isBusy}>
      <thead className="text-quiet text-[13.5px]">
        <tr>
          <th scope="col" className="px-3 py-2 text-left font-normal">
            Funnel stage, channel
          </th>
          {periods.map((period) => (
            <th key={period.key} scope="col" className={`${number} align-top font-normal`}>
              {periodWords(period.key)}
              <Closing view={view} period={period} api={api} />
            </th>
          ))}
          <th scope="col" className={`${number} align-top font-normal`}>
            Together
          </th>
        </tr>
      </thead>
      <tbody>
        {stages.map(({ cell: at, stage, channels, ...own }) => (
          <Fragment key={at}>
            <tr className="border-base-300 border-t font-semibold">
              <th scope="row" className="px-3 py-2 text-left font-semibold first-letter:uppercase">
                <Cell {...stage} />
              </th>
              {line(own, { by: 'stage', row: [at] })}
            </tr>
            {(isOne(at, channels) ? [] : channels).map(({ cell: channel, channel: words, ...figures }) => (
              <tr key={channel} className="border-base-300 border-t">
                <th scope="row" className="py-2 pr-3 pl-7 text-left font-normal">
                  <Cell {...words} />
                </th>
                {line(figures, { by: 'stage,channel', row: [at, channel] })}
              </tr>
            ))}
          </Fragment>
        ))}
        {stages.length === 0 && (
          <tr className="border-base-300 border-t">
            <td colSpan={periods.length + 2} className="text-quiet px-3 py-3">
              No {measureWords(asked.count)} were counted in these months.
            </td>
          </tr>
        )}
      </tbody>
      <tfoot>
        <tr className="border-base-300 border-t font-semibold">
          <th scope="row" className="px-3 py-2 text-left">
            All together
          </th>
          {line(sums, { by: 'stage', row: null })}
        </tr>
        {periods.some(({ since }) => since !== null) && (
          <tr className="border-base-300 text-quiet border-t">
            <th scope="row" className="px-3 py-2 text-left font-normal">
              Changed since it was closed
            </th>
            {periods.map(({ key, since }) => (
              <td key={key} className={number}>
                {since === null ? '' : since === 0 ? 'nothing' : `${since > 0 ? '+' : ''}${text(since)}`}
              </td>
            ))}
            <td />
          </tr>
        )}
      </tfoot>
    </table>
  );
}

/** What a line is made of; `row` null for all of it. */
interface Of {
  by: string;
  row: string[] | null;
}

/** Whether a stage has one channel alone, of the same name: what nobody knows, or direct. */
const isOne = (stage: string, channels: readonly { cell: string }[]): boolean =>
  channels.length === 1 && channels[0]!.cell === stage;

const periodWords = (key: string): string => (key.includes('Q') ? quarterWords(key) : monthWords(key));

const Cell = ({ text, isValue }: CellView) => (isValue ? <code className="value">{text}</code> : text);

/** By whom a month was closed, or what closes it. */
function Closing({ view, period, api }: { view: MonthsView; period: PeriodView; api: string }) {
  const client = useQueryClient();
  const isMonth = view.asked.each === 'month';
  const { closed, key, isOver } = period;
  const close = useMutation({
    mutationFn: () => sendJson<null>(`${api}/close`, { month: key, closed: closed === null }),
    // Also where somebody else was faster: what is shown then is as it is.
    onSettled: () => client.invalidateQueries(),
  });
  const isChanged = view.mayChange && isMonth && (closed !== null || isOver);
  return (
    <div className="text-[12.5px]">
      {closed ? (
        <span title={`by ${closed.by}, ${exactTime(closed.at, view.timeZone)}`}>
          closed {dayOfYear(closed.at, view.timeZone)}{' '}
        </span>
      ) : (
        !isOver && 'running'
      )}
      {isChanged && (
        <button
          type="button"
          className="quiet-link cursor-pointer print:hidden"
          aria-label={`${closed ? 'Open again' : 'Close'} ${monthWords(key)}`}
          onClick={() => close.isPending || close.mutate()}
        >
          {closed ? 'open' : 'close'}
        </button>
      )}
      <Problem text={close.error?.message} />
    </div>
  );
}
