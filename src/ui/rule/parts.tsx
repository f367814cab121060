import { useState } from 'react';
import { writeAmount, type Money } from '../../core/outcomes';
import { amountIn } from '../../core/rules/rows';
import { Combobox, type Choice } from '../pick/Combobox';

/** Parts of a rule's sentence that are changed in place. */

interface PartProps<V> {
  /** What it is, for those who do not see the sentence around it. */
  label: string;
  value: V;
  onChange: (value: V) => void;
  disabled?: boolean;
}

/** A part that is one of a few words. */
export function ChoicePart<V extends string>({
  label,
  value,
  onChange,
  options,
  disabled,
}: PartProps<V> & { options: readonly (readonly [value: V, words: string])[] }) {
  return (
    <select
      className="part"
      aria-label={label}
      value={value}
      disabled={disabled}
      onChange={(event) => onChange(event.target.value as V)}
    >
      {options.map(([option, words]) => (
        <option key={option} value={option}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** A part that is typed: a value, or words. */
export function TextPart({
  label,
  value,
  onChange,
  disabled,
  isValue = true,
  placeholder = '…',
  choices = [],
}: PartProps<string> & { isValue?: boolean; placeholder?: string; choices?: readonly Choice[] }) {
  const look = `part ${isValue ? 'part-value' : ''} max-w-full min-w-3`;
  if (choices.length > 0 && !disabled)
    return (
      <Combobox
        label={label}
        className={look}
        value={value}
        choices={choices}
        placeholder={placeholder}
        isValue={isValue}
        onChange={onChange}
      />
    );
  return (
    <input
      className={look}
      aria-label={label}
      value={value}
      placeholder={placeholder}
      disabled={disabled}
      spellCheck={false}
      autoComplete="off"
      onChange={(event) => onChange(event.target.value)}
    />
  );
}

/** A part that is a whole number. */
export function NumberPart({ label, value, onChange, disabled }: PartProps<number>) {
  return (
    <input
      className="part part-value min-w-3"
      inputMode="numeric"
      aria-label={label}
      value={String(value)}
      disabled={disabled}
      onChange={(event) => onChange(Number(event.target.value.replace(/\D/g, '').slice(0, 6)))}
    />
  );
}

/** A part that is an amount of money, typed as a decimal number; what is typed stays as it is typed. */
export function AmountPart({ label, value, onChange, disabled }: PartProps<Money>) {
  const written = (money: Money) => (Number.isSafeInteger(money.minor) ? writeAmount(money) : '');
  const [text, setText] = useState(() => written(value));
  const isSame = Object.is(amountIn(text, value).minor, value.minor ?? Number.NaN);
  return (
    <input
      className="part part-value min-w-3"
      inputMode="decimal"
      aria-label={label}
      value={isSame ? text : written(value)}
      disabled={disabled}
      onChange={(event) => {
        setText(event.target.value);
        onChange(amountIn(event.target.value, value));
      }}
    />
  );
}
