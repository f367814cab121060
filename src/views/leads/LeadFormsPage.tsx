import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { LeadAccountView, LeadFormsView, PlatformLeadView } from '../../core/leads/forms-view';
import { listed } from '../../core/listed';
import { count } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { FormLinks } from './FormLinks';
import { LeadPullForm } from './LeadPullForm';
import { leadsParts } from './LeadsFrame';
import { RecordLink } from './RecordLink';

interface Props {
  business: string;
  initial: LeadFormsView;
}

/** What people send with forms of platforms' own: fetched from there, handed over to the CRM, and what became of each. */
export function LeadFormsPage(props: Props) {
  return (
    <Live>
      <LeadForms {...props} />
    </Live>
  );
}

/** How soon (ms) the page is read anew while something is under way. */
const whileUnderWay = ({ accounts, leads }: LeadFormsView): number | false =>
  accounts.some(({ pull }) => pull && pull.pulledAt === null) ||
  leads.some(({ state }) => state === 'waits for the CRM')
    ? 1500
    : false;

function LeadForms({ business, initial }: Props) {
  const api = `/api/b/${business}/leads/forms`;
  const view = useView(api, initial, whileUnderWay);
  const client = useQueryClient();
  const again = useMutation({
    mutationFn: () => sendJson<LeadFormsView>(`${api}/again`, {}),
    onSuccess: (next) => client.setQueryData([api], next),
  });
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Lead forms')}
      actions={
        view.mayChange &&
        view.refused > 0 && (
          <button type="button" className="button" disabled={again.isPending} onClick={() => again.mutate()}>
            Ask the CRM again for {count(view.refused)}
          </button>
        )
      }
    >
      <Problem text={again.error?.message} />
      {view.accounts.length === 0 && view.mayChange && (
        <a className="button button-strong" href={`/b/${business}/connections`}>
          Connect a platform
        </a>
      )}
      <div className="flex flex-col gap-4">
        {view.accounts.map((account) => (
          <Account key={account.id} api={api} view={view} account={account} />
        ))}
      </div>
      {view.total > 0 && (
        <section aria-label="Fetched" className="mt-6">
          <h2 className="mb-2 text-base">
            {view.total > view.leads.length
              ? `The newest ${count(view.leads.length)} of ${count(view.total)}`
              : 'What people sent'}
          </h2>
          <Fetched business={business} view={view} />
        </section>
      )}
    </StationFrame>
  );
}

/** How one account's leads are fetched, and what cannot be tested there. */
function Account({ api, view, account }: { api: string; view: LeadFormsView; account: LeadAccountView }) {
  const client = useQueryClient();
  const { id, name, platform, keptDays, untestable, pull, trouble } = account;
  const end = useMutation({
    mutationFn: () => sendJson<LeadFormsView>(`${api}/end`, { account: id }),
    onSuccess: (next) => client.setQueryData([api], next),
  });
  return (
    <section aria-label={name} className="sheet">
      <div className="px-5 py-4">
        <h2 className="text-base">{name}</h2>
        {trouble && (
          <p role="alert" className="text-error mt-1">
            Nothing is fetched now. <Words text={trouble} /> What people send is lost after {keptDays} days.
          </p>
        )}
        {pull ? (
          <>
            <p className="mt-1 max-w-[80ch]">
              {pull.takesAll
                ? `Fetched: all that ${platform} still kept, and what is sent since`
                : 'Fetched: what is sent since'}{' '}
              <Time iso={pull.since} timeZone={view.timeZone} />, set by {pull.by}. Counted as{' '}
              <code className="value whitespace-nowrap">{pull.medium}</code>.{' '}
              {pull.handsOver
                ? `A record of each is made in ${view.crm.name || 'the CRM'}.`
                : `${view.crm.name || 'The CRM'} gets them by itself.`}{' '}
              {pull.agreed
                ? 'People agree on the form that platforms may be told what comes of it.'
                : 'Platforms are told only where consent is not required.'}
            </p>
            <p className="text-quiet mt-1 text-[13px]">
              {pull.pulledAt ? (
                <>
                  Last asked <Time iso={pull.pulledAt} timeZone={view.timeZone} />, the oldest leads first; asked every
                  5 minutes.
                </>
              ) : (
                'Asking for the first time …'
              )}
            </p>
            {view.mayChange && (
              <button type="button" className="button mt-3" disabled={end.isPending} onClick={() => end.mutate()}>
                Stop fetching
              </button>
            )}
          </>
        ) : (
          <LeadPullForm api={api} view={view} account={account} />
        )}
        <Problem text={end.error?.message} />
      </div>
      {untestable.length > 0 && (
        <p className="border-base-300 border-t px-5 py-3 text-[13px]">
          {platform} passes no test lead on that is made {listed(untestable)}. To try the form there, send it with an
          email address of yours: if its domain is on <span className="font-semibold">Not customers</span>, the lead
          comes in and is not counted.
        </p>
      )}
      {pull && <FormLinks api={api} account={account} mayChange={view.mayChange} />}
    </section>
  );
}

const stateWords: Record<PlatformLeadView['state'], string> = {
  'in the CRM': 'in the CRM',
  'waits for the CRM': 'waits for the CRM',
  'not asked for': 'the CRM gets it by itself',
  refused: 'refused by the CRM',
  gone: 'gone before it was fetched',
  test: 'test lead, not counted',
};

function Fetched({ business, view }: { business: string; view: LeadFormsView }) {
  const columns: Column<PlatformLeadView>[] = [
    {
      id: 'words',
      head: 'Lead',
      by: ({ words }) => words,
      cell: ({ words, number, enquiryId }) => (
        <RecordLink business={business} words={words} number={number} enquiryId={enquiryId} />
      ),
    },
    {
      id: 'sentAt',
      head: 'Sent there',
      by: ({ sentAt }) => sentAt,
      cell: ({ sentAt }) => <Time iso={sentAt} timeZone={view.timeZone} />,
    },
    { id: 'form', head: 'Form', by: ({ form }) => form, cell: ({ form }) => form },
    {
      id: 'campaign',
      head: 'Campaign and ad',
      by: ({ campaign, ad }) => `${campaign} ${ad}`,
      cell: ({ campaign, ad }) => (
        <span className="[overflow-wrap:anywhere]">
          <code className="value">{campaign}</code> <code className="value text-quiet">{ad}</code>
        </span>
      ),
    },
    { id: 'place', head: 'Place', by: ({ place }) => place, cell: ({ place }) => place },
    {
      id: 'state',
      head: 'Became',
      by: ({ state }) => state,
      cell: ({ state, said }) => (
        <span className={state === 'refused' || state === 'gone' ? 'text-error' : ''}>
          {stateWords[state]}{' '}
          {state === 'in the CRM' ? <code className="value text-quiet">{said}</code> : <Words text={said} />}
        </span>
      ),
    },
  ];
  return (
    <DataTable
      label="Leads of platforms’ own forms"
      rows={view.leads}
      idOf={({ id }) => id}
      columns={columns}
      start={{ by: 'sentAt', descending: true }}
      finds={{
        what: 'Company, form, campaign',
        label: 'Find a lead',
        in: ({ words, number, form, ad, campaign, place, state }) =>
          [words, number, form, ad, campaign, place, stateWords[state]].join(' '),
      }}
      none="No lead matches."
    />
  );
}
