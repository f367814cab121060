import type { InstallView } from '../../core/capture/station-view';
import { count } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
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
  twice: 'there twice',
  stopped: 'blocked by its content policy',
} as const;

/** The snippet to paste, the email to send, and the pages where it was seen, is missing or is there twice. */
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
  const at = (iso: string | null, never: string) =>
    iso ? <Time iso={iso} timeZone={view.timeZone} /> : <span className="text-quiet">{never}</span>;
  const columns: Column<InstallView['pages'][number]>[] = [
    { id: 'page', head: 'Page', by: ({ page }) => page, cell: ({ page }) => <code className="value">{page}</code> },
    {
      id: 'state',
      head: 'The snippet',
      by: ({ state }) => stateWords[state],
      cell: ({ state }) => (
        <span className={state === 'seen' ? '' : 'text-error font-semibold'}>{stateWords[state]}</span>
      ),
    },
    {
      id: 'arrivals',
      head: `Arrivals in ${view.weeks} weeks`,
      by: ({ arrivals }) => arrivals,
      right: true,
      cell: ({ arrivals }) => count(arrivals),
    },
    { id: 'last', head: 'Last', by: ({ lastAt }) => lastAt, cell: ({ lastAt }) => at(lastAt, 'never') },
    {
      id: 'checked',
      head: 'Checked',
      by: ({ checkedAt }) => checkedAt,
      cell: ({ checkedAt }) => at(checkedAt, 'not yet'),
    },
  ];
  return (
    <CaptureFrame business={business} section="Install" view={view}>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_400px]">
        <div className="flex min-w-0 flex-col gap-4">
          <section className="sheet p-5" aria-label="The snippet">
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
              Once, in the head of every page. A content security policy needs its host in{' '}
              <code className="value">script-src</code> and <code className="value">connect-src</code>, and{' '}
              <code className="value">avrix</code> in <code className="value">trusted-types</code> where it has that.
              What it loads changes with each release, so it takes no integrity hash; each release itself never changes.
            </p>
          </section>
          <DataTable
            label="Pages"
            rows={pages}
            idOf={({ page }) => page}
            columns={columns}
            finds={{ what: 'Page', label: 'Find a page', in: ({ page }) => page }}
            none="No page has reported yet. Open one of yours once the snippet is in it."
          />
          <p className="text-quiet">
            Pages that nobody opens do not report:{' '}
            <a className="quiet-link" href={`/b/${business}/links/checks`}>
              check pages
            </a>
            .
          </p>
        </div>
        <section className="sheet p-5" aria-label="Email for your developer">
          <div className="flex items-baseline justify-between">
            <h2 className="text-base">Email for your developer</h2>
            <Copy text={`${mail.subject}\n\n${mail.body}`} words="Copy" />
          </div>
          <p className="mt-2 font-semibold">{mail.subject}</p>
          <p className="mt-2 whitespace-pre-wrap [overflow-wrap:anywhere]">{mail.body}</p>
          <a
            className="button mt-3 inline-block"
            href={`mailto:?subject=${encodeURIComponent(mail.subject)}&body=${encodeURIComponent(mail.body)}`}
          >
            Open in email
          </a>
        </section>
      </div>
    </CaptureFrame>
  );
}
