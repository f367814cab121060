import { useMutation } from '@tanstack/react-query';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';

interface Short {
  path: string;
  url: string;
}

/** Makes the short link of a finished link; what was made of another link is not this one's. */
export function useShorten(business: string, link: string) {
  const { data, error, isPending, mutate } = useMutation({
    mutationFn: async () => ({
      link,
      short: await sendJson<Short>(`/api/b/${business}/short-links/of-link`, { link }),
    }),
  });
  return { data: data?.link === link ? data.short : null, problem: error?.message, isPending, mutate: () => mutate() };
}

/** The short link of a finished link; it can be changed where the short links are. */
export function ShortOf({ business, short: { path, url } }: { business: string; short: Short }) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-3" role="status">
      <span>
        Short link{' '}
        <a className="quiet-link" href={`/b/${business}/links/short?path=${path}`}>
          <code className="value">{url.replace(/^https?:\/\//, '')}</code>
        </a>
      </span>
      <Copy key={url} text={url} words="Copy short link" />
    </div>
  );
}
