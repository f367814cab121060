import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { readTabbed } from '../../core/grid/cells';
import { combine, landingColumn, repairRows, type GridRow } from '../../core/links';
import type { MakingView } from '../../core/links/view';
import { count, counted } from '../../core/strands';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { keepWritten, readWritten } from '../../ui/form/written';
import { useHistory } from '../../ui/grid/useHistory';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { GridFiles } from './GridFiles';
import { LinkGrid, mostRows } from './LinkGrid';
import { LinksFrame } from './LinksFrame';
import { useMadeRows } from './useMadeRows';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: MakingView;
}

/** Many links at once: pages with tag sets, or cells pasted from a spreadsheet; checked while they are written. */
export function GridPage(props: Props) {
  return (
    <Live>
      <Grid {...props} />
    </Live>
  );
}

const emptyRows = (): GridRow[] => Array.from({ length: 12 }, () => ({ landing: '', tags: {} }));
const isEmpty = ({ landing, tags }: GridRow) => landing === '' && Object.values(tags).every((value) => value === '');

function Grid({ business, initial }: Props) {
  const api = `/api/b/${business}/links`;
  const client = useQueryClient();
  const view = useView(`${api}/making`, initial);
  const place = `${business} many links`;
  const rows = useHistory(emptyRows);
  const { begin } = rows;
  useEffect(() => {
    const written = readWritten<GridRow[]>(place);
    if (written) begin(written);
  }, [place, begin]);
  const { made, busy } = useMadeRows(view.plan, rows.value);
  const filled = rows.value.map((row, index) => ({ row, index })).filter(({ row }) => !isEmpty(row));
  const links = filled.flatMap(({ index }) => made[index]?.link || []);
  const wrong = filled.filter(({ index }) => (made[index]?.problems.length ?? 0) > 0).length;
  const doubled = filled.filter(({ index }) => typeof made[index]?.sameAs === 'number').length;
  const keep = useMutation({
    mutationFn: () =>
      sendJson(api, {
        links: filled
          .filter(({ index }) => made[index]?.link)
          .map(({ row }) => ({
            landing: row.landing,
            tags: Object.fromEntries(Object.entries(row.tags).filter(([, value]) => value !== '')),
          })),
      }) as Promise<{ added: number; known: number }>,
    onSuccess: () => {
      keepWritten(place, null);
      return client.invalidateQueries();
    },
  });
  const repair = repairRows(rows.value, filled.length > 0 ? made : []);
  const set = (next: GridRow[]) => {
    rows.set(next);
    keepWritten(place, next.every(isEmpty) ? null : next);
    keep.reset();
  };
  const sentence =
    filled.length === 0
      ? {
          title: 'Paste cells, or put pages and a tag set together.',
          under: 'A first row that names the columns is understood. Up to 5,000 links at a time.',
        }
      : {
          title: `${counted(links.length, 'link', 'links')}, ${wrong === 0 ? 'all on plan' : `${count(wrong)} with something wrong`}.`,
          under: `${busy ? 'Checking … ' : ''}${doubled > 0 ? `${counted(doubled, 'row is', 'rows are')} there twice. ` : ''}Shift and arrows mark cells, Ctrl D fills them, Ctrl Z undoes.`,
        };
  return (
    <LinksFrame
      business={business}
      section="Make many"
      sentence={sentence}
      actions={
        <div className="flex items-start gap-2">
          {keep.data && (
            <span className="text-success py-1" role="status">
              {count(keep.data.added)} saved{keep.data.known > 0 && `, ${count(keep.data.known)} were there`}
            </span>
          )}
          {repair.repaired > 0 && (
            <button type="button" className="button" disabled={busy} onClick={() => set(repair.rows)}>
              Repair {count(repair.repaired)}
            </button>
          )}
          <Copy key={links.length} text={links.join('\n')} words={`Copy ${count(links.length)}`} byKey />
          {view.mayChange && (
            <button
              type="button"
              className="button button-strong"
              disabled={links.length === 0 || busy || keep.isPending}
              onClick={() => keep.mutate()}
            >
              Save {count(links.length)}
            </button>
          )}
        </div>
      }
    >
      {keep.error && (
        <p role="alert" className="text-error mb-3">
          <Words text={keep.error.message} />
        </p>
      )}
      <Combine
        view={view}
        onRows={(next) => set([...rows.value.filter((row) => !isEmpty(row)), ...next].slice(0, mostRows))}
      />
      <LinkGrid plan={view.plan} rows={rows.value} made={made} onRows={set} onUndo={rows.undo} onRedo={rows.redo} />
      <GridFiles business={business} view={view} rows={filled.map(({ row }) => row)} onRows={set} />
    </LinksFrame>
  );
}

/** Puts pages and a tag set together: a row for every page with every combination. */
function Combine({ view, onRows }: { view: MakingView; onRows: (rows: GridRow[]) => void }) {
  const [pages, setPages] = useState('');
  const [setId, setSetId] = useState('');
  const set = view.tagSets.find(({ id }) => id === setId);
  const landings = readTabbed(pages)
    .map(([page = '']) => page)
    .filter((page) => page !== landingColumn);
  const { rows, leftOut } = set ? combine(landings, set, mostRows) : { rows: [], leftOut: 0 };
  return (
    <section className="sheet mb-4 flex flex-wrap items-end gap-4 px-5 py-3" aria-label="Pages and a tag set">
      <label className="min-w-72 flex-1">
        <span className="text-quiet block text-[12.5px]">Pages, one a line</span>
        <textarea
          className="field value mt-0.5 block h-16 w-full"
          value={pages}
          spellCheck={false}
          placeholder={view.landings.slice(0, 2).join('\n')}
          onChange={(event) => setPages(event.target.value)}
        />
      </label>
      <label>
        <span className="text-quiet block text-[12.5px]">Tag set</span>
        <select className="field mt-0.5" value={setId} onChange={(event) => setSetId(event.target.value)}>
          <option value="">{view.tagSets.length === 0 ? 'none is saved yet' : 'pick one'}</option>
          {view.tagSets.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <button
        type="button"
        className="button"
        disabled={rows.length === 0}
        title={rows.length === 0 ? 'Give at least one page and pick a tag set.' : undefined}
        onClick={() => {
          onRows(rows);
          setPages('');
        }}
      >
        {rows.length === 0 ? 'Put together' : `Put ${count(rows.length)} together`}
      </button>
      {leftOut > 0 && <span className="text-error">{count(leftOut)} do not fit.</span>}
    </section>
  );
}
