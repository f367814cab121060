import { useState, type ClipboardEvent } from 'react';
import { swapValue, type Reading, type SwapTable } from '../../core/capture';
import { readingWords } from '../../core/capture/readings';
import type { SwapsView } from '../../core/capture/station-view';
import { readTabbed } from '../../core/links/cells';
import { swap } from '../../core/rules/swap';
import { count } from '../../core/strands';
import { Key } from '../../ui/keys/Key';
import { PickList } from '../../ui/list/PickList';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DraftBar } from '../../ui/rule/DraftBar';
import { TakeOut } from '../../ui/rule/TakeOut';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { useRuleEditor } from '../../ui/rule/useRuleEditor';
import { CaptureFrame } from './CaptureFrame';

interface Props {
  business: string;
  initial: SwapsView;
  search: string;
}

type Replacement = SwapTable['otherwise'];
const isNew = 'new';
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
  const [named, setNamed] = useAddressPart('table', search);
  const { swaps } = view.rules;
  const name = named || (swaps[0]?.name ?? isNew);
  const stored = swaps.find((table) => table.name === name) ?? null;
  return (
    <CaptureFrame
      business={business}
      section="Swap tables"
      view={view}
      actions={
        view.mayChange && (
          <button type="button" className="button button-strong" data-new onClick={() => setNamed(isNew)}>
            New table <Key k="n" strong />
          </button>
        )
      }
    >
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[220px_1fr] xl:grid-cols-[220px_1fr_330px]">
        <PickList
          label="Swap tables"
          items={swaps.map((table) => {
            const users = view.rules.fill.filter(({ swap }) => swap === table.name);
            return {
              id: table.name,
              href: `?table=${encodeURIComponent(table.name)}`,
              words: table.name,
              under:
                users.length === 0 ? 'no rule goes through it' : `for ${users.map(({ field }) => field).join(', ')}`,
            };
          })}
          current={name}
          onPick={setNamed}
          fresh={stored ? null : 'New table'}
        />
        <TableEditor key={name} business={business} view={view} stored={stored} onNamed={setNamed} />
      </div>
    </CaptureFrame>
  );
}

function TableEditor({
  business,
  view,
  stored,
  onNamed,
}: {
  business: string;
  view: SwapsView;
  stored: SwapTable | null;
  onNamed: (name: string) => void;
}) {
  const { rule, edit, bar } = useRuleEditor({
    ...{ business, kind: 'swap' as const, stored, start: swap.start!({}, []), changed: view.changed },
  });
  const disabled = !view.mayChange;
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
    <>
      <section className="sheet min-w-0" aria-label={stored?.name ?? 'New table'} onPaste={onPaste}>
        <label className="block px-5 pt-4">
          <span className="text-quiet block text-[12.5px]">Name of the table</span>
          <input
            className="field mt-0.5 w-64"
            value={rule.name}
            placeholder="placements"
            disabled={disabled || stored !== null}
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
        {!disabled && <DraftBar {...bar} onDone={() => onNamed(rule.name)} />}
        {!disabled && stored && (
          <TakeOut business={business} name={{ kind: 'swap', id: stored.name }} onDone={() => onNamed('')} />
        )}
      </section>
      <Recorded view={view} table={rule} />
    </>
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
  return (
    <section className="sheet min-w-0 p-4 lg:col-start-2 xl:col-start-3" aria-label="Effect">
      <h2 className="text-base">In {view.weeks} weeks it would have made</h2>
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
          <table className="mt-2 w-full">
            <tbody>
              {values.map(({ value, times }) => {
                const made = swapValue(table, value, (other) => `{${readingWords[other]}}`);
                return (
                  <tr key={value} className="border-base-300 border-b last:border-0">
                    <td className="py-1.5 align-top">
                      <code className="value block [overflow-wrap:anywhere]">{value}</code>
                      <span className={made === value ? 'text-quiet' : ''}>
                        {made === value ? (
                          'stays'
                        ) : made.startsWith('{') ? (
                          made.slice(1, -1)
                        ) : (
                          <code className="value">{made || 'nothing'}</code>
                        )}
                      </span>
                    </td>
                    <td className="py-1.5 text-right align-top tabular-nums">{count(times)}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </>
      )}
    </section>
  );
}
