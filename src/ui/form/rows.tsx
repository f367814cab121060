import type { ReactNode } from 'react';

/** A part of what is described, with its heading. */
export function Part({ heading, under, children }: { heading: string; under?: ReactNode; children: ReactNode }) {
  return (
    <div className="border-base-300 border-t px-5 py-4">
      <h2 className="text-base">{heading}</h2>
      {under && <p className="text-quiet mt-0.5 text-[13px]">{under}</p>}
      <div className="mt-2">{children}</div>
    </div>
  );
}

/** A short field in a row of a description. */
export function Cell({
  label,
  value,
  onChange,
  disabled,
  placeholder,
  isValue = true,
  className = 'w-full',
  list,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  disabled: boolean;
  placeholder?: string;
  isValue?: boolean;
  className?: string;
  /** The ID of what there is to pick from. */
  list?: string;
}) {
  return (
    <input
      className={`field ${isValue ? 'value' : ''} ${className}`}
      aria-label={label}
      value={value}
      placeholder={placeholder}
      disabled={disabled}
      spellCheck={false}
      autoComplete="off"
      list={list}
      onChange={(event) => onChange(isValue ? event.target.value.trim() : event.target.value)}
    />
  );
}

/** A field that is one of a few words, in a row of a description. */
export function Select<V extends string>({
  label,
  value,
  options,
  onChange,
  disabled,
  className = 'w-full',
}: {
  label: string;
  value: V;
  options: readonly (readonly [value: V, words: string])[];
  onChange: (value: V) => void;
  disabled: boolean;
  className?: string;
}) {
  return (
    <select
      className={`field ${className}`}
      aria-label={label}
      value={value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value as V)}
    >
      {options.map(([one, words]) => (
        <option key={one} value={one}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** Takes a row out. */
export function TakeOutRow({ label, onClick, disabled }: { label: string; onClick: () => void; disabled: boolean }) {
  if (disabled) return null;
  return (
    <button type="button" className="quiet-link cursor-pointer whitespace-nowrap" aria-label={label} onClick={onClick}>
      Take out
    </button>
  );
}

/** A list with one of its entries changed, or taken out. */
export const withEntry = <Entry,>(all: readonly Entry[], at: number, part: Partial<Entry>): Entry[] =>
  all.map((one, i) => (i === at ? { ...one, ...part } : one));
export const withoutEntry = <Entry,>(all: readonly Entry[], at: number): Entry[] => all.filter((_, i) => i !== at);
