import { useState } from 'react';
import { isBlank } from '../../core/grid/cells';
import { cellsOf, landingColumn, linkColumns, rowOfCells, type GridRow, type MadeRow } from '../../core/links';
import type { Plan } from '../../core/plan';
import { count } from '../../core/strands';
import { EditGrid } from '../../ui/grid/EditGrid';
import { Words } from '../../ui/text/Words';

export const mostRows = 5000;

const widthOf = (key: string) => (key === landingColumn ? 330 : key === 'utm_campaign' ? 220 : 130);

/** Links as a grid: one row each, with what is wrong in it and the link it makes. */
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
  const [marked, setMarked] = useState(0);
  const cells = rows.map(cellsOf);
  const wrong = (row: number, key: string) => {
    if (isBlank(cells[row]!)) return undefined;
    const found = made[row]?.problems.find(({ tag }) => tag === key || (key === landingColumn && tag === ''));
    return found?.words.replaceAll('`', '');
  };
  const columns = linkColumns(plan).map((column) => ({ ...column, width: widthOf(column.key) }));
  const outcome = (row: number) => <Outcome isEmpty={!cells[row] || isBlank(cells[row])} made={made[row]} />;
  return (
    <>
      <EditGrid
        className="sheet h-[min(52vh,430px)]"
        label="Links"
        columns={columns}
        rows={cells}
        onRows={(next) => onRows(next.map(rowOfCells))}
        onUndo={onUndo}
        onRedo={onRedo}
        most={mostRows}
        wrong={wrong}
        end={{ heading: 'Link', width: 420, cell: outcome }}
        onMark={setMarked}
      />
      <p className="mt-2 min-h-10" role="status">
        <span className="text-quiet">Row {marked + 1}: </span>
        {outcome(marked)}
      </p>
    </>
  );
}

/** What became of one row: its link, or what is wrong with it. */
function Outcome({ isEmpty, made }: { isEmpty: boolean; made: MadeRow | undefined }) {
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
