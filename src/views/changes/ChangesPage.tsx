import { changeKindWords, type ChangeLogRow, type ChangeLogView } from '../../core/changes/view';
import type { Column } from '../../ui/list/DataTable';
import { ListPage } from '../../ui/list/ListPage';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { businessParts } from '../connections/ConnectionsFrame';

/** Who changed what of a business, newest first. */
export function ChangesPage({
  business,
  initial,
  search,
}: {
  business: string;
  initial: ChangeLogView;
  search: string;
}) {
  const columns = (timeZone: string): Column<ChangeLogRow>[] => [
    { id: 'at', head: 'When', className: 'whitespace-nowrap', cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
    { id: 'by', head: 'Who', className: 'whitespace-nowrap', cell: ({ by }) => by },
    {
      id: 'subject',
      head: 'What',
      cell: ({ kind, subject }) => (
        <>
          {changeKindWords[kind]}
          <span className="text-quiet block text-[12.5px] [overflow-wrap:anywhere]">{subject}</span>
        </>
      ),
    },
    {
      id: 'was',
      head: 'Was',
      className: 'w-[30%]',
      cell: ({ was }) => (was === '' ? <span className="text-quiet">nothing</span> : <Words text={was} />),
    },
    {
      id: 'became',
      head: 'Became',
      className: 'w-[36%]',
      cell: ({ became }) => (became === '' ? <span className="text-quiet">taken away</span> : <Words text={became} />),
    },
  ];
  return (
    <ListPage
      api={`/api/b/${business}/changes`}
      initial={initial}
      search={search}
      usualSort="at"
      finds="Name, rule, what it was or became"
      columns={columns}
      parts={businessParts(business, 'Change log')}
    />
  );
}
