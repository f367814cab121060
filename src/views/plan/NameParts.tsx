import { useState } from 'react';
import { buildName, partWants, piecesOf, readName, type NamePart, type Naming } from '../../core/plan';

/** A field for each part of a name. */
export function PartFields({
  naming,
  values,
  onValues,
}: {
  naming: Naming;
  values: Record<string, string>;
  onValues: (values: Record<string, string>) => void;
}) {
  const parts = (piecesOf(naming) ?? []).flatMap((piece) => ('part' in piece ? [piece.part] : []));
  if (parts.length === 0) return null;
  return (
    <div className="flex flex-wrap items-end gap-3">
      {parts.map((part) => (
        <label key={part.key} className="block">
          <span className="text-quiet block text-[12.5px]">{part.label}</span>
          <PartField
            part={part}
            value={values[part.key] ?? ''}
            onChange={(value) => onValues({ ...values, [part.key]: value })}
          />
        </label>
      ))}
    </div>
  );
}

/** Fields for the parts of a name; as soon as all fit, the name is written. */
export function NameParts({
  naming,
  begins = '',
  onBuilt,
}: {
  naming: Naming;
  /** A name whose parts the fields begin with, as far as it has them. */
  begins?: string;
  onBuilt: (name: string) => void;
}) {
  const [values, setValues] = useState<Record<string, string>>(() => readName(naming, begins) ?? {});
  return (
    <PartFields
      naming={naming}
      values={values}
      onValues={(next) => {
        setValues(next);
        const built = buildName(naming, next);
        if ('name' in built) onBuilt(built.name);
      }}
    />
  );
}

/** The field in which one part of a name is picked or typed. */
function PartField({ part, value, onChange }: { part: NamePart; value: string; onChange: (value: string) => void }) {
  if (part.kind === 'listed')
    return (
      <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
        <option value="">pick</option>
        {part.values.map((one) => (
          <option key={one.value} value={one.value}>
            {one.label || one.value}
          </option>
        ))}
      </select>
    );
  return (
    <input
      className="field value"
      size={part.kind === 'digits' ? part.digits + 2 : 18}
      value={value}
      title={partWants(part)}
      spellCheck={false}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
