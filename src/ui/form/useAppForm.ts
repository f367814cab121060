import { zodResolver } from '@hookform/resolvers/zod';
import { useEffect, useRef, useState } from 'react';
import {
  useForm,
  type DefaultValues,
  type FieldValues,
  type Path,
  type PathValue,
  type UseFormReturn,
} from 'react-hook-form';
import { z } from 'zod';
import { ApiProblem } from '../text/read';
import { keepWritten, readWritten } from './written';

// Zod would compile its checks with `eval`, which the content security policy forbids.
z.config({ jitless: true });

/** What is kept in the tab: what is written, and what it was when the writing began. */
interface Kept<Fields> {
  began: Fields;
  written: Fields;
}

export interface AppForm<Fields extends FieldValues> extends Pick<
  UseFormReturn<Fields>,
  'register' | 'watch' | 'setValue'
> {
  onSubmit: (event: { preventDefault(): void }) => void;
  /** What is wrong with a field, as its schema or the server says; undefined where nothing is. */
  wrong: (field: Path<Fields>) => string | undefined;
  /** What is wrong with the whole. */
  problem: string | undefined;
  isSaving: boolean;
  isWritten: boolean;
  /** Fields that somebody else changed while they were being written here, with what they are now. */
  meanwhile: { field: Path<Fields>; now: unknown }[];
  /** Drops what is written here. */
  undo: () => void;
}

const noSecrets: readonly never[] = [];

/**
 * A form: checked by its Zod schema while it is filled in, sent by `save`, with what the server refuses said at its
 * field. What is typed stays when the stored values are read anew or the page is left for a moment.
 *
 * @param name of what is being written, for keeping it in this tab
 * @param values as they are stored; fields that nobody has touched here follow them
 */
export function useAppForm<Schema extends z.ZodType<FieldValues, FieldValues>>({
  name,
  schema,
  values,
  isStored = true,
  secrets = noSecrets,
  save,
}: {
  name: string;
  schema: Schema;
  values: z.input<Schema>;
  /** Fields that are never kept in the tab, such as a password; the same list each time. */
  secrets?: readonly (keyof z.input<Schema> & string)[];
  /** Whether it changes something that is there already. */
  isStored?: boolean;
  save: (wanted: z.output<Schema>) => Promise<unknown>;
}): AppForm<z.input<Schema>> {
  type Fields = z.input<Schema>;
  const [began, setBegan] = useState(values);
  const form = useForm<Fields, unknown, z.output<Schema>>({
    resolver: zodResolver(schema) as never,
    defaultValues: values as DefaultValues<Fields>,
    mode: 'onTouched',
  });
  const { formState, setError, reset, clearErrors } = form;
  const { errors, isSubmitting, dirtyFields } = formState;
  const dirty = Object.keys(dirtyFields);
  const text = JSON.stringify(values);

  // What was written before the page was left; fields that were not touched are as they are stored now.
  const { setValue } = form;
  useEffect(() => {
    const kept = readWritten<Kept<Fields>>(name);
    if (!kept) return;
    setBegan(kept.began);
    for (const field of Object.keys(kept.written) as Path<Fields>[])
      if (JSON.stringify(kept.written[field]) !== JSON.stringify(kept.began[field]))
        setValue(field, kept.written[field] as PathValue<Fields, Path<Fields>>, { shouldDirty: true });
  }, [name, setValue]);

  // Fields that nobody has touched follow what is stored.
  const known = useRef(text);
  useEffect(() => {
    if (known.current === text) return;
    known.current = text;
    reset(JSON.parse(text) as Fields, { keepDirtyValues: true, keepErrors: true });
    if (dirty.length === 0) setBegan(JSON.parse(text) as Fields);
    // It follows what is stored, not what is written.
  }, [text, reset]);

  useEffect(() => {
    // Without a name it is the form that follows what is stored, and nobody who writes.
    const { unsubscribe } = form.watch((written, { name: changed }) => {
      if (changed === undefined) return;
      keepWritten(name, { began, written: withoutSecrets(written as Fields) });
    });
    return unsubscribe;
  }, [form, name, secrets, began]);

  /** Secrets are neither kept in the tab nor left on the screen once they are sent. */
  function withoutSecrets(written: Fields): Fields {
    return { ...written, ...Object.fromEntries(secrets.map((field) => [field, ''])) };
  }

  const submit = form.handleSubmit(async (wanted) => {
    try {
      await save(wanted);
      // A new one begins anew; of a stored one what was sent is what is stored now.
      const now = isStored ? withoutSecrets(form.getValues()) : values;
      reset(now);
      setBegan(now);
      keepWritten(name, null);
    } catch (error) {
      const fields = error instanceof ApiProblem ? error.fields : [];
      for (const { field, was, fix } of fields)
        setError(field as Path<Fields>, { message: fix.startsWith('Fix it') ? was : `${was}. ${fix}` });
      if (fields.length === 0) setError('root', { message: (error as Error).message });
    }
  });

  return {
    register: form.register,
    watch: form.watch,
    setValue: form.setValue,
    onSubmit: (event) => {
      event.preventDefault();
      clearErrors('root');
      void submit();
    },
    wrong: (field) => (errors as Record<string, { message?: string } | undefined>)[field]?.message,
    problem: errors.root?.message,
    isSaving: isSubmitting,
    isWritten: dirty.length > 0,
    meanwhile: dirty
      .filter((field) => JSON.stringify(began[field]) !== JSON.stringify(values[field]))
      .map((field) => ({ field: field as Path<Fields>, now: values[field] })),
    undo: () => {
      keepWritten(name, null);
      reset(values);
      setBegan(values);
    },
  };
}
