import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, useState, type ClipboardEvent, type KeyboardEvent, type MouseEvent, type ReactNode } from 'react';
import { CellField, type CellShape } from './CellField';
import { fillDown, isBlank, pasteCells, readTabbed, type CellColumn, type Cells } from '../../core/grid/cells';

export interface GridColumn extends CellColumn, CellShape {
  /** Px. */
  width: number;
}

interface Props {
  label: string;
  columns: readonly GridColumn[];
  rows: readonly Cells[];
  /** Called with all rows as they are to be; rows that were added stand last. */
  onRows: (rows: Cells[]) => void;
  onUndo: () => void;
  onRedo: () => void;
  /** Rows at most. */
  most: number;
  disabled?: boolean;
  /** What is wrong with a cell, in words. */
  wrong?: (row: number, key: string) => string | undefined;
  /** A last column that is shown and not written: what became of each row, or what to do with it. */
  end?: { heading: string; isHeadHidden?: boolean; width: number; cell: (row: number) => ReactNode };
  /** The row one is in. */
  onMark?: (row: number) => void;
  /** What stands in place of rows where there are none. */
  none?: ReactNode;
  className?: string;
}

const rowHeight = 36;

/** The cells of one column that keys act on: from where the marking began to where it goes. */
interface Marked {
  key: string;
  from: number;
  to: number;
}

/**
 * A grid of cells to write in, as in a spreadsheet: Enter and the arrows move, Shift marks several cells of a column,
 * Ctrl D fills them from the first, Delete empties them, Ctrl Z takes a step back, cells are pasted in from where one
 * is. Only the rows in sight are drawn.
 */
