import type { BridgedRowView, ThreeCountsBehindView } from '../../core/results/three-counts-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Pages } from '../../ui/list/Pages';
import { turnTo } from '../../ui/list/turn-to';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Time } from '../../ui/text/Time';
import { dayWords } from '../../ui/text/time';
import { Words } from '../../ui/text/Words';

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
  const back = new URLSearchParams(query);
  for (const name of ['of', 'page']) back.delete(name);
  const columns: Column<BridgedRowView>[] = [
    {
      id: 'name',
      head: 'What',
      cell: ({ name, path }) =>
        path === null ? (
          name
        ) : (
          <a href={`/b/${business}${path}`} className="quiet-link">
            {name}
          </a>
        ),
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
    <StationFrame
      sentence={view.sentence}
      crumb={
        <a href={`/b/${business}/results/three-counts?${back}`} className="quiet-link">
          Three counts
        </a>
      }
      actions={
        <a href={`/api/b/${business}/results/three-counts/behind.csv?${query}`} className="button" download>
          Export CSV
        </a>
      }
    >
      <div className="mt-4">
        <DataTable
          label="Behind it"
          rows={rows}
          idOf={({ id }) => id}
          columns={columns}
          keys={{ Enter: ({ path }) => path !== null && location.assign(`/b/${business}${path}`) }}
          none="Nothing is known of them one by one."
        />
      </div>
      <Pages view={view} page={view.page} onPage={(next) => turnTo(query, next)} />
    </StationFrame>
  );
}
