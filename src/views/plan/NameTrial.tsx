import { useState } from 'react';
import { buildName, piecesOf, readName, type NamePart, type Naming } from '../../core/plan';
import { Copy } from '../../ui/text/Copy';
import { PartFields } from './NameParts';

/** Builds a name from its parts and reads any name back, by the rule as it stands on the screen. */
export function NameTrial({ naming }: { naming: Naming }) {
  const [values, setValues] = useState<Record<string, string>>({});
  const [given, setGiven] = useState('');
  const parts = (piecesOf(naming) ?? []).flatMap((piece) => ('part' in piece ? [piece.part] : []));
  const built = buildName(naming, values);
  const read = given === '' ? null : readName(naming, given.trim());
  return (
    <section className="sheet p-5" aria-label="Try it">
      <h2 className="text-base">Try it</h2>
      <div className="mt-3">
        <PartFields naming={naming} values={values} onValues={setValues} />
      </div>
      <div className="mt-3 flex min-h-9 items-center gap-4">
        {'name' in built ? (
          <>
            <code className="value text-[17px] font-semibold">{built.name}</code>
            <Copy text={built.name} words="Copy" />
          </>
        ) : (
          <p className="text-quiet">
            {Object.values(values).some(Boolean)
              ? built.problems.map(({ field, was }) => `${labelOf(parts, field)} ${was}`).join('; ') + '.'
              : 'Pick the parts to build a name.'}
          </p>
        )}
      </div>
      <label className="border-base-300 mt-3 block border-t pt-3">
        <span className="text-quiet block text-[12.5px]">Read a name back</span>
        <input
          className="field value mt-1 w-full max-w-[460px]"
          value={given}
          placeholder="paste a campaign name"
          spellCheck={false}
          onChange={(event) => setGiven(event.target.value)}
        />
      </label>
      {given !== '' && (
        <p className="mt-2" role="status">
          {read ? (
            parts.map((part) => (
              <span key={part.key} className="mr-5 inline-block">
                <span className="text-quiet">{part.label} </span>
                {wordsOf(part, read[part.key]!)}
              </span>
            ))
          ) : (
            <span className="text-error">It does not fit the pattern above.</span>
          )}
        </p>
      )}
    </section>
  );
}

const labelOf = (parts: NamePart[], key: string) => parts.find((part) => part.key === key)?.label ?? key;

const wordsOf = (part: NamePart, value: string) => part.values.find((one) => one.value === value)?.label || value;
