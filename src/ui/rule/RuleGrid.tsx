import { useState, type ClipboardEvent } from 'react';
import { placeCells, readTabbed, type Cells } from '../../core/grid/cells';
import { ruleKind, type RuleChange, type RuleKindName, type RuleOf } from '../../core/rules';
import { columnsOf, rowOf, ruleOf, type RuleColumn } from '../../core/rules/rows';
import type { Beside } from '../../core/rules/says';
import { counted } from '../../core/strands';
import { CellField } from '../grid/CellField';
import { EditGrid } from '../grid/EditGrid';
import { useHistory } from '../grid/useHistory';
import { FindField } from '../list/FindField';
import { sameRule } from '../../core/rules/same';
import { Words } from '../text/Words';
import { useDraft, type Conflict } from './useDraft';
import { WrongFields } from './WrongFields';

/** Rows at most. */
const mostLines = 500;

const widthOf = ({ options, wide }: RuleColumn) => (options ? (wide ? 128 : 92) : wide ? 140 : 120);

/** A row of the grid: the rule's own name, '' for one that is new here, and its cells. */
interface Line {
  id: string;
  cells: Cells;
}

/**
 * Rules of one kind as a grid: found, duplicated, pasted from a spreadsheet, many changed at a time. Nothing is in the
 * draft before it is put there.
 */
