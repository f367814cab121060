import type { WriteRowView } from '../../core/leads/writes-view';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { RecordLink } from './RecordLink';

const stateWords: Record<WriteRowView['state'], string> = {
  waiting: 'waits',
  written: 'written',
  refused: 'refused',
  dropped: 'left as it is',
};
const shown = (value: string) =>
  value === '' ? <span className="text-quiet">empty</span> : <code className="value">{value}</code>;

/** What was written into the CRM's records, with what was there before. */
export function WriteLog({
  business,
  rows,
  timeZone,
  none,
}: {
  business: string;
  rows: WriteRowView[];
  timeZone: string;
  none: string;
}) {
  const columns: Column<WriteRowView>[] = [
    {
      id: 'words',
      head: 'Record',
      by: ({ words }) => words,
      cell: ({ words, number, enquiryId }) => (
        <RecordLink business={business} words={words} number={number} enquiryId={enquiryId} />
      ),
    },
    {
      id: 'fields',
      head: 'What was written',
      cell: ({ fields }) => (
        <ul>
          {fields.map(({ field, was, becomes, found }) => (
            <li key={field} className="[overflow-wrap:anywhere]">
              <code className="value text-quiet">{field}</code> {shown(was)} → {shown(becomes)}
              {found !== null && found !== becomes && (
                <span className="text-error text-[13px]"> the CRM holds {shown(found)}</span>
              )}
            </li>
          ))}
        </ul>
      ),
    },
    {
      id: 'state',
      head: 'Became',
      by: ({ state }) => state,
      cell: ({ state, answer, by, isRepair }) => (
        <span className={state === 'refused' ? 'text-error' : ''}>
          {stateWords[state]}
          {(isRepair || by) && (
            <span className="text-quiet text-[13px]">
              , {isRepair ? 'repaired' : 'had written'} by {by}
            </span>
          )}
          {answer && (
            <span className="block text-[13px]">
              <Words text={answer} />
            </span>
          )}
        </span>
      ),
    },
    { id: 'at', head: 'When', by: ({ at }) => at, cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
  ];
  return (
    <DataTable
      label="Writes"
      rows={rows}
      idOf={({ id }) => id}
      columns={columns}
      finds={{
        what: 'Record, field, value',
        label: 'Find',
        in: ({ words, number, fields, answer }) =>
          [words, number, answer, ...fields.flatMap(({ field, was, becomes }) => [field, was, becomes])].join(' '),
      }}
      none={none}
    />
  );
}
