import { useMutation, useQueryClient } from '@tanstack/react-query';
import { websiteSchema } from '../../core/connections/schema';
import type { ConnectionsView, WebsiteView } from '../../core/connections/view';
import { counted } from '../../core/strands';
import { Field } from '../../ui/form/Field';
import { Problem } from '../../ui/form/Problem';
import { useAppForm } from '../../ui/form/useAppForm';
import { Copy } from '../../ui/text/Copy';
import { readJson, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

/** The websites of a business: when each was last seen, the subdomain for cookies, and hosts that may be its own too. */
export function WebsitesSheet({ business, view }: { business: string; view: ConnectionsView }) {
  const client = useQueryClient();
  const api = `/api/b/${business}/connections/websites`;
  const done = () => client.invalidateQueries();
  const form = useAppForm({
    name: `${api} new`,
    schema: websiteSchema,
    isStored: false,
    values: { website: '' },
    save: (wanted) => sendJson(api, wanted).then(done),
  });
  const add = useMutation({ mutationFn: (website: string) => sendJson(api, { website }), onSuccess: done });
  return (
    <section className="sheet min-w-0" aria-label="Websites">
      <ul>
        {view.websites.map((website) => (
          <Website key={website.host} business={business} view={view} website={website} />
        ))}
      </ul>
      {view.strangers.length > 0 && (
        <div className="border-base-300 border-t px-5 py-4">
          <h2 className="text-base">Hosts that use your snippet and are no website of yours</h2>
          <p className="text-quiet mt-1 text-[13px]">What their pages told is kept apart and counted nowhere.</p>
          <ul className="mt-2">
            {view.strangers.map(({ host, hits }) => (
              <li key={host} className="flex flex-wrap items-center gap-3 py-1">
                <code className="value">{host}</code>
                <span className="text-quiet">{counted(hits, 'hit', 'hits')}</span>
                {view.mayChange && (
                  <button type="button" className="button" disabled={add.isPending} onClick={() => add.mutate(host)}>
                    Add {host}
                  </button>
                )}
              </li>
            ))}
          </ul>
          {add.error && (
            <p role="alert" className="text-error mt-2">
              <Words text={add.error.message} />
            </p>
          )}
        </div>
      )}
      {view.mayChange && (
        <form onSubmit={form.onSubmit} className="border-base-300 border-t px-5 py-4" noValidate>
          <div className="flex items-end gap-2">
            <div className="min-w-0 flex-1">
              <Field
                form={form}
                name="website"
                words="Another website"
                placeholder="https://shop.bakery.example"
                isValue
              />
            </div>
            <button className="button h-8" disabled={form.isSaving}>
              Add website
            </button>
          </div>
          <Problem text={form.problem} />
        </form>
      )}
    </section>
  );
}

function Website({ business, view, website }: { business: string; view: ConnectionsView; website: WebsiteView }) {
  const { host, registrable, subdomain, seenAt } = website;
  const check = useMutation({
    mutationFn: () =>
      readJson<{ leadsHere: boolean; words: string }>(
        `/api/b/${business}/connections/websites/check?registrable=${encodeURIComponent(registrable)}`,
      ),
  });
  const edgeHost = view.edge.replace(/:\d+$/, '');
  return (
    <li className="border-base-300 px-5 py-4 not-first:border-t">
      <h2 className="text-base">
        <code className="value">{host}</code>
      </h2>
      <p className="mt-1">
        {seenAt ? (
          <>
            Its pages last told something <Time iso={seenAt} timeZone={view.timeZone} />.
          </>
        ) : (
          <>
            No page of it has reported yet.{' '}
            <a className="quiet-link" href={`/b/${business}/capture/install`}>
              Install the snippet
            </a>
          </>
        )}
      </p>
      <dl className="text-quiet mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-1 text-[13px]">
        <dt>Cookies are kept for</dt>
        <dd>
          <code className="value">{registrable}</code> and everything below it
        </dd>
        <dt>Subdomain for cookies</dt>
        <dd className="flex flex-wrap items-center gap-2">
          <code className="value">
            {subdomain} CNAME {edgeHost}
          </code>
          <Copy text={`${subdomain}. CNAME ${edgeHost}.`} words="Copy the record" />
          <button type="button" className="button" disabled={check.isPending} onClick={() => check.mutate()}>
            {check.isPending ? 'Looking …' : 'Look whether it leads here'}
          </button>
        </dd>
      </dl>
      {(check.data ?? check.error) && (
        <p role="status" className={`mt-2 ${check.data?.leadsHere ? 'text-success' : 'text-error'}`}>
          {check.data?.words ?? check.error?.message}
        </p>
      )}
    </li>
  );
}
