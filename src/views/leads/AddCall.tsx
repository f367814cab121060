import { useQueryClient } from '@tanstack/react-query';
import { z } from 'zod';
import { callGivenSchema, type CallsView } from '../../core/leads/calls-view';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { sendJson } from '../../ui/text/read';

/** As it is typed: all of it text. */
const typedSchema = z.object({
  dialled: callGivenSchema.shape.dialled,
  caller: callGivenSchema.shape.caller,
  startedAt: z.string().trim().min(1, 'must say when, such as 2027-02-15 17:00'),
  minutes: z.string().regex(/^\d{0,3}([.,]\d+)?$/, 'must be minutes, such as 4 or 0.5'),
  answered: z.enum(['yes', 'no']),
  reference: callGivenSchema.shape.reference,
});

/** A call that somebody noted: who, when, and the code that was said. */
export function AddCall({ api, view, onDone }: { api: string; view: CallsView; onDone: () => void }) {
  const client = useQueryClient();
  const form = useAppForm({
    name: 'call by hand',
    schema: typedSchema,
    isStored: false,
    values: {
      dialled: view.numbers.find(({ isRetired }) => !isRetired)?.number ?? '',
      caller: '',
      startedAt: '',
      minutes: '',
      answered: 'yes' as const,
      reference: '',
    },
    async save({ minutes, answered, ...given }) {
      const next = await sendJson<CallsView>(api, {
        ...given,
        minutes: Number(minutes.replace(',', '.') || '0'),
        answered: answered === 'yes',
      });
      client.setQueryData([api], next);
      onDone();
    },
  });
  return (
    <form onSubmit={form.onSubmit} className="sheet mt-3 p-4" noValidate aria-label="Add a call">
      <div className="grid grid-cols-2 gap-4 md:grid-cols-3 xl:grid-cols-6">
        <Field
          form={form}
          name="dialled"
          words="Number dialled"
          isValue
          choices={view.numbers.map(({ number, name }) => ({ value: number, words: name }))}
        />
        <Field form={form} name="caller" words="Caller’s number" isValue placeholder="empty: withheld" />
        <Field form={form} name="startedAt" words="When" isValue placeholder="2027-02-15 17:00" />
        <Field form={form} name="minutes" words="Minutes" isValue placeholder="4" />
        <Field
          form={form}
          name="answered"
          words="Answered"
          options={[
            ['yes', 'yes'],
            ['no', 'no, missed'],
          ]}
        />
        <Field form={form} name="reference" words="Code that was said" isValue placeholder="3K7-M2QX" />
      </div>
      <Problem text={form.problem} />
      <div className="mt-4 flex gap-3">
        <button className="button button-strong" disabled={form.isSaving}>
          Add call
        </button>
        <button type="button" className="quiet-link cursor-pointer" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}
