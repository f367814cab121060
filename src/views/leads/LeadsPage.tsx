import type { LeadListRow, LeadListView } from '../../core/strands';
import type { Column } from '../../ui/list/DataTable';
import { ListPage } from '../../ui/list/ListPage';
import { Time } from '../../ui/text/Time';
import { leadsParts } from './LeadsFrame';
import { Words } from '../../ui/text/Words';

/** Cells that break only where there is little room. */
const oneLine = 'xl:whitespace-nowrap';

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
  const columns = (timeZone: string): Column<LeadListRow>[] => [
    {
      id: 'company',
      head: 'Lead',
      ...(seesPeople ? { by: true } : {}),
      className: oneLine,
      cell: (lead) => (
        <>
          <a href={hrefOf(lead)} className="quiet-link font-semibold">
            {lead.company}
          </a>
          {lead.name && lead.name !== lead.company && <span className="text-quiet"> {lead.name}</span>}
        </>
      ),
    },
    { id: 'cameFrom', head: 'Came from', className: oneLine, cell: ({ cameFrom }) => cameFrom },
    { id: 'form', head: 'Form', className: oneLine, cell: ({ form }) => form },
    { id: 'sentAt', head: 'Enquired', by: true, cell: ({ sentAt }) => <Time iso={sentAt} timeZone={timeZone} /> },
    { id: 'stage', head: 'Stage', by: true, className: oneLine, cell: ({ stage }) => stage },
    { id: 'standing', head: 'How far its value went', cell: (lead) => <Standing lead={lead} /> },
  ];
  return (
    <ListPage
      api={`/api/b/${business}/leads`}
      initial={initial}
      search={search}
      usualSort="sentAt"
      finds={seesPeople ? 'Company, name, email, telephone, source' : 'Source, campaign, click ID'}
      columns={columns}
      hrefOf={hrefOf}
      parts={leadsParts(business, 'Leads')}
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
