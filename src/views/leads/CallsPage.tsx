import { useMutation, useQueryClient } from '@tanstack/react-query';
import { callLength } from '../../core/leads/calls';
import type { CallsView, CallView } from '../../core/leads/calls-view';
import { count, counted } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { FileButton } from '../../ui/files/FileButton';
import { RefusedRows } from '../../ui/files/RefusedRows';
import { sendFile } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { AddCall } from './AddCall';
import { CallNumbers } from './CallNumbers';
import { leadsParts } from './LeadsFrame';

interface Props {
  business: string;
  initial: CallsView;
  search: string;
}

interface CallFile {
  taken: number;
  known: number;
  refused: { row: string; was: string; fix: string }[];
}

/** How soon (ms) the page is read anew: calls come by themselves, and one that just came is looked at within a moment. */
const untilNext = ({ calls }: CallsView): number => (calls.some(({ became }) => became === 'waiting') ? 1500 : 5000);

/** Calls: who called, what brought them, and what became of each; and the numbers that are dialled. */
export function CallsPage(props: Props) {
  return (
    <Live>
      <Calls {...props} />
    </Live>
  );
}

function Calls({ business, initial, search }: Props) {
  const api = `/api/b/${business}/leads/calls`;
  const view = useView(api, initial, untilNext);
  const open = useOpen('number', search);
  const client = useQueryClient();
  const file = useMutation({
    mutationFn: (one: File) => sendFile<CallFile>(`${api}/file`, one),
    onSuccess: () => client.invalidateQueries(),
  });
  const isAdding = open.id === 'call';
  return (
    <StationFrame
      sentence={view.sentence}
      parts={leadsParts(business, 'Calls')}
      actions={
        <div className="flex flex-wrap gap-2">
          <a className="button" href={`/b/${business}/leads/calls/set-up`}>
            How calls come in
          </a>
          {view.mayChange && (
            <>
              <FileButton words="Import a file" accept=".csv,.xlsx" onFile={(one) => file.mutate(one)} />
              <button type="button" className="button" onClick={() => open.pick('call')}>
                Add a call
              </button>
            </>
          )}
        </div>
      }
    >
      <Problem text={file.error?.message} />
      {file.isPending && <p role="status">Reading the file …</p>}
      {file.data && <FileAnswer file={file.data} />}
      {isAdding && view.mayChange && <AddCall api={api} view={view} onDone={open.close} />}
      <div className="mt-4 grid grid-cols-1 items-start gap-5 xl:grid-cols-[2.5fr_1fr]">
        <section aria-label="What was called">
          <List business={business} view={view} />
        </section>
        <CallNumbers api={api} view={view} open={open} />
      </div>
    </StationFrame>
  );
}

function FileAnswer({ file: { taken, known, refused } }: { file: CallFile }) {
  return (
    <div role="status" className="sheet mt-3 px-4 py-3">
      {counted(taken, 'call was', 'calls were')} imported
      {known > 0 && `, ${count(known)} known already`}
      {refused.length > 0 && `, ${count(refused.length)} not`}.
      <RefusedRows refused={refused} />
    </div>
  );
}

const becameWords: Record<CallView['became'], string> = {
  enquiry: 'an enquiry',
  again: 'part of one',
  'too short': 'too short',
  missed: 'not counted',
  waiting: 'being looked at',
};
const foundWords: Record<CallView['found'], string> = {
  code: 'by its code',
  number: 'by its number',
  nothing: '',
  'unknown code': 'no visit has the code that was said',
};

function List({ business, view }: { business: string; view: CallsView }) {
  const columns: Column<CallView>[] = [
    {
      id: 'words',
      head: 'Caller',
      by: ({ words }) => words,
      cell: ({ words, enquiryId }) =>
        enquiryId ? (
          <a href={`/b/${business}/leads/${enquiryId}`} className="quiet-link font-semibold">
            {words}
          </a>
        ) : (
          words
        ),
    },
    {
      id: 'startedAt',
      head: 'Called',
      by: ({ startedAt }) => startedAt,
      className: 'whitespace-nowrap',
      cell: ({ startedAt }) => <Time iso={startedAt} timeZone={view.timeZone} />,
    },
    {
      id: 'line',
      head: 'Call',
      by: ({ line, seconds }) => `${line} ${String(seconds).padStart(6, '0')}`,
      cell: ({ line, answered, seconds }) => (
        <>
          {line},{' '}
          {answered ? (
            <span className="whitespace-nowrap tabular-nums">{callLength(seconds)}</span>
          ) : (
            <span className="font-semibold whitespace-nowrap">not answered</span>
          )}
        </>
      ),
    },
    {
      id: 'cameFrom',
      head: 'Came from',
      by: ({ cameFrom }) => cameFrom,
      cell: ({ cameFrom, found, enquiryId }) => (
        <>
          {enquiryId && (cameFrom || (found === 'unknown code' ? '' : 'not known'))}{' '}
          {(enquiryId || found === 'unknown code') && (
            <span className={found === 'unknown code' ? 'text-error' : 'text-quiet text-[13px]'}>
              {foundWords[found]}
            </span>
          )}
        </>
      ),
    },
    {
      id: 'became',
      head: 'Became',
      className: 'whitespace-nowrap',
      by: ({ became }) => became,
      cell: ({ became }) => becameWords[became],
    },
  ];
  return (
    <>
      {view.total > view.calls.length && (
        <p className="text-quiet mb-2">
          The newest {count(view.calls.length)} of {count(view.total)}; older callers are in Leads.
        </p>
      )}
      <DataTable
        label="Calls"
        rows={view.calls}
        idOf={({ id }) => id}
        columns={columns}
        start={{ by: 'startedAt', descending: true }}
        finds={{
          what: 'Caller, number, source',
          label: 'Find a call',
          in: ({ words, line, cameFrom, became, found }) =>
            [words, line, cameFrom, becameWords[became], foundWords[found]].join(' '),
        }}
        none="No call yet."
      />
    </>
  );
}
