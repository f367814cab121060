import { useState, type ClipboardEvent } from 'react';
import { readTabbed } from '../../core/links/cells';
import { ruleKind, type RuleChange, type RuleKindName, type RuleOf } from '../../core/rules';
import { columnsOf, rowOf, rowsFromCells, ruleOf, type Row, type RuleColumn } from '../../core/rules/rows';
import type { Beside } from '../../core/rules/says';
import { counted } from '../../core/strands';
import { FindField } from '../list/FindField';
import { sameRule } from '../../core/rules/same';
import { Words } from '../text/Words';
import { useDraft, type Conflict } from './useDraft';
import { WrongFields } from './WrongFields';

/** A row of the grid: the rule's own name, '' for one that is new here, and its cells. */
interface Line {
  id: string;
  cells: Row;
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
  const [past, setPast] = useState<Line[][]>([]);
  /** The draft's rules that are being changed here. */
  const [base, setBase] = useState(rules);
  const [lines, setLines] = useState(() => linesOf(rules));
  const [isTaken, setTaken] = useState(false);
  const [find, setFind] = useState('');
  const [many, setMany] = useState({ key: columns[0]!.key, value: '' });
  const { put, wrong, problem, conflicts } = useDraft(business);

  const write = (next: Line[]) => {
    setPast([...past.slice(-50), lines]);
    setLines(next);
  };
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
    setLines(linesOf(rules));
    setPast([]);
  }

  const setCell = (at: number, key: string, value: string) =>
    write(lines.map((line, i) => (i === at ? { ...line, cells: { ...line.cells, [key]: value } } : line)));
  const onPaste = (event: ClipboardEvent) => {
    const cells = readTabbed(event.clipboardData.getData('text/plain'));
    if (cells.length < 2 && (cells[0]?.length ?? 0) < 2) return;
    event.preventDefault();
    write([...lines, ...rowsFromCells(columns, cells).map((row) => ({ id: '', cells: row }))]);
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
              <Cell
                column={manyColumn}
                label="Value for all shown"
                value={many.value}
                onChange={(value) => setMany({ ...many, value })}
              />
            </span>
            <button
              type="button"
              className="button"
              disabled={shown.length === 0}
              onClick={() =>
                write(
                  lines.map((line, at) =>
                    isShown.has(at) ? { ...line, cells: { ...line.cells, [many.key]: many.value } } : line,
                  ),
                )
              }
            >
              in all {shown.length} shown
            </button>
            <button
              type="button"
              className="button"
              disabled={past.length === 0}
              onClick={() => {
                setLines(past.at(-1)!);
                setPast(past.slice(0, -1));
              }}
            >
              Undo
            </button>
          </>
        )}
      </div>
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              {columns.map(({ key, heading }) => (
                <th key={key} scope="col">
                  {heading}
                </th>
              ))}
              <th scope="col">
                <span className="sr-only">What to do</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map(({ line, at }) => (
              <tr key={at}>
                {columns.map((column) => (
                  <td key={column.key} className="px-1!">
                    <Cell
                      column={column}
                      label={`${column.heading}, row ${at + 1}`}
                      value={line.cells[column.key] ?? ''}
                      disabled={disabled}
                      onChange={(value) => setCell(at, column.key, value)}
                    />
                  </td>
                ))}
                <td className="whitespace-nowrap">
                  {!disabled && (
                    <button
                      type="button"
                      className="quiet-link cursor-pointer"
                      aria-label={`Duplicate row ${at + 1}`}
                      onClick={() =>
                        write([...lines.slice(0, at + 1), { id: '', cells: { ...line.cells } }, ...lines.slice(at + 1)])
                      }
                    >
                      Duplicate
                    </button>
                  )}
                </td>
              </tr>
            ))}
            {shown.length === 0 && (
              <tr>
                <td colSpan={columns.length + 1} className="text-quiet">
                  {find
                    ? 'Nothing matches what you look for.'
                    : 'No rule yet. Paste rows from a spreadsheet, or add one.'}
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
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
            <WrongFields wrong={wrong} problem={problem} />
          )}
          <div className="flex flex-wrap items-center gap-2">
            <button
              type="button"
              className="button button-strong"
              disabled={changed.length === 0 || put.isPending || conflicts.length > 0}
              onClick={() => onPut()}
            >
              {changed.length === 0 ? 'Put into the draft' : `Put ${changed.length} into the draft`}
            </button>
            <button type="button" className="button" onClick={() => write([...lines, { id: '', cells: {} }])}>
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

function Cell({
  column,
  label,
  value,
  onChange,
  disabled = false,
}: {
  column: RuleColumn;
  label: string;
  value: string;
  onChange: (value: string) => void;
  disabled?: boolean;
}) {
  if (column.options)
    return (
      <select
        className={`field w-full ${column.wide ? 'min-w-36' : 'min-w-24'}`}
        aria-label={label}
        value={value || column.options[0]![0]}
        disabled={disabled}
        onChange={(event) => onChange(event.target.value)}
      >
        {column.options.map(([option, words]) => (
          <option key={option} value={option}>
            {words}
          </option>
        ))}
      </select>
    );
  return (
    <input
      className={`field value w-full ${column.wide ? 'min-w-36' : 'min-w-24'}`}
      aria-label={label}
      value={value}
      disabled={disabled}
      spellCheck={false}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
