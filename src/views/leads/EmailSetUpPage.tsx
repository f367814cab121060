import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { z } from 'zod';
import { mailSettingsSchema } from '../../core/leads/routines/mail-set-up-schema';
import type { MailSetUpView, MailStopView } from '../../core/leads/routines/view';
import { count } from '../../core/strands';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { SecretOnce, useMakeSecret } from '../../ui/form/SecretOnce';
import { useAppForm } from '../../ui/form/useAppForm';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { leadsParts } from './LeadsFrame';

interface Props {
  business: string;
  initial: MailSetUpView;
  search: string;
}

/** How emails are sent, how replies come back, and who wants none. */
export function EmailSetUpPage(props: Props) {
  return (
    <Live>
      <EmailSetUp {...props} />
    </Live>
  );
}

function EmailSetUp({ business, initial }: Props) {
  const api = `/api/b/${business}/leads/emails`;
  const view = useView(`${api}/set-up`, initial, 5000);
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Routines')}
      crumb={
        <>
          <a href={`/b/${business}/leads/routines`} className="quiet-link">
            Routines
          </a>{' '}
          / How emails are sent
        </>
      }
    >
      <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_1fr]">
        <Server api={api} view={view} />
        <div className="grid gap-4">
          <Replies api={api} view={view} />
          <Stops business={business} api={api} view={view} />
        </div>
      </div>
    </StationFrame>
  );
}

/** As it is typed: all of it text. */
const typedSchema = z.object({
  host: mailSettingsSchema.shape.host,
  port: z.string().regex(/^\d{1,5}$/, 'must be a number, such as 587'),
  security: mailSettingsSchema.shape.security,
  user: mailSettingsSchema.shape.user,
  password: z.string().max(300),
  fromName: mailSettingsSchema.shape.fromName,
  fromAddress: mailSettingsSchema.shape.fromAddress,
  replyTo: mailSettingsSchema.shape.replyTo,
  perMinute: z.string().regex(/^\d{1,4}$/, 'must be a number, such as 60'),
});

function Server({ api, view }: { api: string; view: MailSetUpView }) {
  const client = useQueryClient();
  const { settings } = view;
  const form = useAppForm({
    name: 'how emails are sent',
    schema: typedSchema,
    isStored: settings !== null,
    secrets: ['password'],
    values: {
      host: settings?.host ?? '',
      port: String(settings?.port ?? 587),
      security: settings?.security ?? ('starttls' as const),
      user: settings?.user ?? '',
      password: '',
      fromName: settings?.fromName ?? '',
      fromAddress: settings?.fromAddress ?? '',
      replyTo: settings?.replyTo ?? '',
      perMinute: String(settings?.perMinute ?? 60),
    },
    async save({ port, perMinute, password, ...given }) {
      const next = await sendJson<MailSetUpView>(`${api}/set-up`, {
        ...given,
        port: Number(port),
        perMinute: Number(perMinute),
        password: password === '' ? null : password,
      });
      client.setQueryData([`${api}/set-up`], next);
    },
  });
  const disabled = !view.mayChange;
  return (
    <form onSubmit={form.onSubmit} className="sheet p-5" noValidate aria-label="Mail server">
      <h2 className="text-base">Your mail server</h2>
      <div className="mt-3 grid grid-cols-1 gap-3 sm:grid-cols-2">
        <Field form={form} name="host" words="Host" isValue placeholder="smtp.larkmoor.example" disabled={disabled} />
        <div className="grid grid-cols-[90px_1fr] gap-3">
          <Field form={form} name="port" words="Port" isValue disabled={disabled} />
          <Field
            form={form}
            name="security"
            words="Encrypted"
            options={[
              ['starttls', 'after STARTTLS'],
              ['tls', 'from the start (TLS)'],
              ['none', 'not at all'],
            ]}
            disabled={disabled}
          />
        </div>
        <Field form={form} name="user" words="User (empty: none)" isValue disabled={disabled} />
        <Field
          form={form}
          name="password"
          words={settings?.hasPassword ? 'Password (empty: as it is)' : 'Password'}
          as="password"
          autoComplete="new-password"
          disabled={disabled}
        />
        <Field
          form={form}
          name="fromName"
          words="From, as people read it"
          placeholder="Maud at Larkmoor"
          disabled={disabled}
        />
        <Field
          form={form}
          name="fromAddress"
          words="From, the address"
          isValue
          placeholder="hello@larkmoor.example"
          disabled={disabled}
        />
        <Field form={form} name="replyTo" words="Replies go to (empty: the same)" isValue disabled={disabled} />
        <Field form={form} name="perMinute" words="Emails a minute, at most" isValue disabled={disabled} />
      </div>
      <Problem text={form.problem} />
      {view.mayChange && (
        <div className="mt-4 flex flex-wrap items-center gap-3">
          <button className="button button-strong" disabled={form.isSaving || !form.isWritten}>
            Save
          </button>
          {form.isWritten && (
            <button type="button" className="quiet-link cursor-pointer" onClick={form.undo}>
              Undo
            </button>
          )}
        </div>
      )}
      {settings && view.mayChange && <SendOne api={api} isWritten={form.isWritten} />}
    </form>
  );
}

