import { createColumnHelper, type ColumnDef } from '@tanstack/react-table';
import type { StrandListRow, StrandListView } from '../../core/strands';
import { ListPage } from '../../ui/list/ListPage';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

const column = createColumnHelper<StrandListRow>();

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
  const hrefOf = (row: StrandListRow) =>
    row.enquiryId ? `/b/${business}/leads/${row.enquiryId}` : `/b/${business}/strands/${row.id}`;
  const columns = (timeZone: string) =>
    [
      column.accessor('clickId', {
        header: 'Click ID',
        enableSorting: false,
        cell: ({ row: { original: strand } }) => (
          <a href={hrefOf(strand)} className="quiet-link whitespace-nowrap">
            {strand.clickId ? (
              <code className="value">{strand.clickId}</code>
            ) : (
              { click: '', landing: 'tagged landing, no click ID', enquiry: 'enquiry alone' }[strand.kind]
            )}
          </a>
        ),
      }),
      column.accessor('firstAt', {
        id: 'first_at',
        header: 'First seen',
        cell: ({ getValue }) => <Time iso={getValue()} timeZone={timeZone} />,
      }),
      column.accessor('cameFrom', { header: 'Came from', enableSorting: false }),
      column.accessor('campaign', {
        header: 'Campaign',
        cell: ({ getValue }) =>
          getValue() ? <code className="value">{getValue()}</code> : <span className="text-quiet">no value</span>,
      }),
      column.accessor('company', {
        header: 'Lead',
        enableSorting: seesPeople,
        cell: ({ getValue, row }) =>
          getValue() || <span className="text-quiet">{row.original.enquiryId ? 'not in the CRM yet' : 'none'}</span>,
      }),
      column.display({
        id: 'standing',
        header: 'Last hop',
        cell: ({ row: { original: strand } }) => (
          <>
            {strand.lastHop}
            {strand.why && (
              <span className="text-quiet">
                : <Words text={strand.why} />
              </span>
            )}
          </>
        ),
      }),
    ] as ColumnDef<StrandListRow>[];
  return (
    <ListPage
      api={`/api/b/${business}/strands`}
      initial={initial}
      search={search}
      usualSort="first_at"
      crumb={{ words: 'The line', href: `/b/${business}${range}` }}
      finds={seesPeople ? 'Click ID, campaign, company' : 'Click ID, campaign'}
      columns={columns}
      hrefOf={hrefOf}
    />
  );
}
