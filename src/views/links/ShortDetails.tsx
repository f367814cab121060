import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { ShortClicksView, ShortLinkView } from '../../core/links/view';
import { Problem } from '../../ui/form/Problem';
import { Copy } from '../../ui/text/Copy';
import { count } from '../../core/strands';
import { readJson, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

/** A short link for print, and where it led. */
export function ShortDetails({
  api,
  link,
  timeZone,
  mayChange,
}: {
  api: string;
  link: ShortLinkView;
  timeZone: string;
  mayChange: boolean;
}) {
  const client = useQueryClient();
  const { path, host, wins, status, expiresAt } = link;
  const lead = useMutation({
    mutationFn: (destination: string) =>
      sendJson(`${api}/${link.id}`, { path, host, wins, status, expiresAt, destination }),
    onSuccess: () => client.invalidateQueries(),
  });
  return (
    <section className="sheet p-5" aria-label="For print, and where it led">
      <div className="flex items-start justify-between gap-4">
        <img
          src={`${api}/${link.id}/qr.svg`}
          alt={`QR picture of ${link.url}`}
          width="128"
          height="128"
          className="bg-white p-1"
        />
        <div className="flex min-w-0 flex-col items-end gap-2">
          <code className="value text-right">{link.url}</code>
          <Copy text={link.url} words="Copy" byKey />
          <span className="flex gap-2">
            <a href={`${api}/${link.id}/qr.svg`} className="button" download={`${link.path}.svg`}>
              SVG
            </a>
            <a href={`${api}/${link.id}/qr.png`} className="button" download={`${link.path}.png`}>
              PNG
            </a>
          </span>
        </div>
      </div>
      <ClicksFrom api={`${api}/${link.id}/clicks`} clicks={link.clicks} timeZone={timeZone} />
      <h2 className="mt-4 text-base">Where it led</h2>
      <ol className="mt-1">
        {link.history.map(({ since, destination, by }) => (
          <li key={since} className="border-base-300 border-b py-1.5 last:border-0">
            <code className="value text-[12.5px]">{destination}</code>
            <span className="text-quiet block text-[12.5px]">
              since <Time iso={since} timeZone={timeZone} />, by {by}
              {mayChange && destination !== link.destination && (
                <button
                  type="button"
                  className="quiet-link text-base-content ml-2 cursor-pointer"
                  disabled={lead.isPending}
                  onClick={() => lead.mutate(destination)}
                >
                  Back to this
                </button>
              )}
            </span>
          </li>
        ))}
      </ol>
      <Problem text={lead.error?.message} />
    </section>
  );
}

/** Where the people who clicked came from; who opens a letter or a print says nothing of it. */
function ClicksFrom({ api, clicks, timeZone }: { api: string; clicks: number; timeZone: string }) {
  const { data } = useQuery({ queryKey: [api, clicks], queryFn: () => readJson<ShortClicksView>(api) });
  if (clicks === 0 || !data) return null;
  return (
    <>
      <h2 className="mt-4 text-base">Where clicks came from</h2>
      <ul className="mt-1">
        {data.from.map(({ host, clicks: own, lastAt }) => (
          <li key={host} className="border-base-300 flex justify-between gap-3 border-b py-1.5 last:border-0">
            {host ? (
              <code className="value">{host}</code>
            ) : (
              <span className="text-quiet">no referrer: print, a letter, an app</span>
            )}
            <span className="whitespace-nowrap tabular-nums">
              {count(own)}
              <span className="text-quiet">
                , last <Time iso={lastAt} timeZone={timeZone} />
              </span>
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
