import type { FiledAnswer, FiledOneView, FiledRowView } from '../../core/outcomes/filed';
import { count } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import type { Column } from '../../ui/list/DataTable';
import { LiveList } from '../../ui/list/ListPage';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { FileHow } from './FileHow';
import { isWorkedOn } from './FilesPage';
import { reportBacksParts } from './ReportBacksFrame';

interface Props {
  business: string;
  initial: FiledOneView;
  search: string;
}

/** One file of conversions: how it is read, and what became of its rows. */
export function FilePage(props: Props) {
  return (
    <Live>
      <OneFile {...props} />
    </Live>
  );
}

function OneFile({ business, initial, search }: Props) {
  const here = `/b/${business}/report-backs/files`;
  const api = `/api${here}/${initial.file.id}`;
  const view = useView(api, initial, ({ file }) => (isWorkedOn(file) ? 1000 : false));
  const { file } = view;
  const parts = reportBacksParts(business, 'Files');
  if (file.state === 'taken')
    return (
      <LiveList
        api={`${api}/answers`}
        // What was read while it was taken is not its rows as they stand now.
        initial={initial.file.state === 'taken' ? initial : view}
        search={search}
        usualSort="row"
        finds="Click ID, order, outcome, why"
        hasBook
        parts={parts}
        crumb={{ words: 'Files', href: here }}
        columns={(timeZone) => columnsOf(business, timeZone)}
        first={search ? 'None of this kind.' : 'It has no rows.'}
        also={
          file.compares !== '' && (
            <a
              className="button button-strong"
              href={`/b/${business}/report-backs/compare?${new URLSearchParams({ of: file.compares })}`}
            >
              Compare
            </a>
          )
        }
        under={<Answers here={`${here}/${file.id}`} counts={file.counts} chosen={chosenIn(search)} />}
      />
    );
  return (
    <StationFrame
      sentence={view.sentence}
      parts={parts}
      crumb={
        <>
          <a href={here} className="quiet-link">
            Files
          </a>{' '}
          / {file.name}
        </>
      }
    >
      {file.state === 'open' && <FileHow key={file.id} api={api} here={here} view={view} />}
      {isWorkedOn(file) && (
        <progress
          className="progress mt-4 w-full"
          aria-label="Rows read"
          value={file.read}
          max={file.rows ?? Math.max(file.read * 2, 1)}
        />
      )}
    </StationFrame>
  );
}

const chosenIn = (search: string) => new URLSearchParams(search).get('answer') ?? '';

const answerWords: Record<FiledAnswer, string> = { taken: 'Taken', repeated: 'Known already', refused: 'Refused' };

/** The rows by what became of them; each leads to those alone. */
function Answers({ here, counts, chosen }: { here: string; counts: FiledOneView['file']['counts']; chosen: string }) {
  const all = counts.taken + counts.repeated + counts.refused;
  const links = [
    ['', `All ${count(all)}`] as const,
    ...(['taken', 'repeated', 'refused'] as const).map(
      (answer) => [answer, `${answerWords[answer]} ${count(counts[answer])}`] as const,
    ),
  ];
  return (
    <nav aria-label="Rows by answer" className="mt-3 flex flex-wrap gap-4">
      {links.map(([answer, words]) => (
        <a
          key={answer}
          href={answer === '' ? here : `${here}?answer=${answer}`}
          className={answer === chosen ? 'font-semibold' : 'quiet-link'}
          aria-current={answer === chosen ? 'true' : undefined}
        >
          {words}
        </a>
      ))}
    </nav>
  );
}

const columnsOf = (business: string, timeZone: string): Column<FiledRowView>[] => [
  { id: 'row', head: 'Row', right: true, cell: ({ row }) => <span className="value">{count(row)}</span> },
  {
    id: 'answer',
    head: 'Answer',
    className: 'min-w-60',
    cell: ({ answer, why }) => (
      <span className={answer === 'refused' ? 'text-error' : ''}>
        {answerWords[answer]}
        {why && (
          <>
            : <Words text={why} />
          </>
        )}
      </span>
    ),
  },
  {
    id: 'clickId',
    head: 'Click ID',
    cell: ({ clickId, path }) =>
      path ? (
        <a href={`/b/${business}${path}`} className="value quiet-link block max-w-52 truncate" title={clickId}>
          {clickId || 'erased'}
        </a>
      ) : (
        <code className="value block max-w-52 truncate" title={clickId}>
          {clickId}
        </code>
      ),
  },
  { id: 'order', head: 'Order', cell: ({ order }) => <code className="value">{order}</code> },
  {
    id: 'outcome',
    head: 'Says',
    className: 'whitespace-nowrap',
    cell: ({ outcome, change }) => (
      <>
        <code className="value">{outcome}</code>
        {change !== '' && change !== 'new' && <span className="text-quiet">, {change.replace('-', ' ')}</span>}
      </>
    ),
  },
  {
    id: 'happenedAt',
    head: 'Happened',
    className: 'whitespace-nowrap',
    cell: ({ happenedAt }) => happenedAt && <Time iso={happenedAt} timeZone={timeZone} />,
  },
  {
    id: 'amount',
    head: 'Amount',
    right: true,
    cell: ({ amount }) => <span className="value whitespace-nowrap">{amount}</span>,
  },
  { id: 'standing', head: 'Since', cell: ({ standing }) => standing },
];
