import type { InstallView } from '../../core/capture/station-view';
import { count } from '../../core/strands';
import { Live } from '../../ui/live/Live';
import { Copy } from '../../ui/text/Copy';
import { Time } from '../../ui/text/Time';
import { CaptureFrame } from './CaptureFrame';
import { useView } from '../../ui/live/useView';

interface Props {
  business: string;
  initial: InstallView;
}

const stateWords = {
  seen: 'seen',
  missing: 'missing',
  twice: 'stands twice',
  stopped: 'blocked by its content policy',
} as const;

/** The line to paste, the mail to send, and the pages where it was seen, is missing or stands twice. */
export function InstallPage(props: Props) {
  return (
    <Live>
      <Install {...props} />
    </Live>
  );
}

function Install({ business, initial }: Props) {
  const view = useView(`/api/b/${business}/capture/install`, initial);
  const { lines, mail, pages } = view;
  return (
    <CaptureFrame business={business} section="Install" view={view}>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_400px]">
        <div className="flex min-w-0 flex-col gap-4">
          <section className="sheet p-5" aria-label="The line">
            {lines.map(({ hosts, line }, at) => (
              <div key={line} className="mb-3 flex items-start justify-between gap-4">
                <div className="min-w-0">
                  {lines.length > 1 && <span className="text-quiet block">For {hosts.join(', ')}</span>}
                  <code className="value text-[16px] leading-relaxed [overflow-wrap:anywhere]">{line}</code>
                </div>
                <Copy text={line} words="Copy" byKey={at === 0} />
              </div>
            ))}
            <p className="text-quiet mt-2">
              Once, in the head of every page. A content security policy needs its host in <code>script-src</code> and{' '}
              <code>connect-src</code>, and <code>avrix</code> in <code>trusted-types</code> where it has that. What it
              loads changes with each release, so it takes no integrity hash; each release itself never changes.
            </p>
          </section>
          <section className="sheet overflow-x-auto" aria-label="Pages">
            <table className="rows">
              <thead>
                <tr>
                  <th scope="col">Page</th>
                  <th scope="col">The line</th>
                  <th scope="col" className="text-right!">
                    Arrivals in {view.weeks} weeks
                  </th>
                  <th scope="col">Last</th>
                  <th scope="col">Checked</th>
                </tr>
              </thead>
              <tbody>
                {pages.map(({ page, arrivals, lastAt, state, checkedAt }) => (
                  <tr key={page}>
                    <td>
                      <code className="value">{page}</code>
                    </td>
                    <td className={state === 'seen' ? '' : 'text-error font-semibold'}>{stateWords[state]}</td>
                    <td className="text-right tabular-nums">{count(arrivals)}</td>
                    <td>
                      {lastAt ? (
                        <Time iso={lastAt} timeZone={view.timeZone} />
                      ) : (
                        <span className="text-quiet">never</span>
                      )}
                    </td>
                    <td>
                      {checkedAt ? (
                        <Time iso={checkedAt} timeZone={view.timeZone} />
                      ) : (
                        <span className="text-quiet">not yet</span>
                      )}
                    </td>
                  </tr>
                ))}
                {pages.length === 0 && (
                  <tr>
                    <td colSpan={5} className="text-quiet">
                      No page has told of itself yet. Open one of yours once the line is in it.
                    </td>
                  </tr>
                )}
              </tbody>
            </table>
          </section>
          <p className="text-quiet">
            Pages that nobody opens do not tell of themselves:{' '}
            <a className="quiet-link" href={`/b/${business}/links/checks`}>
              check pages
            </a>
            .
          </p>
        </div>
        <section className="sheet p-5" aria-label="Mail for a developer">
          <div className="flex items-baseline justify-between">
            <h2 className="text-base">A mail for whoever keeps the website</h2>
            <Copy text={`${mail.subject}\n\n${mail.body}`} words="Copy" />
          </div>
          <p className="mt-2 font-semibold">{mail.subject}</p>
          <p className="mt-2 whitespace-pre-wrap [overflow-wrap:anywhere]">{mail.body}</p>
          <a
            className="button mt-3 inline-block"
            href={`mailto:?subject=${encodeURIComponent(mail.subject)}&body=${encodeURIComponent(mail.body)}`}
          >
            Write it
          </a>
        </section>
      </div>
    </CaptureFrame>
  );
}
