import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { matchWords } from '../../core/results/cost-words';
import type { CostCampaignRow, CostFileAnswer, CostView } from '../../core/results/cost-view';
import { daysOptions } from '../../core/results/days-options';
import type { DaysRange } from '../../core/results/days-query';
import { cellWords } from '../../core/results/dimensions';
import { figureText } from '../../core/results/figure-text';
import { partsOf } from '../../core/rules/says';
import { count, counted } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { RefusedRows } from '../../ui/files/RefusedRows';
import { Problem } from '../../ui/form/Problem';
import { useWritten } from '../../ui/form/useWritten';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { Combobox } from '../../ui/pick/Combobox';
import { Sentence } from '../../ui/rule/RuleSentence';
import { sendFile, sendJson } from '../../ui/text/read';
import { CostPlaces } from './CostPlaces';
import { CostRules } from './CostRules';
import { OwnDays } from './OwnDays';
import { resultsParts } from './ResultsFrame';
import { ShownDays } from './ShownDays';
import { useResult } from './useResult';

interface Props {
  business: string;
  initial: CostView;
}

/** What ads cost, by campaign and ad; whose campaigns they are, exchange rates and fees. */
export function CostPage(props: Props) {
  return (
    <Live>
      <Cost {...props} />
    </Live>
  );
}

interface Asked {
  range: DaysRange;
  from: string;
  to: string;
}

function Cost({ business, initial }: Props) {
  const api = `/api/b/${business}/results/cost`;
  const { row, by } = initial.asked;
  const [asked, setAsked] = useState<Asked>(() => {
    const { choice, firstDay, lastDay } = initial.range;
    const isOwn = choice === 'own';
    return { range: choice, from: isOwn ? firstDay : '', to: isOwn ? lastDay : '' };
  });
  const address = new URLSearchParams({ range: asked.range });
  if (asked.range === 'own') {
    address.set('from', asked.from);
    address.set('to', asked.to);
  }
  if (row !== null) {
    address.set('by', by.join(','));
    address.set('row', JSON.stringify(row));
  }
  const { view, query, isBusy } = useResult(api, address.toString(), initial);
  const { choice } = partsOf<Asked>();
  return (
    <StationFrame
      sentence={view.sentence}
      parts={resultsParts(business, 'Cost')}
      actions={
        <a href={`${api}.csv?${query}`} className="button" download>
          Export CSV
        </a>
      }
      {...(row === null
        ? {}
        : {
            crumb: (
              <a href={`/b/${business}/results/cost`} className="quiet-link">
                All cost
              </a>
            ),
          })}
    >
      <Sentence
        pieces={[
          row === null ? 'What ads cost ' : `What ads of ${row.map(cellWords).join(', ')} cost `,
          choice('range', 'Days', daysOptions(view.range)),
          '.',
        ]}
        className="text-[17px] leading-[1.9]"
        rule={asked}
        onEdit={setAsked}
        beside={{}}
        disabled={false}
      />
      {asked.range === 'own' && <OwnDays days={asked} onChange={(days) => setAsked({ ...asked, ...days })} />}
      <ShownDays range={view.range} isBusy={isBusy} />
      <div className="mt-1.5">
        <Campaigns api={api} view={view} isBusy={isBusy} />
      </div>
      {view.mayChange && view.seesMoney && <BringFile api={api} accounts={view.accounts} />}
      {view.seesMoney && <CostRules api={api} view={view} />}
    </StationFrame>
  );
}

/** Campaigns of accounts, each with the campaign of the business that it is. */
function Campaigns({ api, view, isBusy }: { api: string; view: CostView; isBusy: boolean }) {
  const { currency, mayChange } = view;
  const [open, setOpen] = useState('');
  const money = (amount: number | null) =>
    amount === null ? <span className="text-quiet">no exchange rate</span> : figureText('cost', amount, currency);
  const columns: Column<CostCampaignRow>[] = [
    {
      id: 'campaign',
      head: 'Campaign there',
      by: ({ campaign }) => campaign,
      cell: ({ id, campaign, number, ads }) => (
        <>
          <button
            type="button"
            className="cursor-pointer text-left"
            aria-expanded={open === id}
            onClick={() => setOpen(open === id ? '' : id)}
          >
            <code className="value quiet-link [overflow-wrap:anywhere]">{campaign || number}</code>
          </button>
          <span className="text-quiet block text-[12.5px]">
            {[campaign && number && `number ${number}`, counted(ads.length, 'ad', 'ads')].filter(Boolean).join(', ')}
          </span>
        </>
      ),
    },
    { id: 'account', head: 'Account', by: ({ accountName }) => accountName, cell: ({ accountName }) => accountName },
    {
      id: 'match',
      head: 'Is our campaign',
      className: 'w-[30%]',
      by: ({ match }) => match?.campaign ?? '',
      cell: (row) => <Match api={api} row={row} campaigns={view.campaigns} mayChange={mayChange} />,
    },
    { id: 'clicks', head: 'Clicks', right: true, by: ({ clicks }) => clicks, cell: ({ clicks }) => count(clicks) },
    {
      id: 'own',
      head: 'As reported',
      right: true,
      cell: ({ own }) => <span className="text-quiet">{figureText('cost', own.amount, own.currency)}</span>,
    },
    { id: 'amount', head: 'Cost', right: true, by: ({ amount }) => amount, cell: ({ amount }) => money(amount) },
  ];
  const sum = view.rows.reduce((all, { amount }) => all + (amount ?? 0), 0);
  return (
    <DataTable
      label="Cost"
      rows={view.rows}
      idOf={({ id }) => id}
      columns={columns}
      start={{ by: 'amount', descending: true }}
      finds={{
        what: 'campaign',
        label: 'Find by campaign',
        in: (row) => `${row.campaign} ${row.match?.campaign ?? ''}`,
      }}
      keys={{ Enter: ({ id }) => setOpen(open === id ? '' : id) }}
      isOpen={({ id }) => id === open}
      under={(row) =>
        row.id === open && (
          <ul className="text-quiet grid grid-cols-[minmax(0,1fr)_auto_auto] gap-x-6 gap-y-1 pl-4 text-[13px]">
            {row.ads.map(({ ad, clicks, amount }) => (
              <li key={ad} className="contents">
                <code className="value [overflow-wrap:anywhere]">{ad || 'no ad named'}</code>
                <span className="text-right tabular-nums">{counted(clicks, 'click', 'clicks')}</span>
                <span className="text-right tabular-nums">{money(amount)}</span>
              </li>
            ))}
          </ul>
        )
      }
      foot={(column) =>
        column === 'campaign'
          ? 'All together'
          : column === 'amount'
            ? figureText('cost', sum, currency)
            : column === 'clicks'
              ? count(view.rows.reduce((all, { clicks }) => all + clicks, 0))
              : null
      }
      none="No cost is known for these days."
      isBusy={isBusy}
    />
  );
}

