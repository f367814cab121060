import type { JourneyRow, JourneysView } from '../../core/results/funnel-view';
import type { Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { RowsBehind } from './RowsBehind';

interface Props {
  business: string;
  initial: JourneysView;
  /** Query of the page. */
  search: string;
}

/** The journeys behind a figure of a funnel; each leads to all visits of its browser. */
export function JourneysPage(props: Props) {
  return (
    <Live>
      <Journeys {...props} />
    </Live>
  );
}

function Journeys({ business, initial, search }: Props) {
  const query = new URLSearchParams(search);
  const view = useView(`/api/b/${business}/results/funnel/behind?${query}`, initial);
  const { timeZone } = view;
  const hrefOf = ({ visitor }: JourneyRow) => `/b/${business}/results/visits?browser=${visitor}`;
  const columns: Column<JourneyRow>[] = [
    {
      id: 'at',
      head: 'Began',
      cell: (row) => (
        <a href={hrefOf(row)} className="quiet-link">
          <Time iso={row.at} timeZone={timeZone} />
        </a>
      ),
    },
    ...(view.rows.some(({ from }) => from !== '')
      ? [{ id: 'from', head: 'Brought by', cell: ({ from }: JourneyRow) => from }]
      : []),
    { id: 'last', head: 'Came as far as', cell: ({ last }) => <Words text={last} /> },
    { id: 'lastAt', head: 'When', cell: ({ lastAt }) => <Time iso={lastAt} timeZone={timeZone} /> },
    {
      id: 'instead',
      head: 'Opened next',
      cell: ({ instead }) => (instead === '' ? '' : <code className="value [overflow-wrap:anywhere]">{instead}</code>),
    },
  ];
  return (
    <RowsBehind
      view={view}
      query={query}
      own={['step', 'end', 'cell']}
      from={{ words: 'Funnel', path: `/b/${business}/results/funnel` }}
      csv={`/api/b/${business}/results/funnel/behind.csv`}
      label="Journeys"
      columns={columns}
      hrefOf={hrefOf}
      none="None in these days."
    />
  );
}
