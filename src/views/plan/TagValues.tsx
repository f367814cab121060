import { X } from 'lucide-react';
import { useState, type ClipboardEvent } from 'react';
import type { PlannedValue, TagRule } from '../../core/plan';
import { count, counted } from '../../core/strands';
import { FindField } from '../../ui/list/FindField';

/** Rows of a list that are drawn; more are found by their text. */
const mostDrawn = 200;

/** The allowed values of a tag, each with what people read and how often it arrived. Cells may be pasted in. */
export function TagValues({
  rule,
  counts,
  mayChange,
  onEdit,
}: {
  rule: TagRule;
  counts: Record<string, number>;
  mayChange: boolean;
  onEdit: (values: PlannedValue[]) => void;
}) {
  const [find, setFind] = useState('');
  /** The row that was just added, which is written next. */
  const [added, setAdded] = useState(-1);
  const { values } = rule;
  const shown = values
    .map((planned, index) => ({ ...planned, index }))
    .filter(({ value, label }) => `${value} ${label}`.toLowerCase().includes(find.toLowerCase()));
  const set = (index: number, part: Partial<PlannedValue>) =>
    onEdit(values.map((planned, i) => (i === index ? { ...planned, ...part } : planned)));

  /** A line for each value, a tab before what people read: as a spreadsheet copies two columns. */
  const paste = (event: ClipboardEvent) => {
    const text = event.clipboardData.getData('text/plain');
    if (!/[\n\t]/.test(text.trim())) return;
    event.preventDefault();
    const known = new Set(values.map(({ value }) => value));
    const added = text
      .split(/\r?\n/)
      .map((line) => line.split('\t').map((cell) => cell.trim()))
      .flatMap(([value = '', label = '']) =>
        value && !known.has(value) && known.add(value) ? [{ value, label }] : [],
      );
    onEdit([...values.filter(({ value }) => value !== ''), ...added]);
  };

  return (
    <div className="border-base-300 border-t" onPaste={mayChange ? paste : undefined}>
      <div className="flex items-center justify-between gap-3 px-5 pt-3">
        <h2 className="text-base">
          {values.length === 0 ? 'No value is listed' : counted(values.length, 'value', 'values')}
        </h2>
        {values.length > 12 && <FindField what="Find a value" label="Find a value" width="w-48" onFind={setFind} />}
      </div>
      <table className="rows mt-1 [&_td:first-child]:pl-5 [&_th:first-child]:pl-5">
        <thead>
          <tr>
            <th scope="col">In links</th>
            <th scope="col">As people read it</th>
            <th scope="col" className="text-right!">
              Arrived
            </th>
            <th>
              <span className="sr-only">Take out</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.slice(0, mostDrawn).map(({ value, label, index }) => (
            <tr key={index}>
              <td>
                <input
                  className="value w-full bg-transparent"
                  aria-label="Value in links"
                  value={value}
                  disabled={!mayChange}
                  spellCheck={false}
                  autoFocus={index === added}
                  onChange={(event) => set(index, { value: event.target.value })}
                />
              </td>
              <td>
                <input
                  className="w-full bg-transparent"
                  aria-label="As people read it"
                  value={label}
                  placeholder="the same"
                  disabled={!mayChange}
                  onChange={(event) => set(index, { label: event.target.value })}
                />
              </td>
              <td className="text-right tabular-nums">
                {counts[value] ? count(counts[value]) : <span className="text-quiet">never</span>}
              </td>
              <td className="w-10 pl-0!">
                {mayChange && (
                  <button
                    type="button"
                    className="hover:bg-base-200 cursor-pointer rounded p-1"
                    aria-label={`Take out ${value}`}
                    title="Take out"
                    onClick={() => onEdit(values.filter((_, i) => i !== index))}
                  >
                    <X size={15} aria-hidden />
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {shown.length > mostDrawn && (
        <p className="text-quiet px-5 py-2">{count(shown.length - mostDrawn)} more; find them by their text.</p>
      )}
      {mayChange && (
        <p className="px-5 py-3">
          <button
            type="button"
            className="button"
            onClick={() => {
              setAdded(values.length);
              onEdit([...values, { value: '', label: '' }]);
            }}
          >
            Add a value
          </button>
          <span className="text-quiet ml-3">or paste cells from a spreadsheet here</span>
        </p>
      )}
    </div>
  );
}