/** Which campaign of the business a campaign of an account is: known, or said here. */
function Match({
  api,
  row,
  campaigns,
  mayChange,
}: {
  api: string;
  row: CostCampaignRow;
  campaigns: string[];
  mayChange: boolean;
}) {
  const client = useQueryClient();
  const { value: typed, set: setTyped } = useWritten<string | null>(`${api} ${row.id}`, null, (one) => one === null);
  const save = useMutation({
    mutationFn: (campaign: string) =>
      sendJson(`${api}/match`, { account: row.account, key: row.key, campaign: campaign.trim() }),
    onSuccess: async () => {
      await client.invalidateQueries();
      setTyped(null);
    },
  });
  const { match } = row;
  if (typed !== null)
    return (
      <form
        className="flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          save.mutate(typed);
        }}
      >
        <Combobox
          label={`Our campaign of ${row.campaign || row.number}`}
          value={typed}
          choices={campaigns.map((value) => ({ value }))}
          onChange={setTyped}
        />
        <button className="button button-strong" disabled={typed.trim() === '' || save.isPending}>
          Save
        </button>
        <button type="button" className="quiet-link cursor-pointer" onClick={() => setTyped(null)}>
          Cancel
        </button>
        <Problem text={save.error?.message} />
      </form>
    );
  return (
    <>
      {match ? (
        <>
          <code className="value [overflow-wrap:anywhere]">{match.campaign}</code>
          <span className="text-quiet block text-[12.5px]">
            {matchWords[match.by]}
            {mayChange && ' · '}
            {mayChange && (
              <button type="button" className="quiet-link cursor-pointer" onClick={() => setTyped(match.campaign)}>
                change
              </button>
            )}
            {mayChange && match.by === 'hand' && (
              <>
                {' · '}
                <button type="button" className="quiet-link cursor-pointer" onClick={() => save.mutate('')}>
                  take back
                </button>
              </>
            )}
          </span>
        </>
      ) : mayChange ? (
        <button type="button" className="button" onClick={() => setTyped('')}>
          Say which
        </button>
      ) : (
        <span className="text-quiet">not matched</span>
      )}
    </>
  );
}

/** Brings what an account's ads cost from a file. */
function BringFile({ api, accounts }: { api: string; accounts: CostView['accounts'] }) {
  const client = useQueryClient();
  const [account, setAccount] = useState(accounts[0]?.key ?? '');
  const bring = useMutation({
    mutationFn: (file: File) => sendFile<CostFileAnswer>(`${api}/file?account=${encodeURIComponent(account)}`, file),
    onSuccess: () => client.invalidateQueries(),
  });
  const zone = accounts.find(({ key }) => key === account)?.timeZone;
  if (accounts.length === 0) return null;
  return (
    <section className="mt-5" aria-label="Import a file">
      <div className="flex flex-wrap items-center gap-2">
        <label className="flex items-center gap-2">
          Cost of
          <select className="field w-auto" value={account} onChange={({ target }) => setAccount(target.value)}>
            <CostPlaces accounts={accounts} />
          </select>
        </label>
        <FileButton words="Import a file" accept=".csv,.xlsx" onFile={(file) => bring.mutate(file)} />
        <span className="text-quiet text-[13px]">
          CSV or XLSX with <code className="value">day, campaign, cost</code>; also{' '}
          <code className="value">campaign_id, ad, ad_id, clicks, currency</code>. Its days are of {zone}.
        </span>
      </div>
      {bring.data && (
        <p role="status" className="mt-1">
          {counted(bring.data.taken, 'row was', 'rows were')} taken.
        </p>
      )}
      {bring.data && <RefusedRows refused={bring.data.refused} />}
      <Problem text={bring.error?.message} />
    </section>
  );
}
