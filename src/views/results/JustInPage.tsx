import { useEffect, useState } from 'react';
import { askedJustIn, justInAddress, justInOne, justInPieces, settledJustIn } from '../../core/results/just-in';
import { mostJustIn, type JustInQuery, type JustInRow, type JustInView } from '../../core/results/just-in-view';
import { counted } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { FindField } from '../../ui/list/FindField';
import { Live } from '../../ui/live/Live';
import { useStream } from '../../ui/live/useStream';
import { Sentence } from '../../ui/rule/RuleSentence';
import { useSettled } from '../../ui/rule/useSettled';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { resultsParts } from './ResultsFrame';

interface Props {
  business: string;
  initial: JustInView;
  /** What the page was asked for. */
  query: JustInQuery;
}

/** What comes in, as it comes in: what to look at right after releasing. */
export function JustInPage(props: Props) {
  return (
    <Live>
      <JustIn {...props} />
    </Live>
  );
}

/** Rows together, each once, the newest first. */
function together(rows: JustInRow[], more: JustInRow[]): JustInRow[] {
  const byId = new Map([...rows, ...more].map((row) => [row.id, row]));
  return [...byId.values()].sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0)).slice(0, mostJustIn);
}

interface Shown {
  /** What was asked for when it came; what comes for something else begins anew. */
  address: string;
  sentence: JustInView['sentence'];
  rows: JustInRow[];
  /** What came while the list is paused. */
  held: JustInRow[];
}

function JustIn({ business, initial, query }: Props) {
  const [asked, setAsked] = useState(() => askedJustIn(query));
  const [find, setFind] = useState(query.find);
  const [isPaused, setPaused] = useState(false);
  const address = useSettled(justInAddress(asked, find));
  const [shown, setShown] = useState<Shown>({ address, sentence: initial.sentence, rows: initial.rows, held: [] });
  useEffect(() => {
    history.replaceState(null, '', address === '' ? location.pathname : `?${address}`);
  }, [address]);
  const isThere = useStream<JustInView>(
    `/api/b/${business}/results/just-in/stream?${address}`,
    ({ sentence, rows: more }) =>
      setShown(({ address: before, rows, held }) => {
        if (before !== address) return { address, sentence, rows: more, held: [] };
        if (!isPaused) return { address, sentence, rows: together(rows, more), held: [] };
        const isListed = new Set(rows.map(({ id }) => id));
        return {
          address,
          sentence,
          rows,
          held: together(
            held,
            more.filter(({ id }) => !isListed.has(id)),
          ),
        };
      }),
  );
  const follow = (browser: string) => setAsked({ ...asked, whose: 'browser', browser });
  const open = (path: string) => location.assign(`/b/${business}${path}`);
  return (
    <StationFrame
      sentence={shown.sentence}
      parts={resultsParts(business, 'Just in')}
      actions={
        <div className="flex flex-wrap items-center justify-end gap-2 whitespace-nowrap">
          <FindField what="page, event, form or account" width="w-[250px]" value={find} onFind={setFind} />
          <button
            type="button"
            className="button"
            onClick={() => {
              if (isPaused) setShown({ ...shown, rows: together(shown.rows, shown.held), held: [] });
              setPaused(!isPaused);
            }}
          >
            {isPaused ? 'Go on' : 'Pause'}
          </button>
        </div>
      }
    >
      <Sentence
        pieces={justInPieces(asked.browser)}
        className="text-[17px] leading-[1.9]"
        rule={asked}
        onEdit={(next) => setAsked(settledJustIn(next))}
        beside={{}}
        disabled={false}
      />
      <p className="text-quiet mt-1 mb-3 min-h-6 text-[13px]" role="status">
        {stateWords(isThere, isPaused, shown.held.length)}
      </p>
      <DataTable
        label="What came in"
        rows={shown.rows}
        idOf={({ id }) => id}
        columns={columnsOf(business, initial.timeZone, asked.whose === 'browser' ? null : follow)}
        keys={{
          Enter: ({ path }) => path !== null && open(path),
          f: ({ browser }) => browser !== null && follow(browser),
        }}
        found={find}
        isBusy={shown.address !== address}
        none="Nothing of this came in during the last 7 days."
      />
    </StationFrame>
  );
}

function stateWords(isThere: boolean, isPaused: boolean, held: number): string {
  if (!isThere) return 'The connection is lost; it is made again.';
  if (!isPaused) return 'What comes in is listed as it comes. Enter opens a row, f follows its browser.';
  return held === 0 ? 'Paused.' : `Paused. ${counted(held, 'newer one is', 'newer ones are')} waiting.`;
}

const columnsOf = (
  business: string,
  timeZone: string,
  follow: ((browser: string) => void) | null,
): Column<JustInRow>[] => [
  {
    id: 'at',
    head: 'When',
    className: 'w-40 whitespace-nowrap',
    cell: ({ at }) => <Time iso={at} timeZone={timeZone} seconds />,
  },
  {
    id: 'kind',
    head: 'Kind',
    className: 'w-24',
    cell: ({ kind }) => <span className="text-quiet">{justInOne[kind]}</span>,
  },
  {
    id: 'what',
    head: 'What',
    cell: ({ what, note, mark, path }) => (
      <>
        {path === null ? (
          <Words text={what} />
        ) : (
          <a href={`/b/${business}${path}`} className="quiet-link">
            <Words text={what} />
          </a>
        )}
        {(note || mark) && (
          <span className="text-quiet block text-[12.5px]">
            <Words text={[note, mark && `${mark}, not counted`].filter(Boolean).join(' · ')} />
          </span>
        )}
      </>
    ),
  },
  {
    id: 'page',
    head: 'Page',
    className: 'w-[24%]',
    cell: ({ page }) => <code className="value [overflow-wrap:anywhere]">{page}</code>,
  },
  { id: 'release', head: 'Release', right: true, className: 'w-20', cell: ({ release }) => release ?? '' },
  ...(follow
    ? [
        {
          id: 'browser',
          head: 'Follow its browser',
          isHeadHidden: true,
          className: 'w-20 text-right',
          cell: ({ browser }: JustInRow) =>
            browser !== null && (
              <button type="button" className="quiet-link cursor-pointer" onClick={() => follow(browser)}>
                follow
              </button>
            ),
        },
      ]
    : []),
];
