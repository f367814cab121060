import { useMutation, useQueryClient } from '@tanstack/react-query';
import { callNumberSchema, type CallNumberView, type CallsView } from '../../core/leads/calls-view';
import { count, counted } from '../../core/strands';
import type { Open } from '../../ui/address/useOpen';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { sendJson } from '../../ui/text/read';

const fresh: Omit<CallNumberView, 'isRetired' | 'calls' | 'enquiries'> = {
  id: '',
  number: '',
  name: '',
  source: '',
  medium: '',
  campaign: '',
  content: '',
};

/** The numbers that people dial: what each is for, and what it brought. */
export function CallNumbers({ api, view, open }: { api: string; view: CallsView; open: Open }) {
  const edited = open.isNew ? fresh : view.numbers.find(({ id }) => id === open.id);
  return (
    <section aria-label="Numbers" className="sheet">
      <div className="flex items-baseline justify-between gap-3 px-4 pt-4">
        <h2 className="text-base">Numbers</h2>
        {view.mayChange && (
          <button type="button" className="button" data-new onClick={() => open.make()}>
            New number
          </button>
        )}
      </div>
      <p className="text-quiet px-4 pt-1 text-[13px]">
        Give a flyer, a fair or a partner a number of its own, and its calls are known to come from there.
      </p>
      <ul className="mt-2 pb-2">
        {view.numbers.map((one) => (
          <li key={one.id} className="border-base-300 border-t px-4 py-2.5" aria-current={one.id === open.id}>
            <div className="flex items-baseline justify-between gap-3">
              <a href={open.href(one.id)} className="quiet-link font-semibold" onClick={pickBy(open, one.id)}>
                {one.name}
              </a>
              <code className="value text-quiet whitespace-nowrap">{one.number}</code>
            </div>
            <p className="text-[13px]">
              {one.source ? (
                <>
                  comes from{' '}
                  <code className="value">
                    {[one.source, one.medium, one.campaign, one.content].filter(Boolean).join(' · ')}
                  </code>
                </>
              ) : (
                'for everybody; its code says where a call came from'
              )}
              {one.isRetired && ', retired'}
            </p>
            <p className="text-quiet text-[13px]">
              {one.calls === 0
                ? 'no call yet'
                : `${counted(one.calls, 'call', 'calls')}, ${counted(one.enquiries, 'enquiry', 'enquiries')}`}
            </p>
          </li>
        ))}
        {view.unknown.length > 0 && (
          <li className="border-base-300 border-t px-4 py-2.5">
            <p className="font-semibold">Dialled and not described</p>
            {view.unknown.map(({ number, calls }) => (
              <p key={number} className="flex justify-between gap-3 text-[13px]">
                <code className="value">{number}</code>
                <span className="text-quiet">{count(calls)}</span>
              </p>
            ))}
          </li>
        )}
      </ul>
      {edited && view.mayChange && <NumberForm key={edited.id} api={api} edited={edited} onDone={open.close} />}
    </section>
  );
}

const pickBy = (open: Open, id: string) => (event: { preventDefault(): void }) => {
  event.preventDefault();
  open.pick(id);
};

function NumberForm({
  api,
  edited,
  onDone,
}: {
  api: string;
  edited: typeof fresh & { isRetired?: boolean };
  onDone: () => void;
}) {
  const client = useQueryClient();
  const { id, number, name, source, medium, campaign, content } = edited;
  const form = useAppForm({
    name: `number ${id}`,
    schema: callNumberSchema,
    isStored: id !== '',
    values: { id, number, name, source, medium, campaign, content },
    async save(given) {
      client.setQueryData([api], await sendJson<CallsView>(`${api}/numbers`, given));
      onDone();
    },
  });
  const retire = useMutation({
    mutationFn: () => sendJson<CallsView>(`${api}/numbers/retire`, { id, retired: !edited.isRetired }),
    onSuccess: (next) => {
      client.setQueryData([api], next);
      onDone();
    },
  });
  return (
    <form
      onSubmit={form.onSubmit}
      className="border-base-300 border-t p-4"
      noValidate
      aria-label={id ? 'Change number' : 'New number'}
    >
      <div className="grid grid-cols-2 gap-3">
        <Field form={form} name="name" words="What people call it" placeholder="Fleet line" />
        <Field form={form} name="number" words="Number" isValue placeholder="+44 1632 960018" />
        <Field form={form} name="source" words="Source (empty: for everybody)" isValue placeholder="trade-fair" />
        <Field form={form} name="medium" words="Medium" isValue placeholder="fair" />
        <Field form={form} name="campaign" words="Campaign" isValue />
        <Field form={form} name="content" words="Content" isValue />
      </div>
      <Problem text={form.problem ?? retire.error?.message} />
      <div className="mt-4 flex flex-wrap items-center gap-3">
        <button className="button button-strong" disabled={form.isSaving}>
          Save number
        </button>
        {id !== '' && (
          <button type="button" className="button" disabled={retire.isPending} onClick={() => retire.mutate()}>
            {edited.isRetired ? 'Use again' : 'Retire'}
          </button>
        )}
        <button type="button" className="quiet-link cursor-pointer" onClick={onDone}>
          Cancel
        </button>
      </div>
    </form>
  );
}
