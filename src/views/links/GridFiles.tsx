import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { writeTabbed } from '../../core/grid/cells';
import { cellsOf, linkColumns, type GridRow } from '../../core/links';
import type { MakingView } from '../../core/links/view';
import { counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { Copy } from '../../ui/text/Copy';
import { sendFile, sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

interface FileRows {
  rows: GridRow[];
  problems: { row: number; was: string; fix: string }[];
}

/** The grid from and to files, with the columns in the order that a platform's upload wants. */
export function GridFiles({
  business,
  view,
  rows,
  onRows,
}: {
  business: string;
  view: MakingView;
  rows: GridRow[];
  onRows: (rows: GridRow[]) => void;
}) {
  const client = useQueryClient();
  const usual = ['link', 'landing', ...view.plan.tags.map(({ tag }) => tag)].join(', ');
  const [order, setOrder] = useState('');
  const [columns, setColumns] = useState(usual);
  const [name, setName] = useState('');
  const [problems, setProblems] = useState<FileRows['problems']>([]);
  const listed = columns
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);
  const keys = linkColumns(view.plan).map(({ key }) => key);
  const cells = writeTabbed([keys, ...rows.map(cellsOf).map((row) => keys.map((key) => row[key] ?? ''))]);
  const save = useMutation({
    mutationFn: () =>
      sendJson(`/api/b/${business}/column-orders`, {
        name,
        columns: listed,
        ...(order === '' ? {} : { replaces: order }),
      }),
    onSuccess: () => client.invalidateQueries(),
  });
  const read = useMutation({
    mutationFn: (file: File) => sendFile<FileRows>(`/api/b/${business}/links/file`, file),
    onSuccess: (found) => {
      setProblems(found.problems);
      if (found.rows.length > 0) onRows(found.rows);
    },
  });
  const write = useMutation({
    mutationFn: async (format: 'csv' | 'xlsx') => {
      const answer = await fetch(`/api/b/${business}/links/write`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ format, columns: listed, rows }),
      });
      if (!answer.ok) throw new Error(((await answer.json()) as { detail: string }).detail);
      const address = URL.createObjectURL(await answer.blob());
      const link = Object.assign(document.createElement('a'), { href: address, download: `links.${format}` });
      link.click();
      URL.revokeObjectURL(address);
    },
  });
  const error = save.error ?? read.error ?? write.error;
  return (
    <section className="mt-4" aria-label="Files">
      <div className="flex flex-wrap items-end gap-3">
        <FileButton words="Import" accept=".csv,.xlsx" onFile={(file) => read.mutate(file)} />
        <button type="button" className="button" disabled={rows.length === 0} onClick={() => write.mutate('csv')}>
          Export CSV
        </button>
        <button type="button" className="button" disabled={rows.length === 0} onClick={() => write.mutate('xlsx')}>
          Export XLSX
        </button>
        {rows.length > 0 && <Copy key={cells.length} text={cells} words="Copy cells" />}
        <label>
          <span className="text-quiet block text-[12.5px]">Columns in the order of</span>
          <select
            className="field mt-0.5"
            value={order}
            onChange={(event) => {
              setOrder(event.target.value);
              const known = view.columnOrders.find((one) => one.name === event.target.value);
              setColumns(known ? known.columns.join(', ') : usual);
              setName(known?.name ?? '');
            }}
          >
            <option value="">the plan</option>
            {view.columnOrders.map((one) => (
              <option key={one.name}>{one.name}</option>
            ))}
          </select>
        </label>
        <label className="min-w-64 flex-1">
          <span className="text-quiet block text-[12.5px]">
            Columns: link, landing, a tag; “as Address” behind one renames it
          </span>
          <input
            className="field value mt-0.5 w-full"
            value={columns}
            spellCheck={false}
            onChange={(event) => setColumns(event.target.value)}
          />
        </label>
        {view.mayChange && (
          <form
            className="flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              save.mutate();
            }}
          >
            <input
              className="field w-40"
              placeholder="Name this order"
              aria-label="Name of the order"
              value={name}
              onChange={(event) => setName(event.target.value)}
            />
            <button
              className="button"
              disabled={name.trim() === ''}
              title={name.trim() === '' ? 'Name the order to save it.' : undefined}
            >
              Save
            </button>
          </form>
        )}
      </div>
      {error && (
        <p role="alert" className="text-error mt-2">
          <Words text={error.message} />
        </p>
      )}
      {problems.length > 0 && (
        <div role="alert" className="mt-2">
          <p className="text-error">{counted(problems.length, 'row was', 'rows were')} not taken from the file:</p>
          <ul>
            {problems.slice(0, 20).map(({ row, was, fix }) => (
              <li key={`${row} ${was}`}>
                Row {row}: {was}. {fix}
              </li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}
