import { useMutation } from '@tanstack/react-query';
import type { FiledFilesView, FiledFileView, WrittenFileView } from '../../core/outcomes/filed';
import { count } from '../../core/strands';
import { FileButton } from '../../ui/files/FileButton';
import { Problem } from '../../ui/form/Problem';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sendFile } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: FiledFilesView;
}

/** Files of conversions that happened elsewhere: brought, looked at, taken. */
export function FilesPage(props: Props) {
  return (
    <Live>
      <Files {...props} />
    </Live>
  );
}

export const isWorkedOn = ({ state }: FiledFileView): boolean => state === 'reading' || state === 'taking';

/** What a file is called that somebody picked, as it is kept. */
const longestName = 120;

function Files({ business, initial }: Props) {
  const here = `/b/${business}/report-backs/files`;
  const view = useView(`/api${here}`, initial, ({ files }) => (files.some(isWorkedOn) ? 1000 : false));
  const bring = useMutation({
    mutationFn: (file: File) =>
      sendFile<{ id: string }>(
        `/api${here}/bring?${new URLSearchParams({ name: file.name.slice(-longestName) })}`,
        file,
      ),
    onSuccess: ({ id }) => location.assign(`${here}/${id}`),
  });
  return (
    <StationFrame
      sentence={view.sentence}
      parts={reportBacksParts(business, 'Files')}
      actions={
        view.mayChange && <FileButton words="Import a file" accept=".csv,.xlsx" onFile={(file) => bring.mutate(file)} />
      }
    >
      {bring.isPending && (
        <p role="status" className="mt-3">
          Sending the file …
        </p>
      )}
      <Problem text={bring.error?.message} />
      <div className="mt-4">
        <DataTable
          label="Files"
          rows={view.files}
          idOf={({ id }) => id}
          columns={columnsOf(here, view.timeZone)}
          keys={{ Enter: ({ id }) => location.assign(`${here}/${id}`) }}
          none="A file with one conversion in each row: its click ID, which outcome it is, when it happened, what it is worth."
        />
      </div>
      {view.seesMoney && <Written business={business} view={view} />}
    </StationFrame>
  );
}

/** What was written for other programs, and what can be. */
function Written({ business, view: { written, timeZone } }: { business: string; view: FiledFilesView }) {
  const api = `/api/b/${business}/report-backs`;
  return (
    <section aria-label="Files out" className="mt-6">
      <h2 className="text-base">Files out</h2>
      <p className="mt-1">
        All that platforms took, in the open form:{' '}
        <a className="quiet-link" href={`${api}/conversions.csv`} download>
          CSV
        </a>
        {', '}
        <a className="quiet-link" href={`${api}/conversions.xlsx`} download>
          XLSX
        </a>
        . <span className="text-quiet">A part of it is exported from the</span>{' '}
        <a className="quiet-link" href={`/b/${business}/report-backs/queue`}>
          queue
        </a>
        <span className="text-quiet">, narrowed to it.</span>
      </p>
      <p className="text-quiet mt-1">
        A platform that is told by files gets one each day or hour, sent to its address or put into a folder:{' '}
        <a className="quiet-link" href={`/b/${business}/connections/platforms`}>
          describe it
        </a>
        .
      </p>
      {written.length > 0 && (
        <div className="mt-3">
          <DataTable
            label="Files out"
            rows={written}
            idOf={({ id }) => id}
            columns={writtenColumns(api, timeZone)}
            keys={{ Enter: ({ folder, name }) => location.assign(writtenAt(api, folder, name)) }}
            none=""
          />
        </div>
      )}
    </section>
  );
}
const writtenAt = (api: string, folder: string, name: string) =>
  `${api}/files/written?${new URLSearchParams({ folder, name })}`;
const writtenColumns = (api: string, timeZone: string): Column<WrittenFileView>[] => [
  {
    id: 'name',
    head: 'File',
    by: ({ name }) => name,
    cell: ({ folder, name }) => (
      <a href={writtenAt(api, folder, name)} className="value quiet-link [overflow-wrap:anywhere]" download>
        {name}
      </a>
    ),
  },
  {
    id: 'folder',
    head: 'Folder',
    by: ({ folder }) => folder,
    cell: ({ folder }) => <code className="value">{folder}</code>,
  },
  { id: 'at', head: 'Written', by: ({ at }) => at, cell: ({ at }) => <Time iso={at} timeZone={timeZone} /> },
  {
    id: 'bytes',
    head: 'Bytes',
    right: true,
    by: ({ bytes }) => bytes,
    cell: ({ bytes }) => <span className="value">{count(bytes)}</span>,
  },
];

const stateWords = ({ state, read, rows }: FiledFileView): string => {
  switch (state) {
    case 'open':
      return 'to be looked at';
    case 'reading':
    case 'taking':
      return `being read, ${count(read)}${rows === null ? '' : ` of ${count(rows)}`} rows`;
    case 'taken':
      return 'taken';
    case 'failed':
      return 'could not be read';
  }
};

const columnsOf = (here: string, timeZone: string): Column<FiledFileView>[] => [
  {
    id: 'name',
    head: 'File',
    by: ({ name }) => name,
    cell: ({ id, name }) => (
      <a href={`${here}/${id}`} className="quiet-link font-semibold [overflow-wrap:anywhere]">
        {name}
      </a>
    ),
  },
  { id: 'state', head: 'Is', by: ({ state }) => state, cell: (file) => stateWords(file) },
  {
    id: 'at',
    head: 'Brought',
    by: ({ at }) => at,
    className: 'whitespace-nowrap',
    cell: ({ at, by }) => (
      <>
        <Time iso={at} timeZone={timeZone} />
        <span className="text-quiet">, {by}</span>
      </>
    ),
  },
  ...(
    [
      ['taken', 'Taken'],
      ['repeated', 'Known already'],
      ['refused', 'Refused'],
    ] as const
  ).map(([answer, head]): Column<FiledFileView> => ({
    id: answer,
    head,
    right: true,
    by: ({ counts }) => counts[answer],
    cell: ({ id, counts }) =>
      counts[answer] === 0 ? (
        <span className="value text-quiet">0</span>
      ) : (
        <a href={`${here}/${id}?answer=${answer}`} className="value quiet-link">
          {count(counts[answer])}
        </a>
      ),
  })),
];
