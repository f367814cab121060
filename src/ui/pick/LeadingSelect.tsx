import { useEffect, useRef, useState } from 'react';

/**
 * A select that leads to another address. By pointer a choice is taken at once; by keys, which go through the choices one by
 * one, once Enter is pressed or the field is left. Escape goes back to what is shown.
 *
 * @param value what is shown; it is offered too where it is none of the options, as an address may name what is out of use
 */
export function LeadingSelect({
  label,
  value,
  options,
  onChoose,
  className = 'field w-auto',
}: {
  /** Where no label stands around it. */
  label?: string;
  value: string;
  options: readonly (readonly [value: string, words: string])[];
  onChoose: (value: string) => void;
  className?: string;
}) {
  const [chosen, setChosen] = useState(value);
  const byKeys = useRef(false);
  // So does who comes back to a page that was kept as it was.
  useEffect(() => {
    const comeBack = ({ persisted }: PageTransitionEvent) => {
      if (persisted) setChosen(value);
    };
    addEventListener('pageshow', comeBack);
    return () => removeEventListener('pageshow', comeBack);
  }, [value]);
  const settle = (next: string) => {
    if (next !== value) onChoose(next);
  };
  return (
    <select
      aria-label={label}
      className={className}
      // Who comes back finds what is shown, not what was chosen to leave it.
      autoComplete="off"
      value={chosen}
      onPointerDown={() => (byKeys.current = false)}
      onKeyDown={({ key, currentTarget: field }) => {
        byKeys.current = key !== 'Enter' && key !== 'Escape';
        if (key === 'Enter') settle(field.value);
        if (key !== 'Escape') return;
        // At once: Escape takes the focus out of a field as well.
        field.value = value;
        setChosen(value);
      }}
      onChange={({ target }) => {
        setChosen(target.value);
        if (!byKeys.current) settle(target.value);
      }}
      onBlur={({ target }) => settle(target.value)}
    >
      {!options.some(([one]) => one === value) && <option value={value}>{value}</option>}
      {options.map(([one, words]) => (
        <option key={one} value={one}>
          {words}
        </option>
      ))}
    </select>
  );
}
