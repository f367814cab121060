import type { ComponentProps } from 'react';

/** What a cell holds: a text, or one of a few values, each with its words. */
export interface CellShape {
  options?: readonly (readonly [value: string, words: string])[];
}

/** The field of one cell. */
export function CellField({
  column: { options },
  value,
  onChange,
  className,
  ...props
}: {
  column: CellShape;
  value: string;
  onChange: (value: string) => void;
  className: string;
} & Omit<ComponentProps<'input'> & ComponentProps<'select'>, 'value' | 'onChange' | 'className' | 'ref'>) {
  if (options)
    return (
      <select
        {...props}
        className={className}
        value={value || options[0]![0]}
        onChange={(event) => onChange(event.target.value)}
      >
        {options.map(([option, words]) => (
          <option key={option} value={option}>
            {words}
          </option>
        ))}
      </select>
    );
  return (
    <input
      {...props}
      className={`value ${className}`}
      value={value}
      spellCheck={false}
      onChange={(event) => onChange(event.target.value)}
    />
  );
}
