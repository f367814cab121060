import { z } from 'zod';
import { newTokenSchema } from '../../core/people/schema';
import type { TokensView } from '../../core/people/view';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { sendJson } from '../../ui/text/read';
import { Wrong } from '../../ui/text/Wrong';

const formSchema = newTokenSchema.extend({ seesPeople: z.boolean(), seesMoney: z.boolean() });
const onOff = (on: boolean) => (on ? 'on' : 'off');

interface Props {
  api: string;
  mayGive: TokensView['mayGive'];
  onMade(token: string): void;
}

/** Asks what a new token is for and what it may; offers only what its maker may give. */
export function NewTokenForm({ api, mayGive, onMade }: Props) {
  const form = useAppForm({
    name: `${api} new`,
    schema: formSchema,
    isStored: false,
    values: { name: '', rights: 'read', seesPeople: false, seesMoney: false, days: '365' },
    async save({ seesPeople, seesMoney, ...wanted }) {
      const body = { ...wanted, seesPeople: onOff(seesPeople), seesMoney: onOff(seesMoney) };
      const { token } = (await sendJson(api, body)) as { token: string };
      onMade(token);
    },
  });
  const { register } = form;
  return (
    <form onSubmit={form.onSubmit} className="sheet p-5" noValidate>
      <h2 className="text-base">A new token</h2>
      <div className="mt-3">
        <Field form={form} name="name" words="What is it for" placeholder="nightly export" />
      </div>
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
          aria-invalid={form.wrong('days') !== undefined}
          aria-describedby="days-wrong"
        />
        days
      </label>
      <Wrong id="days-wrong" text={form.wrong('days')} />
      <button className="button button-strong mt-4" disabled={form.isSaving}>
        Make the token
      </button>
      <Problem text={form.problem} />
    </form>
  );
}
