import { zodResolver } from '@hookform/resolvers/zod';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { newTokenSchema } from '../../core/people/schema';
import type { TokensView } from '../../core/people/view';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { Wrong } from '../../ui/text/Wrong';

// Zod would compile its checks with `eval`, which the content security policy forbids.
z.config({ jitless: true });

const formSchema = newTokenSchema.extend({ seesPeople: z.boolean(), seesMoney: z.boolean() });
type Fields = z.input<typeof formSchema>;
const onOff = (on: boolean) => (on ? 'on' : 'off');

interface Props {
  api: string;
  mayGive: TokensView['mayGive'];
  onMade(token: string): void;
}

/** Asks what a new token is for and what it may; offers only what its maker may give. */
export function NewTokenForm({ api, mayGive, onMade }: Props) {
  const { register, handleSubmit, formState, setError, reset } = useForm<Fields, unknown, z.output<typeof formSchema>>({
    resolver: zodResolver(formSchema),
    defaultValues: { name: '', rights: 'read', seesPeople: false, seesMoney: false, days: '365' },
  });
  const { errors, isSubmitting } = formState;
  const make = handleSubmit(async ({ seesPeople, seesMoney, ...wanted }) => {
    try {
      const body = { ...wanted, seesPeople: onOff(seesPeople), seesMoney: onOff(seesMoney) };
      const { token } = (await sendJson(api, body)) as { token: string };
      reset();
      onMade(token);
    } catch (error) {
      if (!(error instanceof ApiProblem)) throw error;
      for (const { field, was } of error.fields) setError(field as keyof Fields, { message: was });
      if (error.fields.length === 0) setError('root', { message: error.message });
    }
  });
  return (
    <form onSubmit={(event) => void make(event)} className="sheet p-5" noValidate>
      <h2 className="text-base">A new token</h2>
      <label className="mt-3 block">
        What is it for
        <input
          {...register('name')}
          className="field mt-1 block w-full"
          placeholder="nightly export"
          aria-invalid={Boolean(errors.name)}
          aria-describedby="name-wrong"
        />
      </label>
      <Wrong id="name-wrong" text={errors.name?.message} />
      <fieldset className="mt-3 flex flex-col gap-1.5">
        <legend className="mb-1">It may</legend>
        <label className="flex items-center gap-2">
          <input type="radio" value="read" {...register('rights')} className="radio radio-sm" /> read
        </label>
        <label className="flex items-center gap-2">
          <input
            type="radio"
            value="change"
            {...register('rights')}
            disabled={!mayGive.change}
            className="radio radio-sm"
          />{' '}
          read and change
          {!mayGive.change && <span className="text-quiet">(you may only read)</span>}
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            {...register('seesPeople')}
            disabled={!mayGive.seesPeople}
            className="checkbox checkbox-sm"
          />{' '}
          see names and companies
        </label>
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            {...register('seesMoney')}
            disabled={!mayGive.seesMoney}
            className="checkbox checkbox-sm"
          />{' '}
          see amounts
        </label>
      </fieldset>
      <label className="mt-3 flex items-center gap-2">
        for
        <input
          {...register('days')}
          className="field value w-16"
          inputMode="numeric"
          aria-invalid={Boolean(errors.days)}
          aria-describedby="days-wrong"
        />
        days
      </label>
      <Wrong id="days-wrong" text={errors.days?.message} />
      <button className="button button-strong mt-4" disabled={isSubmitting}>
        Make the token
      </button>
      <Wrong id="form-wrong" text={errors.root?.message} />
    </form>
  );
}
