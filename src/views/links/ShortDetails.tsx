import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { ShortLinkView } from '../../core/links/view';
import { Problem } from '../../ui/form/Problem';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
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
