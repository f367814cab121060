import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { Campaign } from '../../core/plan/campaign';
import type { CampaignDifference, CampaignsView, CampaignView } from '../../core/plan/campaign-view';
import { count } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { Key } from '../../ui/keys/Key';
import { isPlainKey } from '../../ui/keys/plain-key';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { FindField } from '../../ui/list/FindField';
import { NoRows } from '../../ui/list/NoRows';
import { PickLink } from '../../ui/list/PickLink';
import { SortHead } from '../../ui/list/SortHead';
import { useRowKeys } from '../../ui/list/useRowKeys';
import { useSorted } from '../../ui/list/useSorted';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { sendFile, sendJson } from '../../ui/text/read';
import { dayOfYear } from '../../ui/text/time';
import { CampaignForm } from './CampaignForm';
import { stageWords } from '../../core/plan/stages';
import { Difference } from './CampaignDifference';
import { PlanFrame } from './PlanFrame';

interface Props {
  business: string;
  initial: CampaignsView;
  search: string;
}

type SortColumn = 'friendly' | 'stage' | 'startsOn' | 'owner' | 'links' | 'arrivals';

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
  const [picked, setPicked] = useAddressPart('campaign', search);
  const [find, setFind] = useState('');
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
  const found = view.rows.filter(
    ({ name, friendly, owner, retired }) =>
      !retired && `${name} ${friendly} ${owner}`.toLowerCase().includes(find.toLowerCase()),
  );
  const { sorted: rows, ...sort } = useSorted<CampaignView, SortColumn>(found, { by: 'startsOn', descending: true });
  const head = (column: SortColumn, words: string, right = false) => (
    <SortHead column={column} words={words} right={right} sorting={sort.sorting} onSort={sort.sortBy} />
  );
  const open = (row: CampaignView | undefined) => row && setPicked(row.id);
  const selected = useRowKeys(rows.length, (index) => open(rows[index]));
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const row = selected === null ? undefined : rows[selected];
      if (row && event.key === 'l' && isPlainKey(event))
        location.assign(`/b/${business}/links?campaign=${encodeURIComponent(row.name)}`);
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  });
  const row = view.rows.find(({ id }) => id === picked);
  const problem = pull.error ?? compare.error;
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
            <FileButton words="Read a file" accept=".csv,.xlsx" onFile={(file) => compare.mutate(file)} />
            <button type="button" className="button button-strong" data-new onClick={() => setPicked('new')}>
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
        <Difference
          api={api}
          from={pull.data === difference ? view.crm : 'the file'}
          difference={difference}
          onDone={() => {
            setDifference(null);
            readAnew();
          }}
        />
      )}
      <div className={`grid grid-cols-1 items-start gap-4 ${picked ? 'xl:grid-cols-[1fr_360px]' : ''}`}>
        <div className="min-w-0">
          <section className="sheet overflow-x-auto" aria-label="Campaigns">
            <div className="flex items-center justify-between px-3.5 pt-3">
              <FindField what="Name, tracking name, owner" label="Find a campaign" onFind={setFind} />
              <span className="text-quiet ml-3 flex-1">
                <Key k="j" /> moves, <Key k="l" /> makes a link for it
              </span>
              <a href={`${api}.csv`} className="button" download>
                Export CSV
              </a>
            </div>
            <table className="rows">
              <thead>
                <tr>
                  {head('friendly', 'Campaign')}
                  {head('stage', 'For')}
                  {head('startsOn', 'Runs')}
                  {head('owner', 'Owner')}
                  {head('links', 'Links', true)}
                  {head('arrivals', 'Arrived', true)}
                </tr>
              </thead>
              <tbody>
                {rows.map((one, index) => (
                  <tr key={one.id} data-row={index} aria-selected={selected === index || one.id === picked}>
                    <td>
                      <PickLink
                        href={`?campaign=${one.id}`}
                        className="quiet-link font-semibold"
                        onPick={() => open(one)}
                      >
                        {one.friendly || one.name}
                      </PickLink>
                      <code className="value text-quiet block text-[12px]">{one.name}</code>
                      {one.wrong && <span className="text-error block text-[12.5px]">{one.wrong}</span>}
                    </td>
                    <td>
                      {stageWords[one.stage]}
                      {one.crmType && <span className="text-quiet block text-[12.5px]">{one.crmType}</span>}
                    </td>
                    <td className="whitespace-nowrap">{runs(one)}</td>
                    <td>{one.owner}</td>
                    <td className="text-right tabular-nums">
                      <a
                        href={`/b/${business}/links/made?find=${encodeURIComponent(one.name)}`}
                        className="quiet-link"
                        aria-label={`${one.links} links of ${one.name}`}
                      >
                        {count(one.links)}
                      </a>
                    </td>
                    <td className="text-right tabular-nums">{count(one.arrivals)}</td>
                  </tr>
                ))}
                {rows.length === 0 && (
                  <NoRows columns={6} find={find}>
                    None yet.
                  </NoRows>
                )}
              </tbody>
            </table>
          </section>
          {view.unregistered.length > 0 && (
            <p className="text-quiet mt-3">
              Arrived without standing here:{' '}
              {view.unregistered.map(({ name, arrivals }, index) => (
                <span key={name}>
                  {index > 0 && ', '}
                  <code className="value">{name}</code> {count(arrivals)}
                </span>
              ))}
              .
            </p>
          )}
        </div>
        {(row ?? (picked === 'new' && view.mayChange)) && (
          <CampaignForm
            key={`${picked} ${JSON.stringify(row)}`}
            business={business}
            api={api}
            view={view}
            row={row ?? null}
            onDone={() => {
              setPicked('');
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
