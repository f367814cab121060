import { useMutation } from '@tanstack/react-query';
import { Problem } from '../../ui/form/Problem';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';

/** The short link of a finished link, in one press; it can be changed where the short links are. */
export function ShortOf({ business, link }: { business: string; link: string }) {
  const shorten = useMutation({
    mutationFn: () => sendJson<{ path: string; url: string }>(`/api/b/${business}/short-links/of-link`, { link }),
  });
  const { data } = shorten;
  if (!data)
    return (
      <>
        <button type="button" className="button" disabled={shorten.isPending} onClick={() => shorten.mutate()}>
          Shorten
        </button>
        <Problem text={shorten.error?.message} />
      </>
    );
  return (
    <span className="flex flex-wrap items-center justify-end gap-2" role="status">
      <a className="quiet-link" href={`/b/${business}/links/short?path=${data.path}`}>
        <code className="value">{data.url.replace(/^https?:\/\//, '')}</code>
      </a>
      <Copy text={data.url} words="Copy short link" />
    </span>
  );
}
