import { createColumnHelper, type ColumnDef } from '@tanstack/react-table';
import type { LeadListRow, LeadListView } from '../../core/strands';
import { ListPage } from '../../ui/list/ListPage';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

const column = createColumnHelper<LeadListRow>();

/** Every enquiry, with where it came from in words and how far its value went. */
export function LeadsPage({
  business,
  initial,
  search,
  seesPeople,
}: {
  business: string;
  initial: LeadListView;
  search: string;
  seesPeople: boolean;
}) {
  const hrefOf = (row: LeadListRow) => `/b/${business}/leads/${row.id}`;
  const columns = (timeZone: string) =>
    [
      column.accessor('company', {
        header: 'Lead',
        enableSorting: seesPeople,
        cell: ({ row: { original: lead } }) => (
          <span className="xl:whitespace-nowrap">
            <a href={hrefOf(lead)} className="quiet-link font-semibold">
              {lead.company}
            </a>
            {lead.name && lead.name !== lead.company && <span className="text-quiet"> {lead.name}</span>}
          </span>
        ),
      }),
      column.accessor('cameFrom', {
        header: 'Came from',
        enableSorting: false,
        cell: ({ getValue }) => <span className="xl:whitespace-nowrap">{getValue()}</span>,
      }),
      column.accessor('form', {
        header: 'Form',
        enableSorting: false,
        cell: ({ getValue }) => <span className="xl:whitespace-nowrap">{getValue()}</span>,
      }),
      column.accessor('sentAt', {
        header: 'Asked',
        cell: ({ getValue }) => <Time iso={getValue()} timeZone={timeZone} />,
      }),
      column.accessor('stage', {
        header: 'Stage',
        cell: ({ getValue }) => <span className="xl:whitespace-nowrap">{getValue()}</span>,
      }),
      column.display({
        id: 'standing',
        header: 'How far its value went',
        cell: ({ row: { original: lead } }) => <Standing lead={lead} />,
      }),
    ] as ColumnDef<LeadListRow>[];
  return (
    <ListPage
      api={`/api/b/${business}/leads`}
      initial={initial}
      search={search}
      usualSort="sentAt"
      finds={seesPeople ? 'Company, name, click ID, campaign' : 'Click ID, campaign, CRM number'}
      columns={columns}
      hrefOf={hrefOf}
    />
  );
}

function Standing({ lead }: { lead: LeadListRow }) {
  const lost = lead.state === 'lost';
  return (
    <span className={`inline-block min-w-44 ${lost ? 'text-error' : ''}`}>
      {lost ? `Lost after ${lead.lastHop}` : lead.lastHop}
      {lead.why && (
        <span className={lost ? 'text-[13px]' : 'text-quiet text-[13px]'}>
          : <Words text={lead.why} />
        </span>
      )}
    </span>
  );
}
