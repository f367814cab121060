import { destinationOf } from '../../core/destinations';
import type { EventRule, WireRule } from '../../core/events/schema';
import type { EventsView } from '../../core/events/view';
import { readingName } from '../../core/events/words';
import { sampleName } from '../../core/events/wires';
import { readingOptions } from '../../core/rules/event';

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
  const options = readingOptions(view.beside);
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
                {!disabled && (
                  <button
                    type="button"
                    className="quiet-link ml-2 cursor-pointer"
                    aria-label={`Take out ${readingName(reading, view.readings)} of the name`}
                    onClick={() => setNamed(rule.named.filter((_, i) => i !== at))}
                  >
                    Take out
                  </button>
                )}
              </span>
            ) : (
              <input
                key={at}
                className="field value field-sizing-content min-w-24"
                aria-label={`Name, part ${at + 1}`}
                value={text}
                disabled={disabled}
                spellCheck={false}
                onChange={(event) =>
                  setNamed(rule.named.map((one, i) => (i === at ? { ...one, text: event.target.value.trim() } : one)))
                }
              />
            ),
          )}
          {!disabled && rule.named.length < 8 && (
            <select
              className="field max-w-52"
              aria-label="Add to the name"
              value=""
              onChange={(event) =>
                setNamed([
                  ...rule.named,
                  event.target.value === '-' ? { text: '/', reading: '' } : { text: '', reading: event.target.value },
                ])
              }
            >
              <option value="">Add …</option>
              <option value="-">a text</option>
              {options.map(([id, words]) => (
                <option key={String(id)} value={String(id)}>
                  {words}
                </option>
              ))}
            </select>
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
                    <input
                      className="field value w-full"
                      aria-label={`Field ${at + 1}`}
                      value={name}
                      disabled={disabled}
                      spellCheck={false}
                      onChange={(event) =>
                        setFields(
                          rule.fields.map((one, i) => (i === at ? { ...one, name: event.target.value.trim() } : one)),
                        )
                      }
                    />
                  </td>
                  <td>{readingName(reading, view.readings)}</td>
                  <td className="w-20 text-right">
                    {!disabled && (
                      <button
                        type="button"
                        className="quiet-link cursor-pointer whitespace-nowrap"
                        aria-label={`Take out field ${at + 1}`}
                        onClick={() => setFields(rule.fields.filter((_, i) => i !== at))}
                      >
                        Take out
                      </button>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        {!disabled && (
          <p className="px-4 py-3">
            <select
              className="field max-w-64"
              aria-label="Send a reading along"
              value=""
              onChange={(event) =>
                setFields([...rule.fields, { name: fieldName(event.target.value), reading: event.target.value }])
              }
            >
              <option value="">Send a reading along …</option>
              {options.map(([id, words]) => (
                <option key={String(id)} value={String(id)}>
                  {words}
                </option>
              ))}
            </select>
          </p>
        )}
      </div>
    </>
  );
}
