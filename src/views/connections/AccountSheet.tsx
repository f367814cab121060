import { useMutation, useQueryClient } from '@tanstack/react-query';
import { changedAccountSchema, type AccountState } from '../../core/connections/schema';
import type { AccountView, ConnectionsView, KindView } from '../../core/connections/view';
import { count, counted } from '../../core/strands';
import { Confirm } from '../../ui/form/Confirm';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { AccountFields, accountSecrets } from './AccountFields';
import { Arrivals } from './Arrivals';
import { TryBox } from './TryBox';
import { Words } from '../../ui/text/Words';

/** One connected account: what it did, what it last answered, trying it, changing it, pausing and retiring it. */
export function AccountSheet({
  business,
  view,
  account,
}: {
  business: string;
  view: ConnectionsView;
  account: AccountView;
}) {
  const api = `/api/b/${business}/connections/accounts/${account.id}`;
  const kind = view.kinds.find((one) => one.kind === account.kind);
  return (
    <div className="flex min-w-0 flex-col gap-4">
      <section className="sheet" aria-label={account.name}>
        <div className="px-5 py-4">
          <h2 className="text-[17px]">
            {account.name}
            {account.name !== account.kindWords && (
              <span className="text-quiet font-normal">, {account.kindWords}</span>
            )}
          </h2>
          {account.broken && (
            <p role="alert" className="border-error text-error mt-2 border-l-3 pl-3">
              {account.broken.was}. {account.broken.fix}
            </p>
          )}
          <Facts view={view} account={account} />
        </div>
        {view.mayChange && account.state !== 'retired' && <TryBox api={api} account={account} />}
      </section>
      {kind?.isOwn && account.does === 'crm' && (
        <Arrivals business={business} account={account} mayChange={view.mayChange} />
      )}
      {view.mayChange && account.state !== 'retired' && (
        <Change key={account.id} api={api} account={account} kind={kind} />
      )}
      {view.mayChange && <State api={api} account={account} />}
    </div>
  );
}

function Facts({ view, account }: { view: ConnectionsView; account: AccountView }) {
  const { did, does, last, timeZone } = account;
  return (
    <dl className="mt-3 grid grid-cols-[140px_1fr] gap-x-3 gap-y-1.5">
      <dt className="text-quiet">{does === 'crm' ? 'Read' : 'Told'}</dt>
      <dd>
        {did.count === 0
          ? 'nothing yet'
          : does === 'crm'
            ? counted(did.count, 'record', 'records')
            : counted(did.count, 'row', 'rows')}
        {did.lastAt && (
          <>
            , the last <Time iso={did.lastAt} timeZone={view.timeZone} />
          </>
        )}
        {did.waiting > 0 && `; ${count(did.waiting)} waiting`}
        {did.held > 0 && `; ${count(did.held)} held`}
      </dd>
      <dt className="text-quiet">Last answer</dt>
      <dd>
        {last ? (
          <>
            <code className="value">{last.status}</code> <Time iso={last.at} timeZone={view.timeZone} />
            {last.said && <span className="text-quiet block [overflow-wrap:anywhere]">{last.said.slice(0, 160)}</span>}
          </>
        ) : (
          'not asked yet'
        )}
      </dd>
      <dt className="text-quiet">Used for</dt>
      <dd>
        {account.usedFor.length > 0
          ? account.usedFor.join(', ')
          : does === 'platform'
            ? 'no outcome is told to it yet'
            : does === 'crm'
              ? 'no rule reads leads from it yet'
              : 'no event is told to it yet'}
      </dd>
      <dt className="text-quiet">Address</dt>
      <dd>
        <code className="value [overflow-wrap:anywhere]">{account.endpoint}</code>
      </dd>
      <dt className="text-quiet">Key</dt>
      <dd>{account.hasToken ? 'set; it is never shown' : 'none'}</dd>
      {does === 'platform' ? (
        <>
          <dt className="text-quiet">Its days and money</dt>
          <dd>
            <code className="value">{timeZone}</code>,{' '}
            <code className="value">{account.currency || view.currency}</code>
          </dd>
        </>
      ) : (
        account.hook && (
          <>
            <dt className="text-quiet">Webhook address</dt>
            <dd className="flex flex-wrap items-center gap-2">
              <code className="value [overflow-wrap:anywhere]">{account.hook}</code>
              <Copy text={account.hook} words="Copy" />
            </dd>
          </>
        )
      )}
      <dt className="text-quiet">{account.state === 'in use' ? 'Connected' : `${account.state} since`}</dt>
      <dd>
        <Time iso={account.since} timeZone={view.timeZone} far />
      </dd>
    </dl>
  );
}

function Change({ api, account, kind }: { api: string; account: AccountView; kind: KindView | undefined }) {
  const client = useQueryClient();
  const { name, endpoint, timeZone, currency } = account;
  const form = useAppForm({
    name: api,
    schema: changedAccountSchema,
    secrets: accountSecrets,
    values: { name, endpoint, timeZone, currency, token: '', webhookSecret: '' },
    save: (wanted) => sendJson(api, wanted).then(() => client.invalidateQueries()),
  });
  return (
    <form onSubmit={form.onSubmit} className="sheet p-5" aria-label="Change it" noValidate>
      <h2 className="mb-3 text-base">Change it</h2>
      <AccountFields
        form={form}
        does={account.does}
        hasToken={account.hasToken}
        sendsWebhooks={kind?.sendsWebhooks ?? false}
        takesFiles={kind?.takesFiles ?? false}
        isNew={false}
      />
      <div className="mt-4 flex gap-2">
        <button className="button button-strong" disabled={!form.isWritten || form.isSaving}>
          Save changes
        </button>
        {form.isWritten && (
          <button type="button" className="button" onClick={form.undo}>
            Undo
          </button>
        )}
      </div>
      <Problem text={form.problem} />
    </form>
  );
}

function State({ api, account }: { api: string; account: AccountView }) {
  const client = useQueryClient();
  const set = useMutation({
    mutationFn: (state: AccountState) => sendJson(`${api}/state`, { state }),
    onSuccess: () => client.invalidateQueries(),
  });
  const { name, state, did } = account;
  return (
    <div className="flex flex-wrap items-center gap-3">
      {state === 'in use' ? (
        <button type="button" className="button" disabled={set.isPending} onClick={() => set.mutate('pause')}>
          Pause {name}
        </button>
      ) : (
        <button type="button" className="button" disabled={set.isPending} onClick={() => set.mutate('go on')}>
          Let {name} go on
        </button>
      )}
      {state !== 'retired' && (
        <Confirm
          words={`Retire ${name}`}
          question={`Retire ${name}?`}
          does="Retire it"
          onConfirm={() => set.mutate('retire')}
        >
          {account.does === 'platform'
            ? `Nothing more is told to it${did.waiting > 0 ? `, and ${counted(did.waiting, 'row that waits is', 'rows that wait are')} held` : ''}. What it was told stays.`
            : 'No more records are read from it. What was read stays.'}
        </Confirm>
      )}
      <span className="text-quiet">
        {state === 'paused' && 'While it is paused, what would be told is held.'}
        {state === 'retired' && 'It is out of use; what it did is kept.'}
      </span>
      {set.error && (
        <span className="text-error">
          <Words text={set.error.message} />
        </span>
      )}
    </div>
  );
}
