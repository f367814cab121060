import { useState } from 'react';
import { buildName, piecesOf, readName, type Naming } from '../../core/plan';
import { PartField } from './NameTrial';

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
  const parts = (piecesOf(naming) ?? []).flatMap((piece) => ('part' in piece ? [piece.part] : []));
  if (parts.length === 0) return null;
  return (
    <div className="flex flex-wrap gap-2">
      {parts.map((part) => (
        <label key={part.key} className="block">
          <span className="text-quiet block text-[12.5px]">{part.label}</span>
          <PartField
            part={part}
            value={values[part.key] ?? ''}
            onChange={(value) => {
              const next = { ...values, [part.key]: value };
              setValues(next);
              const built = buildName(naming, next);
              if ('name' in built) onBuilt(built.name);
            }}
          />
        </label>
      ))}
    </div>
  );
}