export function RuleGrid<Kind extends RuleKindName>({
  business,
  kind,
  label,
  stored: rules,
  beside,
  disabled,
}: {
  business: string;
  kind: Kind;
  label: string;
  /** The rules as the draft has them. */
  stored: RuleOf<Kind>[];
  beside: Beside;
  disabled: boolean;
}) {
  const { says, at: place, start } = ruleKind(kind);
  const columns = columnsOf(says, beside);
  const linesOf = (all: RuleOf<Kind>[]): Line[] =>
    all.map((rule) => ({ id: place.idOf(rule), cells: rowOf(says, rule) }));
  /** The draft's rules that are being changed here. */
  const [base, setBase] = useState(rules);
  const history = useHistory(() => linesOf(rules));
  const lines = history.value;
  const [isTaken, setTaken] = useState(false);
  const [find, setFind] = useState('');
  const [many, setMany] = useState({ key: columns[0]!.key, value: '' });
  const { put, wrong, problem, conflicts } = useDraft(business);

  const shown = lines
    .map((line, at) => ({ line, at }))
    .filter(({ line }) => Object.values(line.cells).join(' ').toLowerCase().includes(find.toLowerCase()));
  const isShown = new Set(shown.map(({ at }) => at));
  const before = new Map(linesOf(base).map((line) => [line.id, JSON.stringify(line.cells)]));
  const changed = lines.filter(({ id, cells }) => before.get(id) !== JSON.stringify(cells));
  // Nothing that is written here goes when the draft changes beneath it.
  if (isTaken || (changed.length === 0 && !sameRule(base, rules))) {
    setTaken(false);
    setBase(rules);
    history.begin(linesOf(rules));
  }

  /** Takes the rows that are shown as they are to be; what was added is new. */
  const onRows = (next: Cells[]) => {
    const written = lines.map((line) => ({ ...line }));
    for (const [at, cells] of next.entries())
      if (shown[at]) written[shown[at].at]!.cells = cells;
      else written.push({ id: '', cells });
    history.set(written);
  };
  const onPaste = (event: ClipboardEvent) => {
    const texts = readTabbed(event.clipboardData.getData('text/plain'));
    // What is pasted into a cell goes there.
    if (event.defaultPrevented || (texts.length < 2 && (texts[0]?.length ?? 0) < 2)) return;
    event.preventDefault();
    history.set([...lines, ...placeCells(columns, texts).map((cells) => ({ id: '', cells }))]);
  };
  /** Puts what differs; `over` what others changed meanwhile. */
  const onPut = (over: Conflict[] = []) => {
    const names = lines.map(({ id }) => id).filter(Boolean);
    const changes = changed.map(({ id, cells }): RuleChange => {
      const known = base.find((rule) => place.idOf(rule) === id) ?? null;
      const value = ruleOf(says, cells, known ?? start!(beside, names), beside);
      const name = id || place.idOf(value);
      names.push(name);
      const theirs = over.find((one) => one.id === name);
      return { kind, id: name, value, from: theirs ? theirs.theirs : known };
    });
    put.mutate(changes, { onSuccess: () => setTaken(true) });
  };
  const duplicate = (row: number) => (
    <button
      type="button"
      className="quiet-link cursor-pointer"
      aria-label={`Duplicate row ${row + 1}`}
      onClick={() => {
        const { line, at } = shown[row]!;
        const copy = { id: '', cells: { ...line.cells } };
        history.set([...lines.slice(0, at + 1), copy, ...lines.slice(at + 1)]);
      }}
    >
      Duplicate
    </button>
  );
  const manyColumn = columns.find(({ key }) => key === many.key)!;

  return (
    <section className="sheet" aria-label={label} onPaste={disabled ? undefined : onPaste}>
      <div className="border-base-300 flex flex-wrap items-center gap-2 border-b px-4 py-2.5">
        <FindField what="Any cell" value={find} onFind={setFind} width="w-44" />
        {!disabled && (
          <>
            <span className="text-quiet ml-2">Set</span>
            <select
              className="field"
              aria-label="Column to change"
              value={many.key}
              onChange={(event) => setMany({ key: event.target.value, value: '' })}
            >
              {columns.map(({ key, heading }) => (
                <option key={key} value={key}>
                  {heading}
                </option>
              ))}
            </select>
            <span className="text-quiet">to</span>
            <span className="w-48">
              <CellField
                column={manyColumn}
                aria-label="Value for all shown"
                className="field w-full"
                value={many.value}
                onChange={(value) => setMany({ ...many, value })}
              />
            </span>
            <button
              type="button"
              className="button"
              disabled={shown.length === 0}
              onClick={() =>
                history.set(
                  lines.map((line, at) =>
                    isShown.has(at) ? { ...line, cells: { ...line.cells, [many.key]: many.value } } : line,
                  ),
                )
              }
            >
              in all {shown.length} shown
            </button>
            <button type="button" className="button" disabled={!history.canUndo} onClick={history.undo}>
              Undo
            </button>
          </>
        )}
      </div>
      <EditGrid
        className="max-h-[60vh]"
        label={label}
        columns={columns.map((column) => ({ ...column, width: widthOf(column) }))}
        rows={shown.map(({ line }) => line.cells)}
        onRows={onRows}
        onUndo={history.undo}
        onRedo={history.redo}
        most={mostLines}
        disabled={disabled}
        {...(disabled ? {} : { end: { heading: 'What to do', isHeadHidden: true, width: 84, cell: duplicate } })}
        none={find ? 'Nothing matches what you look for.' : 'No rule yet. Paste rows from a spreadsheet, or add one.'}
      />
      {!disabled && (
        <div className="border-base-300 border-t px-4 py-3">
          {conflicts.length > 0 ? (
            <Conflicts
              conflicts={conflicts}
              onOver={() => onPut(conflicts)}
              onTheirs={() => {
                put.reset();
                setTaken(true);
              }}
            />
          ) : (
            <WrongFields kind={kind} wrong={wrong} problem={problem} />
          )}
          <div className="flex flex-wrap items-center gap-2">
            <button
              type="button"
              className="button button-strong"
              disabled={changed.length === 0 || put.isPending || conflicts.length > 0}
              onClick={() => onPut()}
            >
              {changed.length === 0 ? 'Add to draft' : `Add ${changed.length} to draft`}
            </button>
            <button type="button" className="button" onClick={() => history.set([...lines, { id: '', cells: {} }])}>
              Add a row
            </button>
            <span className="text-quiet">
              {changed.length > 0
                ? `${counted(changed.length, 'row differs', 'rows differ')} from the draft; only on this screen so far.`
                : 'As the draft has them. Rows copied from a spreadsheet can be pasted here.'}
            </span>
          </div>
        </div>
      )}
    </section>
  );
}

/** Rules of the grid that others changed meanwhile. */
function Conflicts({
  conflicts,
  onOver,
  onTheirs,
}: {
  conflicts: Conflict[];
  onOver: () => void;
  onTheirs: () => void;
}) {
  return (
    <div role="alert" className="mb-3">
      <ul>
        {conflicts.map(({ kind, id, by, theirSentence }) => (
          <li key={`${kind} ${id}`}>
            <span className="text-error font-semibold">{by} changed one meanwhile:</span>{' '}
            {theirSentence === null ? 'it is taken out.' : <Words text={theirSentence} />}
          </li>
        ))}
      </ul>
      <div className="mt-2 flex gap-2">
        <button type="button" className="button" onClick={onTheirs}>
          Drop what is written here
        </button>
        <button type="button" className="button" onClick={onOver}>
          Replace {conflicts.length === 1 ? 'it' : 'them'} with yours
        </button>
      </div>
    </div>
  );
}
