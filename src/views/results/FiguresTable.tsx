import { capital } from '../../core/capital';
import { dimensionWords, isTime, type CellView, type Dimension } from '../../core/results/dimensions';
import { changeText, figureText } from '../../core/results/figure-text';
import type { FigureRowView, FiguresView } from '../../core/results/figures-view';
import { isOfCost, isRatio, measureWords, type Counted } from '../../core/results/measures';
import { Opens } from '../../ui/text/Opens';
import { dayWords, monthWords, quarterWords } from '../../ui/text/time';
import { DataTable, type Column, type Sorting } from '../../ui/list/DataTable';

/** Rows of figures: each with a bar as long as it is large, what it was before, and the share of the first measure. */
export function FiguresTable({
  view,
  behind,
  sorting,
  onSort,
  found,
  isBusy,
}: {
  view: FiguresView;
  /** Where the rows behind one of its figures are; `row` null for all of them together. */
  behind: (of: Counted, row: string | null) => string;
  sorting: Sorting;
  onSort: (next: Sorting) => void;
  found: string;
  isBusy: boolean;
}) {
  const main = view.counted[0]!;
  const whole = view.sums.figures[0] ?? null;
  const hasShare = !isRatio(main) && whole !== null && whole > 0 && view.total > 1;
  const columns: Column<FigureRowView>[] = [
    ...view.by.map((dimension, i): Column<FigureRowView> => ({
      id: dimension,
      head: capital(dimensionWords(dimension)),
      by: true,
      className: 'max-w-[300px]',
      cell: ({ cells }) => (isTime(dimension) ? timeWords(dimension, cells[i]!.text) : <Cell {...cells[i]!} />),
    })),
    ...view.counted.map((counted, i): Column<FigureRowView> => ({
      id: counted,
      head: capital(measureWords(counted)),
      by: true,
      right: true,
      cell: (row) => <Figure view={view} counted={counted} at={i} href={behind(counted, row.row)} {...row} />,
    })),
    ...(hasShare
      ? [
          {
            id: 'share',
            head: `Share of ${measureWords(main)}`,
            right: true,
            cell: ({ figures }: FigureRowView) =>
              figures[0] === null ? null : `${(((figures[0] ?? 0) / whole) * 100).toFixed(1)} %`,
          },
        ]
      : []),
  ];
  const foot = (column: string) => {
    const at = view.counted.indexOf(column as Counted);
    if (at >= 0)
      return (
        <Figure
          view={view}
          counted={view.counted[at]!}
          at={at}
          href={behind(view.counted[at]!, null)}
          {...view.sums}
          hasBar={false}
        />
      );
    return column === view.by[0] ? 'All together' : column === 'share' ? '100 %' : null;
  };
  // Times stand in their order where nothing else is asked.
  const first = view.by[0]!;
  const usual = isTime(first) ? { by: first, descending: false } : { by: main, descending: true };
  return (
    <DataTable
      label="Figures"
      rows={view.rows}
      idOf={({ id }) => id}
      columns={columns}
      sorted={{ ...(sorting.by === '' ? usual : sorting), onSort }}
      found={found}
      foot={foot}
      none="Nothing was counted in these days. Choose other days, or something else to count."
      isBusy={isBusy}
    />
  );
}

/** A day, the Monday of a week, a month or a quarter, in words. */
const timeWords = (dimension: Dimension, text: string) =>
  dimension === 'quarter'
    ? quarterWords(text)
    : dimension === 'month'
      ? monthWords(text)
      : `${dimension === 'week' ? 'week of ' : ''}${dayWords(text)}`;

const Cell = ({ text, isValue }: CellView) =>
  isValue ? (
    <code className="value [overflow-wrap:anywhere]">{text}</code>
  ) : (
    <span className={text === 'no value' || text === 'not known' || text === 'direct' ? 'text-quiet' : ''}>{text}</span>
  );

function Figure({
  view,
  counted,
  at,
  href,
  figures,
  before,
  measured,
  hasBar = true,
}: {
  view: FiguresView;
  counted: Counted;
  at: number;
  href: string;
  hasBar?: boolean;
} & Pick<FigureRowView, 'figures' | 'before' | 'measured'>) {
  const figure = figures[at] ?? null;
  if (figure === null) return <span className="text-quiet">not counted</span>;
  const change = changeText(figure, before?.[at] ?? null);
  const largest = view.largest[at] ?? 0;
  return (
    <div className="ml-auto min-w-20">
      <div className="whitespace-nowrap">
        {change && <span className="text-quiet mr-2 text-[12px]">{change}</span>}
        <Opens href={figure === 0 ? null : href} className="hover:underline">
          {figureText(counted, figure, view.currency)}
        </Opens>
      </div>
      {isOfCost(counted) && measured !== null && (
        <div className="text-quiet text-[12px] whitespace-nowrap">{Math.round(measured * 100)} % measured</div>
      )}
      {hasBar && (
        <svg className="mt-0.5 ml-auto block h-[3px] w-full" viewBox="0 0 100 3" preserveAspectRatio="none" aria-hidden>
          <rect
            className="fill-base-content"
            x={100 - barOf(figure, largest)}
            width={barOf(figure, largest)}
            height="3"
          />
        </svg>
      )}
    </div>
  );
}

const barOf = (figure: number, largest: number) => (largest > 0 ? Math.max(0, (figure / largest) * 100) : 0);
