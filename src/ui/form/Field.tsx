import type { HTMLInputTypeAttribute, ReactNode } from 'react';
import type { FieldValues, Path, PathValue } from 'react-hook-form';
import { Combobox, type Choice } from '../pick/Combobox';
import { Wrong } from '../text/Wrong';
import type { AppForm } from './useAppForm';

/** One field of a form, with what it is, what is wrong with it, and what somebody else put there meanwhile. */
export function Field<Fields extends FieldValues>({
  form,
  name,
  words,
  as = 'text',
  isValue = false,
  options,
  placeholder,
  choices,
  autoComplete = 'off',
  disabled = false,
  readOnly = false,
  className = '',
}: {
  form: AppForm<Fields>;
  name: Path<Fields>;
  words: ReactNode;
  as?: HTMLInputTypeAttribute | 'textarea';
  /** A value is set in the mono face. */
  isValue?: boolean;
  /** Of a field that is one of a few: each with its words. */
  options?: readonly (readonly [value: string, words: string])[];
  placeholder?: string;
  /** What it may be picked from, beside what may be typed. */
  choices?: readonly Choice[];
  autoComplete?: string;
  disabled?: boolean;
  readOnly?: boolean;
  className?: string;
}) {
  const wrong = form.wrong(name);
  const meanwhile = form.meanwhile.find(({ field }) => field === name);
  const props = {
    ...form.register(name),
    className: `field mt-0.5 w-full ${isValue ? 'value' : ''} ${className}`,
    placeholder,
    disabled,
    readOnly,
    'aria-invalid': wrong !== undefined,
    'aria-describedby': `${name}-wrong`,
    ...(isValue ? { spellCheck: false } : {}),
  };
  return (
    <div>
      <label className="block">
        <span className="text-quiet block text-[12.5px]">{words}</span>
        {options ? (
          <select {...props}>
            {options.map(([value, text]) => (
              <option key={value} value={value}>
                {text}
              </option>
            ))}
          </select>
        ) : choices ? (
          <Combobox
            label={String(words)}
            className={props.className}
            value={String(form.watch(name) ?? '')}
            choices={choices}
            isValue={isValue}
            isInvalid={wrong !== undefined}
            describedBy={`${name}-wrong`}
            disabled={disabled}
            placeholder={placeholder}
            onChange={(value) =>
              form.setValue(name, value as PathValue<Fields, Path<Fields>>, { shouldDirty: true, shouldValidate: true })
            }
          />
        ) : as === 'textarea' ? (
          <textarea {...props} />
        ) : (
          <input {...props} type={as} autoComplete={autoComplete} />
        )}
      </label>
      <Wrong id={`${name}-wrong`} text={wrong} />
      {meanwhile && (
        <p role="status" className="text-quiet mt-1 text-[12.5px]">
          Changed meanwhile: now{' '}
          {meanwhile.now === '' ? 'empty' : <code className="value">{String(meanwhile.now)}</code>}.
        </p>
      )}
    </div>
  );
}
