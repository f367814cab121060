import { useMutation, useQuery } from '@tanstack/react-query';
import type { CampaignLinks as Links, CampaignView } from '../../core/plan/campaign-view';
import { count, counted } from '../../core/strands';
import { Problem } from '../../ui/form/Problem';
import { Copy } from '../../ui/text/Copy';
import { readJson, sendJson } from '../../ui/text/read';

const mostDrawn = 8;

/** The links of a campaign, to be handed on: as a list, or written into the CRM's campaign. */
export function CampaignLinks({
  business,
  row,
  crm,
  mayChange,
}: {
  business: string;
  row: CampaignView;
  /** What the CRM is called; '' without one. */
  crm: string;
  mayChange: boolean;
}) {
  const api = `/api/b/${business}/plan/campaigns/${row.id}`;
  const { data } = useQuery({ queryKey: [`${api}/links`], queryFn: () => readJson<Links>(`${api}/links`) });
  const handOn = useMutation({ mutationFn: () => sendJson<{ written: number }>(`${api}/hand-on`, {}) });
  const links = data?.links ?? [];
  const make = `/b/${business}/links?campaign=${encodeURIComponent(row.name)}`;
  if (data && links.length === 0)
    return (
      <p className="border-base-300 text-quiet border-t pt-3">
        No link in use names it.{' '}
        <a href={make} className="quiet-link text-base-content">
          Make links
        </a>
      </p>
    );
  return (
    <section className="border-base-300 border-t pt-3" aria-label="Its links">
      <div className="flex items-start justify-between gap-3">
        <h3 className="font-semibold">{counted(links.length, 'link', 'links')} in use</h3>
        <Copy text={links.map(({ url }) => url).join('\n')} words={`Copy ${count(links.length)}`} />
      </div>
      <ul className="mt-1">
        {links.slice(0, mostDrawn).map(({ url, place }) => (
          <li key={url} className="border-base-300 border-b py-1.5 last:border-0">
            <code className="value text-[12px]">{url}</code>
            {place && <span className="text-quiet block text-[12.5px]">{place}</span>}
          </li>
        ))}
        {links.length > mostDrawn && <li className="text-quiet py-1.5">and {count(links.length - mostDrawn)} more</li>}
      </ul>
      {mayChange && crm && row.crmId && (
        <p className="mt-2 flex flex-wrap items-center gap-3" role="status">
          <button type="button" className="button" disabled={handOn.isPending} onClick={() => handOn.mutate()}>
            Write {count(links.length)} into {crm}
          </button>
          {handOn.data && `${counted(handOn.data.written, 'link is', 'links are')} in ${crm}’s campaign ${row.crmId}.`}
        </p>
      )}
      <Problem text={handOn.error?.message} />
    </section>
  );
}
