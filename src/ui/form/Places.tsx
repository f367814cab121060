import { Fragment, useId, type ReactNode } from 'react';
import { Cell } from './rows';

/**
 * Where each part is in what an outside program sends.
 * @param parts each with its words
 * @param label further words in each field's label, where there are several of these on a page
 * @param seen the places of what was sent last with what was there, to be picked from
 * @param children lines above them, two cells each
 */
export function Places<Part extends string>({
  parts,
  value,
  seen,
  disabled,
  onChange,
  label = '',
  children,
}: {
  parts: readonly (readonly [part: Part, words: string])[];
  value: Record<Part, string>;
  seen: readonly { at: string; value: string }[];
  disabled: boolean;
  onChange: (part: Part, at: string) => void;
  label?: string;
  children?: ReactNode;
}) {
  const list = useId();
  const valueAt = new Map(seen.map((one) => [one.at, one.value]));
  return (
    <div className="grid max-w-[760px] grid-cols-[minmax(0,1fr)_minmax(0,1.2fr)] items-center gap-x-4 gap-y-2">
      <datalist id={list}>
        {seen.map((one) => (
          <option key={one.at} value={one.at}>
            {one.value}
          </option>
        ))}
      </datalist>
      {children}
      {parts.map(([part, words]) => (
        <Fragment key={part}>
          <span>{words}</span>
          <div>
            <Cell
              label={label ? `${words}, ${label}` : words}
              value={value[part]}
              disabled={disabled}
              placeholder="not sent"
              list={list}
              onChange={(at) => onChange(part, at)}
            />
            {valueAt.get(value[part]) && (
              <span className="text-quiet text-[12.5px]">
                was <code className="value">{valueAt.get(value[part])}</code>
              </span>
            )}
          </div>
        </Fragment>
      ))}
    </div>
  );
}
