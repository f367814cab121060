import { useState, type ClipboardEvent } from 'react';
import { swapValue, type Reading, type SwapTable } from '../../core/capture';
import { readingWords } from '../../core/capture/readings';
import type { SwapsView } from '../../core/capture/station-view';
import { readTabbed } from '../../core/grid/cells';
import { count } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { useOpen } from '../../ui/address/useOpen';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { EffectSheet } from '../../ui/rule/EffectSheet';
import { NewRule, RuleStation } from '../../ui/rule/RuleStation';
import type { RuleEditor } from '../../ui/rule/useRuleEditor';
import { CaptureFrame } from './CaptureFrame';

interface Props {
  business: string;
  initial: SwapsView;
  search: string;
}

type Replacement = SwapTable['otherwise'];
const takes: [Replacement['take'], string][] = [
  ['', 'the words'],
  ['itself', 'itself'],
  ...(Object.entries(readingWords).filter(([reading]) => reading !== 'kept_value') as [Replacement['take'], string][]),
];

/** The swap tables: what each value becomes, held against the values that arrived lately. */
export function SwapsPage(props: Props) {
  return (
    <Live>
      <Swaps {...props} />
    </Live>
  );
}

function Swaps({ business, initial, search }: Props) {
  const view = useView(`/api/b/${business}/capture/swaps`, initial);
  const open = useOpen('table', search);
  const usersOf = ({ name }: SwapTable) =>
    view.rules.fill.filter(({ swap }) => swap === name).map(({ field }) => field);
  return (
    <CaptureFrame
      business={business}
      section="Swap tables"
      view={view}
      actions={view.mayChange && <NewRule words="New table" open={open} />}
    >
      <RuleStation
        business={business}
        kind="swap"
        view={view}
        label="Swap tables"
        fresh="New table"
        rules={view.rules.swaps}
        open={open}
        item={(table) => {
          const users = usersOf(table);
          return { words: table.name, under: users.length === 0 ? 'no rule uses it' : `for ${users.join(', ')}` };
        }}
        beside={{ capture: view.rules, platforms: view.ownPlatforms }}
        title={({ name }) => name}
        editor={(editor) => <TableEditor editor={editor} mayChange={view.mayChange} />}
        effect={({ rule }) => <Recorded view={view} table={rule} />}
      />
    </CaptureFrame>
  );
}

function TableEditor({ editor: { rule, edit, isNew }, mayChange }: { editor: RuleEditor<'swap'>; mayChange: boolean }) {
  const disabled = !mayChange;
  const setRow = (at: number, part: Partial<SwapTable['rows'][number]>) =>
    edit({ rows: rule.rows.map((row, i) => (i === at ? { ...row, ...part } : row)) });
  const onPaste = (event: ClipboardEvent) => {
    const cells = readTabbed(event.clipboardData.getData('text/plain'));
    if (disabled || (cells.length < 2 && (cells[0]?.length ?? 0) < 2)) return;
    event.preventDefault();
    const rows = cells.map(([value = '', gives = '']) => ({ value, gives, take: '' as const }));
    edit({ rows: [...rule.rows.filter(({ value }) => value !== ''), ...rows] });
  };
  return (
    <div onPaste={onPaste}>
      <label className="block px-5 pt-4">
        <span className="text-quiet block text-[12.5px]">Name of the table</span>
        <input
          className="field mt-0.5 w-64"
          value={rule.name}
          placeholder="placements"
          disabled={disabled || !isNew}
          onChange={(event) => edit({ name: event.target.value })}
        />
      </label>
      <div className="mt-3 overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Value</th>
              <th scope="col">becomes</th>
              <th scope="col">Words</th>
              <th scope="col">
                <span className="sr-only">What to do</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rule.rows.map((row, at) => (
              <tr key={at}>
                <td className="px-2!">
                  <input
                    className="field value w-full min-w-28"
                    aria-label={`Value, row ${at + 1}`}
                    value={row.value}
                    disabled={disabled}
                    spellCheck={false}
                    onChange={(event) => setRow(at, { value: event.target.value })}
                  />
                </td>
                <Becomes
                  label={`row ${at + 1}`}
                  value={row}
                  disabled={disabled}
                  onChange={(part) => setRow(at, part)}
                />
                <td>
                  {!disabled && (
                    <button
                      type="button"
                      className="quiet-link cursor-pointer whitespace-nowrap"
                      aria-label={`Take out row ${at + 1}`}
                      onClick={() => edit({ rows: rule.rows.filter((_, i) => i !== at) })}
                    >
                      Take out
                    </button>
                  )}
                </td>
              </tr>
            ))}
            <tr>
              <td className="text-quiet">everything else</td>
              <Becomes
                label="everything else"
                value={rule.otherwise}
                disabled={disabled}
                onChange={(part) => edit({ otherwise: { ...rule.otherwise, ...part } })}
              />
              <td />
            </tr>
          </tbody>
        </table>
      </div>
      {!disabled && (
        <p className="px-5 py-3">
          <button
            type="button"
            className="button"
            onClick={() => edit({ rows: [...rule.rows, { value: '', gives: '', take: '' }] })}
          >
            Add a row
          </button>{' '}
          <span className="text-quiet">Two columns copied from a spreadsheet can be pasted here.</span>
        </p>
      )}
    </div>
  );
}

