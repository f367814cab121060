import type { StrandListRow, StrandListView } from '../../core/strands';
import type { Column } from '../../ui/list/DataTable';
import { ListPage } from '../../ui/list/ListPage';
import { wayQuery } from '../../ui/line/addresses';
import { waysIn } from '../../core/ways-in';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

const kindWords: Record<StrandListRow['kind'], string> = {
  click: '',
  landing: 'tagged landing, no click ID',
  lead_form: 'platform lead, no click ID',
  enquiry: 'enquiry alone',
  call: 'call alone',
  import: 'imported, no click ID',
  order: 'order alone',
  subscription: 'subscription alone',
  conversion: 'conversion alone',
};

/** The strands behind one number of the line; each leads to its trace. */
export function StrandsPage({
  business,
  initial,
  search,
  range,
  seesPeople,
}: {
  business: string;
  initial: StrandListView;
  search: string;
  range: string;
  seesPeople: boolean;
}) {
  const onWay = new URLSearchParams(wayQuery(initial.way)).toString();
  const hrefOf = (row: StrandListRow) =>
    row.enquiryId && waysIn[initial.way].subject === 'enquiry'
      ? `/b/${business}/leads/${row.enquiryId}`
      : `/b/${business}/strands/${row.id}${onWay && `?${onWay}`}`;
  const columns = (timeZone: string): Column<StrandListRow>[] => [
    {
      id: 'clickId',
      head: 'Click ID',
      cell: (strand) => (
        <a href={hrefOf(strand)} className="quiet-link whitespace-nowrap">
          {strand.clickId ? <code className="value">{strand.clickId}</code> : kindWords[strand.kind]}
        </a>
      ),
    },
    { id: 'first_at', head: 'First seen', by: true, cell: ({ firstAt }) => <Time iso={firstAt} timeZone={timeZone} /> },
    { id: 'cameFrom', head: 'Came from', cell: ({ cameFrom }) => cameFrom },
    {
      id: 'campaign',
      head: 'Campaign',
      by: true,
      cell: ({ campaign }) =>
        campaign ? <code className="value">{campaign}</code> : <span className="text-quiet">no value</span>,
    },
    {
      id: 'company',
      head: 'Lead',
      ...(seesPeople ? { by: true } : {}),
      cell: ({ company, enquiryId }) =>
        company || <span className="text-quiet">{enquiryId ? 'not in the CRM yet' : 'none'}</span>,
    },
    {
      id: 'standing',
      head: 'Last hop',
      cell: ({ lastHop, why }) => (
        <>
          {lastHop}
          {why && (
            <span className="text-quiet">
              : <Words text={why} />
            </span>
          )}
        </>
      ),
    },
  ];
  return (
    <ListPage
      api={`/api/b/${business}/strands`}
      initial={initial}
      search={search}
      usualSort="first_at"
      crumb={{ words: 'The line', href: `/b/${business}${range}` }}
      finds={seesPeople ? 'Click ID, source, company, email, telephone' : 'Click ID, source, campaign'}
      columns={columns}
      hrefOf={hrefOf}
    />
  );
}
