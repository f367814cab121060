import { leavesOf, meaningAt, meanings, withMeaning } from '../../core/crms/own/mapping';
import { readParts } from '../../core/crms/own/record';
import type { RecordReading } from '../../core/crms/schema';
import { Cell, Select } from './rows';

const options = [['', 'not read'], ...meanings] as const;

/** An example of a record, value by value, each with what it is; and what is read and not in the example. */
export function RecordMapping({
  example,
  reading,
  disabled,
  onEdit,
}: {
  /** undefined where there is none. */
  example: unknown;
  reading: RecordReading;
  disabled: boolean;
  onEdit: (reading: RecordReading) => void;
}) {
  const leaves = leavesOf(example);
  const places = new Set(leaves.map(({ at }) => at));
  const elsewhere = readParts(reading, example).filter(({ at }) => !places.has(at));
  const rows = [
    ...leaves.map(({ at, value }) => ({ at, value, isThere: true })),
    ...elsewhere.map(({ at }) => ({ at, value: '', isThere: example === undefined })),
  ];
  const nameAt = (at: string) =>
    reading.amounts.find((one) => one.at === at)?.name ?? reading.fields.find((one) => one.at === at)?.name ?? '';
  const rename = (at: string, name: string) =>
    onEdit({
      ...reading,
      amounts: reading.amounts.map((one) => (one.at === at ? { ...one, name } : one)),
      fields: reading.fields.map((one) => (one.at === at ? { ...one, name } : one)),
    });
  if (rows.length === 0) return null;
  return (
    <>
      <table className="rows mt-3" aria-label="Values of a record">
        <thead>
          <tr>
            <th scope="col">Place</th>
            <th scope="col">Value</th>
            <th scope="col">is</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ at, value, isThere }) => {
            const meaning = meaningAt(reading, at);
            return (
              <tr key={at} className={meaning === '' ? 'text-quiet' : ''}>
                <td className="[overflow-wrap:anywhere]">
                  <code className="value">{at}</code>
                </td>
                <td className="[overflow-wrap:anywhere]">
                  {isThere ? (
                    <code className="value">{value.slice(0, 80)}</code>
                  ) : (
                    <span className="text-error">leads nowhere in this example</span>
                  )}
                </td>
                <td className="w-56 px-1!">
                  <Select
                    label={`What ${at} is`}
                    value={meaning}
                    options={options}
                    disabled={disabled}
                    onChange={(next) => onEdit(withMeaning(reading, at, next))}
                  />
                  {(meaning === 'field' || meaning === 'amount') && (
                    <Cell
                      label={`Name of ${at}`}
                      className="mt-1 w-full"
                      value={nameAt(at)}
                      placeholder="its name"
                      disabled={disabled}
                      onChange={(name) => rename(at, name)}
                    />
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      {reading.amounts.length > 0 && reading.currency === '' && (
        <p className="mt-2 flex items-center gap-2">
          Amounts are in
          <Cell
            label="Currency of amounts"
            className="w-20"
            value={reading.otherwiseCurrency}
            disabled={disabled}
            onChange={(currency) => onEdit({ ...reading, otherwiseCurrency: currency.toUpperCase() })}
          />
        </p>
      )}
    </>
  );
}