function Becomes({
  label,
  value,
  onChange,
  disabled,
}: {
  label: string;
  value: Replacement;
  onChange: (part: Partial<Replacement>) => void;
  disabled: boolean;
}) {
  return (
    <>
      <td className="px-2!">
        <select
          className="field w-full min-w-36"
          aria-label={`Becomes, ${label}`}
          value={value.take}
          disabled={disabled}
          onChange={(event) => onChange({ take: event.target.value as Replacement['take'] })}
        >
          {takes.map(([take, words]) => (
            <option key={take} value={take}>
              {words}
            </option>
          ))}
        </select>
      </td>
      <td className="px-2!">
        <input
          className="field value w-full min-w-28"
          aria-label={`Words, ${label}`}
          value={value.gives}
          placeholder={value.take === '' ? 'nothing' : ''}
          disabled={disabled || value.take === 'itself'}
          spellCheck={false}
          onChange={(event) => onChange({ gives: event.target.value })}
        />
      </td>
    </>
  );
}

/** What the table as it stands on the screen makes of values that arrived. */
function Recorded({ view, table }: { view: SwapsView; table: SwapTable }) {
  const readings = Object.keys(view.recorded) as Reading[];
  const used = view.rules.fill.find(({ swap }) => swap === table.name)?.reading;
  const [picked, setPicked] = useState<Reading | ''>('');
  const reading = picked || (used && readings.includes(used) ? used : readings[0]);
  const values = (reading && view.recorded[reading]) ?? [];
  const columns: Column<(typeof values)[number]>[] = [
    {
      id: 'value',
      head: 'Value',
      by: ({ value }) => value,
      cell: ({ value }) => (
        <>
          <code className="value block [overflow-wrap:anywhere]">{value}</code>
          <Made value={value} table={table} />
        </>
      ),
    },
    {
      id: 'times',
      head: `Arrived in ${view.weeks} weeks`,
      by: ({ times }) => times,
      right: true,
      cell: ({ times }) => count(times),
    },
  ];
  return (
    <EffectSheet heading={`In ${view.weeks} weeks it would have made`}>
      {readings.length === 0 ? (
        <p className="text-quiet mt-1">No visit is recorded yet.</p>
      ) : (
        <>
          <label className="mt-2 block">
            <span className="text-quiet">of </span>
            <select
              className="field"
              aria-label="Reading"
              value={reading}
              onChange={(event) => setPicked(event.target.value as Reading)}
            >
              {readings.map((one) => (
                <option key={one} value={one}>
                  {readingWords[one]}
                </option>
              ))}
            </select>
          </label>
          <div className="mt-2">
            <DataTable
              rows={values}
              idOf={({ value }) => value}
              columns={columns}
              start={{ by: 'times', descending: true }}
              none="It had no value."
              isPart
            />
          </div>
        </>
      )}
    </EffectSheet>
  );
}

/** What a table makes of a value. */
function Made({ value, table }: { value: string; table: SwapTable }) {
  const made = swapValue(table, value, (other) => `{${readingWords[other]}}`);
  if (made === value) return <span className="text-quiet">stays</span>;
  return made.startsWith('{') ? made.slice(1, -1) : <code className="value">{made || 'nothing'}</code>;
}
