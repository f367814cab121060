import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { LeadAccountView, LeadFormsView } from '../../core/leads/forms-view';
import { Problem } from '../../ui/form/Problem';
import { Select } from '../../ui/form/rows';
import { sendJson } from '../../ui/text/read';

/** Says, as a sentence, how the leads of an account's own forms are to be fetched. */
export function LeadPullForm({ api, view, account }: { api: string; view: LeadFormsView; account: LeadAccountView }) {
  const client = useQueryClient();
  const { platform, keptDays, id } = account;
  const crm = view.crm.name || 'the CRM';
  const [take, setTake] = useState<'all' | 'new'>('all');
  const [medium, setMedium] = useState(view.media.find((one) => one === 'paid-social') ?? view.media[0] ?? '');
  const [hands, setHands] = useState<'over' | 'not'>(view.crm.makes ? 'over' : 'not');
  const [agree, setAgree] = useState<'yes' | 'no'>('no');
  const begin = useMutation({
    mutationFn: () =>
      sendJson<LeadFormsView>(api, { account: id, take, medium, handsOver: hands === 'over', agreed: agree === 'yes' }),
    onSuccess: (next) => client.setQueryData([api], next),
  });
  const disabled = !view.mayChange || begin.isPending;
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        begin.mutate();
      }}
    >
      <p className="mt-1 max-w-[80ch] leading-[2.4]">
        Fetch{' '}
        <Select
          label="What is fetched"
          className="w-auto"
          value={take}
          onChange={setTake}
          disabled={disabled}
          options={[
            ['all', `all that ${platform} still keeps (${keptDays} days), and what comes`],
            ['new', 'what is sent from now on'],
          ]}
        />{' '}
        and count it as{' '}
        <Select
          label="Medium"
          className="value w-auto"
          value={medium}
          onChange={setMedium}
          disabled={disabled}
          options={view.media.map((one) => [one, one] as const)}
        />
        .{' '}
        <Select
          label="Into the CRM"
          className="w-auto"
          value={hands}
          onChange={setHands}
          disabled={disabled}
          options={[
            ...(view.crm.makes ? [['over', `Make a record of each in ${crm}`] as const] : []),
            ['not', `${crm.charAt(0).toUpperCase()}${crm.slice(1)} gets them by itself`],
          ]}
        />
        . People{' '}
        <Select
          label="Consent"
          className="w-auto"
          value={agree}
          onChange={setAgree}
          disabled={disabled}
          options={[
            ['no', 'are not asked on the form whether'],
            ['yes', 'agree on the form that'],
          ]}
        />{' '}
        platforms may be told what comes of it.
      </p>
      {view.mayChange && (
        <button className="button button-strong mt-2" disabled={disabled || medium === ''}>
          Fetch leads
        </button>
      )}
      {medium === '' && <p className="text-quiet mt-2 text-[13px]">The plan has no medium yet; add one there first.</p>}
      <Problem text={begin.error?.message} />
    </form>
  );
}
