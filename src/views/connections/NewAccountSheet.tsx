import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { newAccountSchema } from '../../core/connections/schema';
import type { ConnectionsView, KindView } from '../../core/connections/view';
import { useAddressPart } from '../../ui/address/useAddressPart';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { useFocusFirst } from '../../ui/form/useFocusFirst';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { AccountFields, accountSecrets } from './AccountFields';

interface Made {
  id: string;
  key: string;
  webhookSecret: string;
}

/** Connects an account: first of which kind it is, then what it needs. */
export function NewAccountSheet({
  business,
  view,
  search,
  onDone,
}: {
  business: string;
  view: ConnectionsView;
  search: string;
  onDone: (id: string) => void;
}) {
  const [wanted] = useAddressPart('kind', search);
  const [kind, setKind] = useState(wanted);
  const [made, setMade] = useState<Made | null>(null);
  const known = view.kinds.find((one) => one.kind === kind);
  const sheet = useFocusFirst<HTMLElement>(true);
  if (made && known) return <Secret business={business} view={view} made={made} onDone={() => onDone(made.id)} />;
  return (
    <section ref={sheet} className="sheet min-w-0 p-5" aria-label="New connection">
      <label className="block">
        <span className="text-quiet block text-[12.5px]">What to connect</span>
        <select className="field mt-0.5 w-full sm:w-80" value={kind} onChange={(event) => setKind(event.target.value)}>
          <option value="">Choose it</option>
          <Kinds label="Platforms that are told" kinds={view.kinds.filter(({ does }) => does === 'platform')} />
          <Kinds label="Places that take events" kinds={view.kinds.filter(({ does }) => does === 'destination')} />
          <Kinds label="CRMs that leads are read from" kinds={view.kinds.filter(({ does }) => does === 'crm')} />
        </select>
      </label>
      <p className="text-quiet mt-2 text-[13px]">
        Not in the list? Describe{' '}
        <a className="quiet-link" href={`/b/${business}/connections/platforms?new=yes`}>
          your platform
        </a>{' '}
        or{' '}
        <a className="quiet-link" href={`/b/${business}/connections/crms?new=yes`}>
          your CRM
        </a>{' '}
        yourself; it then works like the others.
      </p>
      {known && (
        <AccountForm
          key={known.kind}
          business={business}
          view={view}
          kind={known}
          onMade={(one) => (one.webhookSecret ? setMade(one) : onDone(one.id))}
        />
      )}
    </section>
  );
}

function Kinds({ label, kinds }: { label: string; kinds: KindView[] }) {
  if (kinds.length === 0) return null;
  return (
    <optgroup label={label}>
      {kinds.map(({ kind, words, isOwn, isLive }) => (
        <option key={kind} value={kind}>
          {words}
          {isOwn ? (isLive ? ', your own' : ', your own, not live yet') : ''}
        </option>
      ))}
    </optgroup>
  );
}

function AccountForm({
  business,
  view,
  kind,
  onMade,
}: {
  business: string;
  view: ConnectionsView;
  kind: KindView;
  onMade: (made: Made) => void;
}) {
  const client = useQueryClient();
  const form = useAppForm({
    name: `${business} new account ${kind.kind}`,
    schema: newAccountSchema,
    isStored: false,
    secrets: accountSecrets,
    values: {
      kind: kind.kind,
      name: kind.words,
      endpoint: '',
      timeZone: view.timeZone,
      currency: view.currency,
      token: '',
      webhookSecret: '',
      keepClickId: kind.does === 'platform' && !view.clickIdsKept.includes(kind.kind),
    },
    async save(wanted) {
      const made = await sendJson<Made>(`/api/b/${business}/connections/accounts`, wanted);
      await client.invalidateQueries();
      onMade(made);
    },
  });
  return (
    <form onSubmit={form.onSubmit} className="border-base-300 mt-4 border-t pt-4" noValidate>
      <AccountFields
        form={form as never}
        does={kind.does}
        hasToken={false}
        sendsWebhooks={kind.sendsWebhooks}
        takesFiles={kind.takesFiles}
        isNew
      />
      {kind.does === 'platform' && !view.clickIdsKept.includes(kind.kind) && (
        <label className="mt-4 flex items-center gap-2">
          <input type="checkbox" {...form.register('keepClickId')} className="checkbox checkbox-sm" />
          Keep its click ID on my pages; the rule goes into the draft
        </label>
      )}
      <button className="button button-strong mt-5" disabled={form.isSaving}>
        Connect {kind.words}
      </button>
      <Problem text={form.problem} />
    </form>
  );
}

/** The webhook address and its secret, said once. */
function Secret({
  business,
  view,
  made,
  onDone,
}: {
  business: string;
  view: ConnectionsView;
  made: Made;
  onDone: () => void;
}) {
  const hook = `${view.edgeOrigin}/hook/${business}/${made.key}`;
  return (
    <section className="sheet border-accent p-5" aria-label="Webhook">
      <h2 className="text-base">Enter these two in the CRM, so that it says at once when a record changes.</h2>
      <dl className="mt-3 grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-2">
        <dt className="text-quiet">Webhook address</dt>
        <dd className="flex flex-wrap items-center gap-2">
          <code className="value break-all" data-testid="hook">
            {hook}
          </code>
          <Copy text={hook} words="Copy" />
        </dd>
        <dt className="text-quiet">Secret</dt>
        <dd className="flex flex-wrap items-center gap-2">
          <code className="value break-all" data-testid="secret">
            {made.webhookSecret}
          </code>
          <Copy text={made.webhookSecret} words="Copy" />
        </dd>
      </dl>
      <p className="text-quiet mt-3 text-[13px]">The secret is not shown again. Another one can be set at any time.</p>
      <button type="button" className="button button-strong mt-4" onClick={onDone}>
        I have both
      </button>
    </section>
  );
}
