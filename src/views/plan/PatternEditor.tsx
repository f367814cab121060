import { ChevronLeft, X } from 'lucide-react';
import { useState } from 'react';
import type { Naming } from '../../core/plan';
import { addPart, dropPart, joinPattern, movePart, splitPattern, type NamePattern } from '../../core/plan/name-pattern';

/** The pattern of campaign names as chips for its parts with text between them; nobody types braces. */
export function PatternEditor({
  naming,
  disabled,
  onEdit,
}: {
  naming: Naming;
  disabled: boolean;
  onEdit: (pattern: string) => void;
}) {
  const [isBraced, setBraced] = useState(false);
  const pattern = splitPattern(naming.pattern);
  const { texts, keys } = pattern;
  const put = (next: NamePattern) => {
    setBraced(false);
    onEdit(joinPattern(next));
  };
  const labelOf = (key: string) => naming.parts.find((part) => part.key === key)?.label || key;
  const isKnown = (key: string) => naming.parts.some((part) => part.key === key);
  const unused = naming.parts.filter(({ key }) => key !== '' && !keys.includes(key));
  const setText = (at: number, text: string) =>
    /[{}]/.test(text) ? setBraced(true) : put({ keys, texts: texts.map((one, i) => (i === at ? text : one)) });
  return (
    <div className="px-5 py-4">
      <p className="flex flex-wrap items-center gap-1.5 text-[17px] leading-[1.9]" role="group" aria-label="Pattern">
        <span className="mr-1">
          {keys.length === 0 ? 'A campaign name is not put together from parts yet.' : 'A campaign name is'}
        </span>
        {keys.map((key, at) => (
          <span key={`${key} ${at}`} className="contents">
            <Between text={texts[at]!} at={at} disabled={disabled} onText={(text) => setText(at, text)} />
            <span
              className={`bg-base-200 inline-flex items-center rounded px-1.5 text-[15px] ${isKnown(key) ? '' : 'text-error'}`}
            >
              {!disabled && at > 0 && (
                <button
                  type="button"
                  className="cursor-pointer rounded p-0.5"
                  aria-label={`Move ${labelOf(key)} to the front`}
                  onClick={() => put(movePart(pattern, at))}
                >
                  <ChevronLeft size={14} aria-hidden />
                </button>
              )}
              <span className="px-1 font-semibold">{labelOf(key)}</span>
              {!disabled && (
                <button
                  type="button"
                  className="cursor-pointer rounded p-0.5"
                  aria-label={`Take ${labelOf(key)} out of the name`}
                  onClick={() => put(dropPart(pattern, at))}
                >
                  <X size={14} aria-hidden />
                </button>
              )}
            </span>
          </span>
        ))}
        {keys.length > 0 && (
          <Between
            text={texts.at(-1)!}
            at={keys.length}
            disabled={disabled}
            onText={(text) => setText(keys.length, text)}
          />
        )}
      </p>
      {isBraced && (
        <p role="alert" className="text-error">
          Braces cannot be part of a name. Pick a part instead.
        </p>
      )}
      {!disabled && unused.length > 0 && (
        <p className="mt-2 flex flex-wrap items-center gap-2" aria-label="Parts to add">
          <span className="text-quiet">Add to the name:</span>
          {unused.map(({ key, label }) => (
            <button key={key} type="button" className="button" onClick={() => put(addPart(pattern, key))}>
              {label || key}
            </button>
          ))}
        </p>
      )}
    </div>
  );
}

/** The text before a part, or behind the last, as wide as what stands in it. */
function Between({
  text,
  at,
  disabled,
  onText,
}: {
  text: string;
  at: number;
  disabled: boolean;
  onText: (text: string) => void;
}) {
  if (disabled) return <code className="value">{text}</code>;
  return (
    <input
      className="border-base-content value border-b border-dashed bg-transparent text-center"
      size={Math.max(1, text.length)}
      aria-label={`Text ${at + 1}`}
      value={text}
      spellCheck={false}
      onChange={({ target }) => onText(target.value)}
    />
  );
}
