import type { BridgedRowView, ThreeCountsBehindView } from '../../core/results/three-counts-view';
import type { Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Opens } from '../../ui/text/Opens';
import { Time } from '../../ui/text/Time';
import { dayWords } from '../../ui/text/time';
import { Words } from '../../ui/text/Words';
import { RowsBehind } from './RowsBehind';

interface Props {
  business: string;
  initial: ThreeCountsBehindView;
  /** Query of the page. */
  search: string;
}

/** Those behind a number of three counts; each opens its trace. */
export function BridgedRowsPage(props: Props) {
  return (
    <Live>
      <BridgedRows {...props} />
    </Live>
  );
}

function BridgedRows({ business, initial, search }: Props) {
  const query = new URLSearchParams(search);
  const view = useView(`/api/b/${business}/results/three-counts/behind?${query}`, initial);
  const { timeZone, rows } = view;
  const hrefOf = ({ path }: BridgedRowView) => (path === null ? null : `/b/${business}${path}`);
  const columns: Column<BridgedRowView>[] = [
    {
      id: 'name',
      head: 'What',
      cell: (row) => <Opens href={hrefOf(row)}>{row.name}</Opens>,
    },
    { id: 'at', head: 'Reached', cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
    { id: 'day', head: 'Counted here on', cell: ({ day }) => dayWords(day) },
    ...(rows.some(({ told }) => told !== '')
      ? [
          {
            id: 'dayThere',
            head: 'There on',
            cell: ({ dayThere, told }: BridgedRowView) =>
              dayThere === '' || told === 'held' ? '' : dayWords(dayThere),
          },
          { id: 'told', head: 'Telling', cell: ({ told }: BridgedRowView) => told },
          { id: 'why', head: 'Why', cell: ({ why }: BridgedRowView) => <Words text={why} /> },
        ]
      : []),
  ];
  return (
    <RowsBehind
      view={view}
      query={query}
      own={['of']}
      from={{ words: 'Three counts', path: `/b/${business}/results/three-counts` }}
      csv={`/api/b/${business}/results/three-counts/behind.csv`}
      label="Behind it"
      columns={columns}
      hrefOf={hrefOf}
      none="Nothing is known of them one by one."
    />
  );
}
