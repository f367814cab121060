import { destinationOf } from '../../core/destinations';
import type { EventRule, WireRule } from '../../core/events/schema';
import type { EventsView } from '../../core/events/view';
import { readingName } from '../../core/events/words';
import { sampleName } from '../../core/events/wires';
import { Cell, TakeOutRow, withEntry, withoutEntry } from '../../ui/form/rows';
import { AddReading } from './AddReading';

const fieldName = (reading: EventRule['reads'][number]): string => reading.replace(/^last_/, '').slice(0, 30);

/** What a wire's name is made of, and the fields that go with it. */
export function WireParts({
  view,
  rule,
  onEdit,
}: {
  view: EventsView;
  rule: WireRule;
  onEdit: (rule: WireRule) => void;
}) {
  const contract = destinationOf(rule.kind);
  if (!contract) return null;
  const disabled = !view.mayChange;
  const setNamed = (named: WireRule['named']) => onEdit({ ...rule, named });
  const setFields = (fields: WireRule['fields']) => onEdit({ ...rule, fields });
  const sample = sampleName(rule, contract);
  const problem = contract.named.problem(sample);
  return (
    <>
      <div className="border-base-300 border-t px-5 py-3">
        <p className="text-quiet text-[13px]">
          Named by {contract.named.words}, such as <code className="value">{contract.named.example}</code>
        </p>
        <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
          {rule.named.map(({ text, reading }, at) =>
            reading ? (
              <span key={at} className="border-base-content flex items-center rounded-[5px] border px-2 py-0.5">
                {readingName(reading, view.readings)}
                <span className="ml-2">
                  <TakeOutRow
                    label={`Take out ${readingName(reading, view.readings)} of the name`}
                    disabled={disabled}
                    onClick={() => setNamed(withoutEntry(rule.named, at))}
                  />
                </span>
              </span>
            ) : (
              <Cell
                key={at}
                label={`Name, part ${at + 1}`}
                className="field-sizing-content min-w-24"
                value={text}
                disabled={disabled}
                onChange={(next) => setNamed(withEntry(rule.named, at, { text: next }))}
              />
            ),
          )}
          {!disabled && rule.named.length < 8 && (
            <AddReading
              view={view}
              label="Add to the name"
              words="Add …"
              first={[['-', 'a text']]}
              onAdd={(id) =>
                setNamed([...rule.named, id === '-' ? { text: '/', reading: '' } : { text: '', reading: id }])
              }
            />
          )}
        </div>
        {problem && <p className="text-error mt-1.5">The name {problem}.</p>}
      </div>
      <div className="border-base-300 border-t">
        {rule.fields.length > 0 && (
          <table className="rows">
            <thead>
              <tr>
                <th scope="col" className="w-[34%]">
                  Field there
                </th>
                <th scope="col">is</th>
                <th scope="col">
                  <span className="sr-only">Take out</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rule.fields.map(({ name, reading }, at) => (
                <tr key={at}>
                  <td>
                    <Cell
                      label={`Field ${at + 1}`}
                      value={name}
                      disabled={disabled}
                      onChange={(next) => setFields(withEntry(rule.fields, at, { name: next }))}
                    />
                  </td>
                  <td>{readingName(reading, view.readings)}</td>
                  <td className="w-20 text-right">
                    <TakeOutRow
                      label={`Take out field ${at + 1}`}
                      disabled={disabled}
                      onClick={() => setFields(withoutEntry(rule.fields, at))}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {!disabled && (
          <p className="px-4 py-3">
            <AddReading
              view={view}
              label="Send a reading along"
              onAdd={(id) => setFields([...rule.fields, { name: fieldName(id), reading: id }])}
            />
          </p>
        )}
      </div>
    </>
  );
}
