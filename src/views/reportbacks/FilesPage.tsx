import { useMutation } from '@tanstack/react-query';
import type { FiledFilesView, FiledFileView } from '../../core/outcomes/filed';
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
    </StationFrame>
  );
}

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