export function EditGrid(props: Props) {
  const { label, columns, rows, onRows, most, end, none, disabled = false } = props;
  const scroll = useRef<HTMLDivElement>(null);
  const [marked, setMarked] = useState<Marked | null>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    // What the server draws, before anything is measured.
    initialRect: { width: 1000, height: 430 },
  });
  // Every row is as wide as the others, so that columns are in line; room that is left goes to all of them.
  const widths = [...columns.map(({ width }) => width), ...(end ? [end.width] : [])];
  const look = {
    columns: ['48px', ...widths.map((width) => `minmax(${width}px, ${width}fr)`)].join(' '),
    width: `${widths.reduce((sum, width) => sum + width, 48)}px`,
  };

  const focus = (row: number, key: string) => {
    const cell = () => scroll.current?.querySelector<HTMLElement>(`[data-cell="${row} ${key}"]`);
    virtual.scrollToIndex(row);
    // One that is drawn has the next key, however fast that comes.
    if (cell()) cell()!.focus();
    else requestAnimationFrame(() => cell()?.focus());
  };
  const range = (row: number, key: string): [first: number, last: number] =>
    marked?.key === key && marked.to === row
      ? [Math.min(marked.from, marked.to), Math.max(marked.from, marked.to)]
      : [row, row];
  const moveTo = (to: number, from: number, key: string, isMarking: boolean) => {
    const began = marked?.key === key && marked.to === from ? marked.from : from;
    setMarked({ key, from: isMarking ? began : to, to });
    focus(to, key);
  };

  const onKey = (event: KeyboardEvent, row: number, key: string) => {
    const pressed = event.key.toLowerCase();
    const isMarking = event.shiftKey;
    const [first, last] = range(row, key);
    if (event.ctrlKey || event.metaKey) {
      const lastFilled = rows.findLastIndex((cells) => !isBlank(cells));
      if (pressed === 'd') onRows(fillDown(rows, key, first, last));
      else if (pressed === 'z') (isMarking ? props.onRedo : props.onUndo)();
      else if (pressed === 'arrowdown' && isMarking) moveTo(Math.max(row, lastFilled), row, key, true);
      else if (pressed === 'arrowup' && isMarking) moveTo(0, row, key, true);
      else return;
    } else if (pressed === 'arrowdown' && isMarking) moveTo(Math.min(rows.length - 1, row + 1), row, key, true);
    else if (pressed === 'arrowup') moveTo(Math.max(0, row - 1), row, key, isMarking);
    else if (pressed === 'arrowdown' || pressed === 'enter') {
      const isLast = row + 1 >= rows.length;
      if (isLast && rows.length < most) onRows([...rows, {}]);
      moveTo(isLast && rows.length >= most ? row : row + 1, row, key, false);
    } else if (pressed === 'delete' && last > first)
      onRows(rows.map((cells, at) => (at >= first && at <= last ? { ...cells, [key]: '' } : cells)));
    else return;
    event.preventDefault();
  };
  const onPaste = (event: ClipboardEvent, row: number, key: string) => {
    const texts = readTabbed(event.clipboardData.getData('text/plain'));
    if (texts.length < 2 && (texts[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    onRows(pasteCells(rows, columns, { row, key }, texts, most));
  };

  const isMarked = (row: number, key: string) => {
    if (marked?.key !== key || marked.from === marked.to) return false;
    const [first, last] = [Math.min(marked.from, marked.to), Math.max(marked.from, marked.to)];
    return row >= first && row <= last;
  };
  return (
    <div
      ref={scroll}
      className={`overflow-auto ${props.className ?? ''}`}
      role="grid"
      tabIndex={0}
      aria-label={label}
      aria-rowcount={rows.length + 1}
    >
      <div
        ref={(element) => {
          if (element) element.style.minWidth = look.width;
        }}
        className="bg-base-100 border-base-300 sticky top-0 z-10 w-full border-b"
      >
        <Row look={look}>
          <span role="columnheader" className="text-quiet px-2 text-right">
            <span className="sr-only">Row</span>
          </span>
          {columns.map(({ key, heading }) => (
            <span key={key} role="columnheader" className="text-quiet px-2.5">
              {heading}
            </span>
          ))}
          {end && (
            <span role="columnheader" className={end.isHeadHidden ? 'sr-only' : 'text-quiet px-2.5'}>
              {end.heading}
            </span>
          )}
        </Row>
      </div>
      {rows.length === 0 && none && (
        <div role="row">
          <p role="gridcell" className="text-quiet px-4 py-2">
            {none}
          </p>
        </div>
      )}
      {/* The height of all rows, in which those in sight are placed. */}
      <svg className="block" width="1" height={virtual.getTotalSize()} aria-hidden="true" />
      <div className="relative">
        {virtual.getVirtualItems().map(({ index, start }) => (
          <div
            key={index}
            ref={(element) => {
              if (!element) return;
              element.style.top = `${start - virtual.getTotalSize()}px`;
              element.style.minWidth = look.width;
            }}
            onFocus={() => props.onMark?.(index)}
            className="border-base-300 absolute h-9 w-full border-b"
          >
            <Row look={look}>
              <span role="gridcell" className="text-quiet px-2 text-right tabular-nums">
                {index + 1}
              </span>
              {columns.map((column) => (
                <span
                  key={column.key}
                  role="gridcell"
                  aria-selected={isMarked(index, column.key)}
                  className={`px-0.5 ${isMarked(index, column.key) ? 'bg-base-300' : ''}`}
                >
                  <CellField
                    column={column}
                    data-cell={`${index} ${column.key}`}
                    aria-label={`${column.heading}, row ${index + 1}`}
                    aria-invalid={props.wrong?.(index, column.key) !== undefined}
                    title={props.wrong?.(index, column.key)}
                    className={`h-7 w-full rounded-[3px] bg-transparent px-2 ${props.wrong?.(index, column.key) ? 'border-error border-b-2' : ''}`}
                    value={rows[index]![column.key] ?? ''}
                    disabled={disabled}
                    onChange={(value) =>
                      onRows(rows.map((cells, at) => (at === index ? { ...cells, [column.key]: value } : cells)))
                    }
                    onKeyDown={(event: KeyboardEvent) => onKey(event, index, column.key)}
                    onPaste={(event: ClipboardEvent) => onPaste(event, index, column.key)}
                    onMouseDown={(event: MouseEvent) => setMarked(markedBy(event.shiftKey, marked, index, column.key))}
                  />
                </span>
              ))}
              {end && (
                <span role="gridcell" className="truncate px-2.5 text-[12.5px]">
                  {end.cell(index)}
                </span>
              )}
            </Row>
          </div>
        ))}
      </div>
    </div>
  );
}

/** What is marked after a press on a cell; with Shift all from where the marking began. */
const markedBy = (isMarking: boolean, marked: Marked | null, row: number, key: string): Marked =>
  isMarking && marked?.key === key ? { ...marked, to: row } : { key, from: row, to: row };

function Row({ look, children }: { look: { columns: string; width: string }; children: ReactNode }) {
  return (
    <div
      role="row"
      className="grid items-center py-1"
      ref={(element) => {
        if (element) element.style.gridTemplateColumns = look.columns;
      }}
    >
      {children}
    </div>
  );
}
