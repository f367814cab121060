import { createColumnHelper, type ColumnDef } from '@tanstack/react-table';
import type { FoundArrival, FoundArrivalsView } from '../../core/capture/station-view';
import { ListPage } from '../../ui/list/ListPage';
import { Time } from '../../ui/text/Time';

const column = createColumnHelper<FoundArrival>();

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
  const columns = (timeZone: string) =>
    [
      column.accessor('at', {
        header: 'Arrived',
        cell: ({ getValue }) => <Time iso={getValue()} timeZone={timeZone} />,
      }),
      column.accessor('page', { header: 'Page', cell: ({ getValue }) => <code className="value">{getValue()}</code> }),
      column.accessor('campaign', {
        header: 'Campaign',
        cell: ({ getValue }) =>
          getValue() ? <code className="value">{getValue()}</code> : <span className="text-quiet">no value</span>,
      }),
      ...(initial.rows.some(({ detail }) => detail !== '')
        ? [
            column.accessor('detail', {
              header: 'What',
              enableSorting: false,
              cell: ({ getValue }) => getValue() && <code className="value">{getValue()}</code>,
            }),
          ]
        : []),
      column.display({
        id: 'enquiry',
        header: 'Asked',
        cell: ({ row: { original } }) =>
          original.enquiryId ? (
            <a className="quiet-link" href={`/b/${business}/leads/${original.enquiryId}`}>
              {original.company || 'its enquiry'}
            </a>
          ) : (
            <span className="text-quiet">no</span>
          ),
      }),
    ] as ColumnDef<FoundArrival>[];
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
