import type { OwnCrm } from '../../core/crms/schema';
import { Cell, Part, Select, TakeOutRow, withEntry, withoutEntry } from '../../ui/form/rows';

/** How values are written back into a record of an own CRM, where a person has them repaired. */
export function WriteBack({
  rule: { writes, reads },
  disabled,
  onEdit,
}: {
  rule: OwnCrm;
  disabled: boolean;
  onEdit: (part: Partial<OwnCrm>) => void;
}) {
  const set = (part: Partial<NonNullable<OwnCrm['writes']>>) => writes && onEdit({ writes: { ...writes, ...part } });
  return (
    <Part
      heading="Writing back"
      under="For values that are missing there and known here. Nothing is written without being asked for."
    >
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-sm"
          checked={writes !== null}
          disabled={disabled}
          onChange={(event) =>
            onEdit({
              writes: event.target.checked
                ? {
                    method: 'PATCH',
                    before: '/records/',
                    after: '',
                    fields: reads.fields.map(({ name, at }) => ({ name, at })),
                  }
                : null,
            })
          }
        />
        Values can be written back
      </label>
      {writes && (
        <>
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <Select
              label="Method of writing"
              className="w-28"
              value={writes.method}
              options={[
                ['POST', 'POST'],
                ['PUT', 'PUT'],
                ['PATCH', 'PATCH'],
              ]}
              disabled={disabled}
              onChange={(method) => set({ method })}
            />
            <Cell
              label="Path before the record’s number"
              className="w-44"
              value={writes.before}
              placeholder="/records/"
              disabled={disabled}
              onChange={(before) => set({ before })}
            />
            <span className="text-quiet">the record’s number</span>
            <Cell
              label="Path after the record’s number"
              className="w-32"
              value={writes.after}
              placeholder="nothing"
              disabled={disabled}
              onChange={(after) => set({ after })}
            />
          </div>
          <table className="rows mt-2">
            <tbody>
              {writes.fields.map(({ name, at: place }, at) => (
                <tr key={at}>
                  <td className="px-1!">
                    <Cell
                      label={`Field ${at + 1}`}
                      value={name}
                      placeholder="click_id"
                      disabled={disabled}
                      onChange={(next) => set({ fields: withEntry(writes.fields, at, { name: next }) })}
                    />
                  </td>
                  <td className="text-quiet">is written to</td>
                  <td className="px-1!">
                    <Cell
                      label={`Place of field ${at + 1}`}
                      value={place}
                      placeholder="/custom/click_id"
                      disabled={disabled}
                      onChange={(next) => set({ fields: withEntry(writes.fields, at, { at: next }) })}
                    />
                  </td>
                  <td>
                    <TakeOutRow
                      label={`Take out field ${at + 1}`}
                      disabled={disabled}
                      onClick={() => set({ fields: withoutEntry(writes.fields, at) })}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {!disabled && (
            <button
              type="button"
              className="button mt-2"
              onClick={() => set({ fields: [...writes.fields, { name: '', at: '' }] })}
            >
              Add a field
            </button>
          )}
        </>
      )}
    </Part>
  );
}