function SendOne({ api, isWritten }: { api: string; isWritten: boolean }) {
  const [to, setTo] = useState('');
  const send = useMutation({
    mutationFn: () => sendJson<{ answer: string }>(`${api}/set-up/try`, { to: to.trim() }),
  });
  return (
    <div className="border-base-300 mt-4 border-t pt-4">
      <div className="flex flex-wrap items-center gap-2">
        <input
          className="field value w-64"
          aria-label="Address for one email"
          placeholder="you@larkmoor.example"
          value={to}
          onChange={(event) => setTo(event.target.value)}
        />
        <button
          type="button"
          className="button"
          disabled={to.trim() === '' || send.isPending || isWritten}
          onClick={() => send.mutate()}
        >
          Send one email
        </button>
        {send.isSuccess && <span role="status">Taken: {send.data.answer}</span>}
      </div>
      <Problem text={send.error?.message} />
    </div>
  );
}

function Replies({ api, view }: { api: string; view: MailSetUpView }) {
  const make = useMakeSecret(`${api}/secret`);
  return (
    <section className="sheet p-5" aria-label="Replies">
      <h2 className="text-base">Replies and bounces</h2>
      <p className="text-quiet mt-1 text-[13px]">
        Have your mail system pass on what comes in: each email as it came, by POST, with the secret as{' '}
        <code className="value">authorization: Bearer …</code>. Whoever replies is let go; an address that bounces gets
        no more emails.
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <code className="value [overflow-wrap:anywhere]">{view.repliesAddress}</code>
        <Copy text={view.repliesAddress} words="Copy" />
      </div>
      <SecretOnce make={make} hasSecret={view.hasSecret} mayChange={view.mayChange} disabled={view.settings === null} />
      <p className="text-quiet mt-2">
        {view.lastReplyAt ? (
          <>
            Last came <Time iso={view.lastReplyAt} timeZone={view.timeZone} />
          </>
        ) : (
          'Nothing came yet.'
        )}
      </p>
    </section>
  );
}

const howWords: Record<MailStopView['how'], string> = {
  link: 'by the link in an email',
  hand: 'by hand',
  bounced: 'nothing arrives there',
};

/** Addresses to which nothing is sent. */
function Stops({ business, api, view }: { business: string; api: string; view: MailSetUpView }) {
  const client = useQueryClient();
  const [address, setAddress] = useState('');
  const send = useMutation({
    mutationFn: ([path, body]: [path: string, body: object]) => sendJson<MailSetUpView>(`${api}/${path}`, body),
    onSuccess: (next) => client.setQueryData([`${api}/set-up`], next),
  });
  const columns: Column<MailStopView>[] = [
    {
      id: 'lead',
      head: 'Who',
      by: ({ lead }) => lead,
      cell: ({ lead, enquiryId }) =>
        enquiryId ? (
          <a href={`/b/${business}/leads/${enquiryId}`} className="quiet-link font-semibold">
            {lead}
          </a>
        ) : (
          <span className="text-quiet">{lead || 'an address that no lead has'}</span>
        ),
    },
    {
      id: 'how',
      head: 'How',
      by: ({ how }) => how,
      cell: ({ how, byName, at }) => (
        <>
          {howWords[how]}
          {byName && `, ${byName}`}
          <span className="text-quiet">
            , <Time iso={at} timeZone={view.timeZone} />
          </span>
        </>
      ),
    },
    {
      id: 'end',
      head: 'Send again',
      isHeadHidden: true,
      right: true,
      cell: ({ hash }) =>
        view.mayChange && (
          <button
            type="button"
            className="quiet-link cursor-pointer whitespace-nowrap"
            onClick={() => send.mutate(['stops/end', { hash }])}
          >
            Send again
          </button>
        ),
    },
  ];
  return (
    <section className="sheet p-5" aria-label="Who gets no emails">
      <h2 className="text-base">
        Who gets no emails
        {view.stopped > view.stops.length && (
          <span className="text-quiet ml-2 text-[13px] font-normal">
            the newest {count(view.stops.length)} of {count(view.stopped)}
          </span>
        )}
      </h2>
      {view.mayChange && (
        <form
          className="mt-2 flex flex-wrap gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            send.mutate(['stops', { address: address.trim() }], { onSuccess: () => setAddress('') });
          }}
        >
          <input
            className="field value w-64"
            aria-label="Address that gets none"
            placeholder="somebody@oriel.example"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
          <button className="button" disabled={address.trim() === '' || send.isPending}>
            Send them none
          </button>
        </form>
      )}
      <Problem text={send.error?.message} />
      <div className="mt-3">
        <DataTable
          isPart
          label="Addresses"
          rows={view.stops}
          idOf={({ hash }) => hash}
          columns={columns}
          none="Everybody gets them. The addresses themselves are not kept, only what tells them apart."
        />
      </div>
    </section>
  );
}
