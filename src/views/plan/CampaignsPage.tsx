import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Campaign } from '../../core/plan/campaign';
import type { CampaignDifference, CampaignsView, CampaignView } from '../../core/plan/campaign-view';
import { count } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { FileButton } from '../../ui/files/FileButton';
import { Key } from '../../ui/keys/Key';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { PickLink } from '../../ui/list/PickLink';
import { sendFile, sendJson } from '../../ui/text/read';
import { dayOfYear } from '../../ui/text/time';
import { CampaignForm } from './CampaignForm';
import { campaignStages, stageWords } from '../../core/plan/stages';
import { CampaignDifferences } from './CampaignDifference';
import { PlanFrame } from './PlanFrame';

interface Props {
  business: string;
  initial: CampaignsView;
  search: string;
}

/** The campaign register: written by hand, read from a file, or pulled from the CRM. */
export function CampaignsPage(props: Props) {
  return (
    <Live>
      <Campaigns {...props} />
    </Live>
  );
}

function Campaigns({ business, initial, search }: Props) {
  const api = `/api/b/${business}/plan/campaigns`;
  const client = useQueryClient();
  const view = useView(api, initial);
  const open = useOpen('campaign', search);
  const [difference, setDifference] = useState<CampaignDifference | null>(null);
  const pull = useMutation({
    mutationFn: () => sendJson(`${api}/pull`, {}) as Promise<CampaignDifference>,
    onSuccess: setDifference,
  });
  const compare = useMutation({
    mutationFn: (file: File) => sendFile<CampaignDifference>(`${api}/file`, file),
    onSuccess: setDifference,
  });
  const readAnew = () => void client.invalidateQueries();
  const row = view.rows.find(({ id }) => id === open.id);
  const problem = pull.error ?? compare.error;
  const columns: Column<CampaignView>[] = [
    {
      id: 'friendly',
      head: 'Campaign',
      by: ({ friendly, name }) => friendly || name,
      cell: (campaign) => (
        <>
          <PickLink
            href={open.href(campaign.id)}
            className="quiet-link font-semibold"
            onPick={() => open.pick(campaign.id)}
          >
            {campaign.friendly || campaign.name}
          </PickLink>
          <code className="value text-quiet block text-[12px]">{campaign.name}</code>
          {campaign.wrong && <span className="text-error block text-[12.5px]">{campaign.wrong}</span>}
        </>
      ),
    },
    {
      id: 'stage',
      head: 'Its job',
      by: ({ stage }) => campaignStages.indexOf(stage),
      cell: ({ stage, crmType }) => (
        <>
          {stageWords[stage]}
          {crmType && <span className="text-quiet block text-[12.5px]">{crmType}</span>}
        </>
      ),
    },
    { id: 'startsOn', head: 'Runs', by: ({ startsOn }) => startsOn, className: 'whitespace-nowrap', cell: runs },
    { id: 'owner', head: 'Owner', by: ({ owner }) => owner, cell: ({ owner }) => owner },
    {
      id: 'links',
      head: 'Links',
      by: ({ links }) => links,
      right: true,
      cell: ({ links, name }) => (
        <a
          href={`/b/${business}/links/made?find=${encodeURIComponent(name)}`}
          className="quiet-link"
          aria-label={`${links} links of ${name}`}
        >
          {count(links)}
        </a>
      ),
    },
    {
      id: 'arrivals',
      head: `Arrived in ${view.weeks} weeks`,
      by: ({ arrivals }) => arrivals,
      right: true,
      cell: ({ arrivals, name }) =>
        arrivals > 0 ? (
          <a
            href={`/b/${business}?campaign=${encodeURIComponent(name)}`}
            className="quiet-link"
            aria-label={`${count(arrivals)}: the line of ${name}`}
          >
            {count(arrivals)}
          </a>
        ) : (
          count(arrivals)
        ),
    },
  ];
  return (
    <PlanFrame
      business={business}
      section="Campaigns"
      sentence={view.sentence}
      offPlan={view.offPlan}
      actions={
        view.mayChange && (
          <div className="flex gap-2">
            {view.crm && (
              <button type="button" className="button" disabled={pull.isPending} onClick={() => pull.mutate()}>
                {pull.isPending ? 'Reading …' : `Pull from ${view.crm}`}
              </button>
            )}
            <FileButton words="Import" accept=".csv,.xlsx" onFile={(file) => compare.mutate(file)} />
            <button type="button" className="button button-strong" data-new onClick={() => open.make()}>
              New campaign <Key k="n" strong />
            </button>
          </div>
        )
      }
    >
      {problem && (
        <p role="alert" className="text-error mb-3">
          {problem.message}
        </p>
      )}
      {difference && (
        <CampaignDifferences
          api={api}
          from={pull.data === difference ? view.crm : 'the file'}
          difference={difference}
          onDone={() => {
            setDifference(null);
            readAnew();
          }}
        />
      )}
      <div className={`grid grid-cols-1 items-start gap-4 ${row || open.isNew ? 'xl:grid-cols-[1fr_360px]' : ''}`}>
        <div className="min-w-0">
          <DataTable
            label="Campaigns"
            rows={view.rows.filter(({ retired }) => !retired)}
            idOf={({ id }) => id}
            columns={columns}
            start={{ by: 'startsOn', descending: true }}
            finds={{
              what: 'Name, tracking name, owner',
              label: 'Find a campaign',
              in: ({ name, friendly, owner }) => `${name} ${friendly} ${owner}`,
            }}
            tools={
              <span className="text-quiet">
                <Key k="j" /> moves, <Key k="l" /> makes a link for it
              </span>
            }
            csv={`${api}.csv`}
            keys={{
              Enter: ({ id }) => open.pick(id),
              l: ({ name }) => location.assign(`/b/${business}/links?campaign=${encodeURIComponent(name)}`),
            }}
            isOpen={({ id }) => id === open.id}
            none="None yet."
          />
          {view.unregistered.length > 0 && (
            <p className="text-quiet mt-3">
              Arrived, and in no campaign here:{' '}
              {view.unregistered.map(({ name, arrivals }, index) => (
                <span key={name}>
                  {index > 0 && ', '}
                  <code className="value">{name}</code>{' '}
                  <a href={`/b/${business}?campaign=${encodeURIComponent(name)}`} className="quiet-link">
                    {count(arrivals)}
                  </a>
                </span>
              ))}
              .
            </p>
          )}
        </div>
        {(row ?? (open.isNew && view.mayChange)) && (
          <CampaignForm
            key={open.id}
            business={business}
            api={api}
            view={view}
            row={row ?? null}
            onDone={() => {
              open.close();
              readAnew();
            }}
          />
        )}
      </div>
    </PlanFrame>
  );
}

const dayWords = (day: string) => dayOfYear(`${day}T00:00:00Z`, 'UTC');

const runs = ({ startsOn, endsOn }: Campaign): string => {
  if (!startsOn && !endsOn) return 'no dates';
  if (!endsOn) return `from ${dayWords(startsOn)}`;
  if (!startsOn) return `to ${dayWords(endsOn)}`;
  return `${dayWords(startsOn)} to ${dayWords(endsOn)}`;
};
