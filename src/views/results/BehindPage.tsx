import { figureText } from '../../core/results/figure-text';
import type { BehindRow, BehindView } from '../../core/results/figures-view';
import { count } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Pages } from '../../ui/list/Pages';
import { turnTo } from '../../ui/list/turn-to';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Time } from '../../ui/text/Time';

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
  const { of, currency, timeZone, page } = view;
  const back = new URLSearchParams(query);
  for (const name of ['of', 'row', 'page']) back.delete(name);
  const columns: Column<BehindRow>[] = [
    {
      id: 'name',
      head: 'Who or what',
      cell: ({ name, path }) =>
        path === null ? (
          name
        ) : (
          <a href={`/b/${business}${path}`} className="quiet-link">
            {name}
          </a>
        ),
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
    <StationFrame
      sentence={view.sentence}
      crumb={
        <a href={`/b/${business}/results?${back}`} className="quiet-link">
          Figures
        </a>
      }
      actions={
        <a href={`/api/b/${business}/results/behind.csv?${query}`} className="button" download>
          Export CSV
        </a>
      }
    >
      <div className="mt-4">
        <DataTable
          label="Behind the figure"
          rows={view.rows}
          idOf={({ id }) => id}
          columns={columns}
          keys={{ Enter: ({ path }) => path !== null && location.assign(`/b/${business}${path}`) }}
          none="Nothing is behind this figure."
        />
      </div>
      <Pages view={view} page={page} onPage={(next) => turnTo(query, next)} />
    </StationFrame>
  );
}
