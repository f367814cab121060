import { faceOf } from '../../core/destinations/faces';
import type { DestinationFace } from '../../core/destinations/contract';
import type { WireRule } from '../../core/events/schema';
import type { EventsView } from '../../core/events/view';
import { hashedOptions, readingOptions } from '../../core/rules/event';
import { readingName } from '../../core/events/words';
import { fieldName, sampleName } from '../../core/events/wires';
import { Cell, Select, TakeOutRow, withEntry, withoutEntry } from '../../ui/form/rows';
import { AddReading } from './AddReading';
import { KnownThere } from './KnownThere';

/** What a wire's name is made of, and the fields that go with it. */
export function WireParts({
  business,
  view,
  rule,
  onEdit,
}: {
  business: string;
  view: EventsView;
  rule: WireRule;
  onEdit: (rule: WireRule) => void;
}) {
  const face = faceOf(rule.kind, view.beside.platforms);
  if (!face) return null;
  return (
    <>
      <Name business={business} view={view} rule={rule} face={face} onEdit={onEdit} />
      <Fields view={view} rule={rule} face={face} onEdit={onEdit} />
      <ToldOf rule={rule} face={face} />
    </>
  );
}

interface PartProps {
  view: EventsView;
  rule: WireRule;
  face: DestinationFace;
  onEdit: (rule: WireRule) => void;
}

function Name({ business, view, rule, face, onEdit }: PartProps & { business: string }) {
  const disabled = !view.mayChange;
  const setNamed = (named: WireRule['named']) => onEdit({ ...rule, named });
  const sample = sampleName(rule, face);
  const problem = face.named.problem(sample);
  const { known } = face.named;
  return (
    <div className="border-base-300 border-t px-5 py-3">
      <p className="text-quiet text-[13px]">
        Named by {face.named.words}, such as <code className="value">{face.named.example}</code>
      </p>
      <div className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {known ? (
          <Select
            label="Name there"
            className="w-48"
            value={rule.named[0]!.text}
            options={[...(known.includes(sample) ? [] : [sample]), ...known].map((name) => [name, name] as const)}
            disabled={disabled}
            onChange={(text) => setNamed([{ text, reading: '' }])}
          />
        ) : (
          rule.named.map(({ text, reading }, at) =>
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
                className="value field-sizing-content min-w-24"
                isValue={false}
                value={text}
                disabled={disabled}
                onChange={(next) => setNamed(withEntry(rule.named, at, { text: next }))}
              />
            ),
          )
        )}
        {!disabled && rule.named.length < 8 && face.named.cleaning && (
          <AddReading
            view={view}
            label="Add to the name"
            words="Add …"
            first={[['-', 'a text']]}
            onAdd={(id) =>
              setNamed([
                ...rule.named,
                id === '-' ? { text: face.named.between, reading: '' } : { text: '', reading: id },
              ])
            }
          />
        )}
      </div>
      {problem && <p className="text-error mt-1.5">The name {problem}.</p>}
      {face.hasCatalogue && !problem && (
        <KnownThere
          business={business}
          account={rule.account}
          words={face.words}
          name={sample}
          isWhole={rule.named.every(({ reading }) => reading === '')}
          mayChange={view.mayChange}
          onUse={(name) => setNamed([{ text: name, reading: '' }])}
        />
      )}
    </div>
  );
}

function Fields({ view, rule, face, onEdit }: PartProps) {
  const disabled = !view.mayChange;
  const setFields = (fields: WireRule['fields']) => onEdit({ ...rule, fields });
  const names = face.fields.map(({ name, words }) => [name, `${name}: ${words}`] as const);
  const onlyKnown = names.length > 0 && face.fieldProblem('another_name') !== '';
  const isFree = ({ name }: { name: string }) => !rule.fields.some((field) => field.name === name);
  const free = face.fields.find((field) => !field.isHash && isFree(field));
  const ofHash = face.fields.find(({ isHash }) => isHash);
  const hashed = hashedOptions(view.beside);
  const readings = [
    ...(ofHash && isFree(ofHash) ? hashed : []),
    ...(onlyKnown && !free ? [] : readingOptions(view.beside)),
  ];
  const nameFor = (id: string): string => {
    if (ofHash && hashed.some(([one]) => one === id)) return ofHash.name;
    return onlyKnown ? (free?.name ?? '') : fieldName(id);
  };
  return (
    <div className="border-base-300 border-t">
      {rule.fields.length > 0 && (
        <table className="rows">
          <thead>
            <tr>
              <th scope="col" className="w-[40%]">
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
                  {onlyKnown ? (
                    <Select
                      label={`Field ${at + 1}`}
                      value={name}
                      options={names.some(([one]) => one === name) ? names : [[name, name] as const, ...names]}
                      disabled={disabled}
                      onChange={(next) => setFields(withEntry(rule.fields, at, { name: next }))}
                    />
                  ) : (
                    <Cell
                      label={`Field ${at + 1}`}
                      value={name}
                      disabled={disabled}
                      onChange={(next) => setFields(withEntry(rule.fields, at, { name: next }))}
                    />
                  )}
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
      {!disabled && readings.length > 0 && (
        <p className="px-4 py-3">
          <AddReading
            view={view}
            label="Send a reading along"
            readings={readings}
            onAdd={(id) => setFields([...rule.fields, { name: nameFor(id), reading: id }])}
          />
        </p>
      )}
    </div>
  );
}

/** Whose events are told, where that is not everybody's. */
function ToldOf({ rule: { by }, face: { toldOf, words, page } }: Pick<PartProps, 'rule' | 'face'>) {
  const lines = [
    ...(toldOf === 'its clicks' ? [`Told only of visitors who came by a click of ${words}.`] : []),
    ...(toldOf === 'its clicks, paid last' ? [`Told only where a click of ${words} was the last paid touch.`] : []),
    ...(page && by !== 'server' ? ['Its opener is loaded once, before the first event, on pages that tell it.'] : []),
    ...(page && by === 'both'
      ? [`Page and server tell it under one ID, which ${words} joins for ${page.joinHours} hours.`]
      : []),
  ];
  return lines.length > 0 ? (
    <p className="text-quiet border-base-300 border-t px-5 py-2.5 text-[13px]">{lines.join(' ')}</p>
  ) : null;
}
