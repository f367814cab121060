import { figureText } from '../../core/results/figure-text';
import type { BehindRow, BehindView } from '../../core/results/figures-view';
import { count } from '../../core/strands';
import type { Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Opens } from '../../ui/text/Opens';
import { Time } from '../../ui/text/Time';
import { RowsBehind } from './RowsBehind';

interface Props {
  business: string;
  initial: BehindView;
  /** Query of the page. */
  search: string;
}

/** The enquiries and outcomes behind one figure; each leads to its trace. */
export function BehindPage(props: Props) {
  return (
    <Live>
      <Behind {...props} />
    </Live>
  );
}

function Behind({ business, initial, search }: Props) {
  const query = new URLSearchParams(search);
  const view = useView(`/api/b/${business}/results/behind?${query}`, initial);
  const { of, currency, timeZone } = view;
  const hrefOf = ({ path }: BehindRow) => (path === null ? null : `/b/${business}${path}`);
  const columns: Column<BehindRow>[] = [
    {
      id: 'name',
      head: 'Who or what',
      cell: (row) => <Opens href={hrefOf(row)}>{row.name}</Opens>,
    },
    { id: 'what', head: 'Counted for', cell: ({ what }) => what },
    { id: 'at', head: 'When', cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
    { id: 'touches', head: 'Touches on the way', right: true, cell: ({ touches }) => count(touches) },
    {
      id: 'credited',
      head: 'Credited here',
      right: true,
      cell: ({ credited, whole }) => (
        <>
          {figureText(of, credited, currency)}
          {credited !== whole && <span className="text-quiet"> of {figureText(of, whole, currency)}</span>}
        </>
      ),
    },
  ];
  return (
    <RowsBehind
      view={view}
      query={query}
      own={['of', 'row']}
      from={{ words: 'Figures', path: `/b/${business}/results` }}
      csv={`/api/b/${business}/results/behind.csv`}
      label="Behind the figure"
      columns={columns}
      hrefOf={hrefOf}
      none="Nothing is behind this figure."
    />
  );
}
