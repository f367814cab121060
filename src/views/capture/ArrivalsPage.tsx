import type { FoundArrival, FoundArrivalsView } from '../../core/capture/station-view';
import type { Column } from '../../ui/list/DataTable';
import { ListPage } from '../../ui/list/ListPage';
import { Time } from '../../ui/text/Time';

const details: Column<FoundArrival> = {
  id: 'detail',
  head: 'What',
  cell: ({ detail }) => detail && <code className="value">{detail}</code>,
};

/** The arrivals behind the number of a fault; each leads to its visitor's enquiry where there is one. */
export function ArrivalsPage({
  business,
  initial,
  search,
}: {
  business: string;
  initial: FoundArrivalsView;
  search: string;
}) {
  const hasDetails = initial.rows.some(({ detail }) => detail !== '');
  const columns = (timeZone: string): Column<FoundArrival>[] => [
    { id: 'at', head: 'Arrived', by: true, cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
    { id: 'page', head: 'Page', by: true, cell: ({ page }) => <code className="value">{page}</code> },
    {
      id: 'campaign',
      head: 'Campaign',
      by: true,
      cell: ({ campaign }) =>
        campaign ? <code className="value">{campaign}</code> : <span className="text-quiet">no value</span>,
    },
    ...(hasDetails ? [details] : []),
    {
      id: 'enquiry',
      head: 'Enquired',
      cell: ({ enquiryId, company }) =>
        enquiryId ? (
          <a className="quiet-link" href={`/b/${business}/leads/${enquiryId}`}>
            {company || 'its enquiry'}
          </a>
        ) : (
          <span className="text-quiet">no</span>
        ),
    },
  ];
  return (
    <ListPage
      api={`/api/b/${business}/capture/arrivals`}
      initial={initial}
      search={search}
      usualSort="at"
      crumb={{ words: 'Faults', href: `/b/${business}/capture` }}
      finds="Page, campaign"
      columns={columns}
      hrefOf={({ enquiryId }) => (enquiryId ? `/b/${business}/leads/${enquiryId}` : `/b/${business}/capture`)}
    />
  );
}
