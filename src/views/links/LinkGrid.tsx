import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react';
import {
  fillDown,
  landingColumn,
  pasteCells,
  readCell,
  readTabbed,
  writeCell,
  type GridRow,
  type MadeRow,
} from '../../core/links';
import type { Plan } from '../../core/plan';
import { count } from '../../core/strands';
import { Words } from '../../ui/text/Words';

export const mostRows = 5000;
const rowHeight = 36;

/** The grid itself: one row a link, only the rows in sight are drawn. */
export function LinkGrid({
  plan,
  rows,
  made,
  onRows,
  onUndo,
  onRedo,
}: {
  plan: Plan;
  rows: GridRow[];
  made: MadeRow[];
  onRows: (rows: GridRow[]) => void;
  onUndo: () => void;
  onRedo: () => void;
}) {
  const scroll = useRef<HTMLDivElement>(null);
  const [marked, setMarked] = useState(0);
  const columns = [landingColumn, ...plan.tags.map(({ tag }) => tag)];
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const template = `48px 330px ${columns
    .slice(1)
    .map((tag) => (tag === 'utm_campaign' ? '220px' : '130px'))
    .join(' ')} minmax(320px, 1fr)`;

  const focus = (row: number, column: string) => {
    virtual.scrollToIndex(row);
    requestAnimationFrame(() =>
      scroll.current?.querySelector<HTMLInputElement>(`[data-cell="${row} ${column}"]`)?.focus(),
    );
  };
  const onKey = (event: KeyboardEvent, row: number, column: string) => {
    const key = event.key.toLowerCase();
    const command = event.ctrlKey || event.metaKey;
    if (command && key === 'd') {
      const last = rows.findLastIndex((one) => one.landing !== '' || Object.values(one.tags).some(Boolean));
      onRows(fillDown(rows, column, row, Math.max(row + 1, last)));
    } else if (command && key === 'z') (event.shiftKey ? onRedo : onUndo)();
    else if (event.key === 'ArrowDown' || event.key === 'Enter') {
      if (row + 1 >= rows.length && rows.length < mostRows) onRows([...rows, { landing: '', tags: {} }]);
      focus(Math.min(mostRows - 1, row + 1), column);
    } else if (event.key === 'ArrowUp') focus(Math.max(0, row - 1), column);
    else return;
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent, row: number, column: string) => {
    const cells = readTabbed(event.clipboardData.getData('text/plain'));
    if (cells.length < 2 && (cells[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    onRows(pasteCells(rows, columns, { row, column }, cells, mostRows));
  };

  return (
    <>
      <div
        ref={scroll}
        className="sheet h-[min(52vh,430px)] overflow-auto"
        role="grid"
        tabIndex={0}
        aria-label="Links"
        aria-rowcount={rows.length}
      >
        <div className="bg-base-100 border-base-300 sticky top-0 z-10 w-max min-w-full border-b">
          <Row template={template}>
            <span className="text-quiet px-2 text-right">{''}</span>
            {columns.map((column) => (
              <span key={column} role="columnheader" className="text-quiet px-2.5">
                {column === landingColumn
                  ? 'Landing page'
                  : (plan.tags.find(({ tag }) => tag === column)?.name ?? column)}
              </span>
            ))}
            <span role="columnheader" className="text-quiet px-2.5">
              Link
            </span>
          </Row>
        </div>
        {/* The height of all rows, in which those in sight are placed. */}
        <svg className="block" width="1" height={virtual.getTotalSize()} aria-hidden="true" />
        <div className="relative">
          {virtual.getVirtualItems().map(({ index, start }) => (
            <GridLine
              key={index}
              ref={(element) => {
                if (element) element.style.top = `${start - virtual.getTotalSize()}px`;
              }}
              index={index}
              row={rows[index]!}
              made={made[index]}
              columns={columns}
              template={template}
              onCell={(column, value) =>
                onRows(rows.map((one, i) => (i === index ? writeCell(one, column, value) : one)))
              }
              onKey={(event, column) => onKey(event, index, column)}
              onPaste={(event, column) => onPaste(event, index, column)}
              onMark={() => setMarked(index)}
            />
          ))}
        </div>
      </div>
      <p className="mt-2 min-h-10" role="status">
        <span className="text-quiet">Row {marked + 1}: </span>
        <Outcome row={rows[marked]} made={made[marked]} />
      </p>
    </>
  );
}

/** What became of one row: its link, or what is wrong with it. */
function Outcome({ row, made }: { row: GridRow | undefined; made: MadeRow | undefined }) {
  const isEmpty = !row || (row.landing === '' && Object.values(row.tags).every((value) => value === ''));
  if (isEmpty) return <span className="text-quiet">empty</span>;
  if (!made) return <span className="text-quiet">being checked</span>;
  return (
    <>
      {made.problems.length > 0 && (
        <span className="text-error">
          <Words text={made.problems.map(({ words }) => words).join(' ')} />{' '}
        </span>
      )}
      {made.sameAs !== null && <span className="text-error">The same as row {count(made.sameAs + 1)}. </span>}
      {made.link && <code className="value">{made.link}</code>}
    </>
  );
}

function Row({ template, children }: { template: string; children: React.ReactNode }) {
  return (
    <div
      role="row"
      className="grid items-center py-1"
      ref={(element) => {
        if (element) element.style.gridTemplateColumns = template;
      }}
    >
      {children}
    </div>
  );
}

interface LineProps {
  ref: React.Ref<HTMLDivElement>;
  index: number;
  row: GridRow;
  made: MadeRow | undefined;
  columns: string[];
  template: string;
  onCell: (column: string, value: string) => void;
  onKey: (event: KeyboardEvent, column: string) => void;
  onPaste: (event: ClipboardEvent, column: string) => void;
  onMark: () => void;
}

function GridLine({ ref, index, row, made, columns, template, onCell, onKey, onPaste, onMark }: LineProps) {
  const isEmpty = row.landing === '' && Object.values(row.tags).every((value) => value === '');
  const problems = isEmpty ? [] : (made?.problems ?? []);
  const wrong = (column: string) =>
    problems.find(({ tag }) => tag === column || (column === landingColumn && tag === ''));
  return (
    <div ref={ref} onFocus={onMark} className="border-base-300 absolute h-9 w-max min-w-full border-b">
      <Row template={template}>
        <span className="text-quiet px-2 text-right tabular-nums">{index + 1}</span>
        {columns.map((column) => {
          const problem = wrong(column);
          return (
            <span key={column} role="gridcell" className="px-0.5">
              <input
                className={`value h-7 w-full rounded-[3px] bg-transparent px-2 ${problem ? 'border-error border-b-2' : ''}`}
                data-cell={`${index} ${column}`}
                aria-label={`${column}, row ${index + 1}`}
                aria-invalid={problem !== undefined}
                title={problem?.words.replaceAll('`', '')}
                value={readCell(row, column)}
                spellCheck={false}
                onChange={(event) => onCell(column, event.target.value)}
                onKeyDown={(event) => onKey(event, column)}
                onPaste={(event) => onPaste(event, column)}
              />
            </span>
          );
        })}
        <span role="gridcell" className="max-w-[560px] truncate px-2.5 text-[12.5px]">
          <Outcome row={row} made={made} />
        </span>
      </Row>
    </div>
  );
}
