import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { StoppedWork } from '../../core/capture/faults';
import { sendJson } from '../../ui/text/read';
import type { FaultsView } from '../../core/capture/station-view';
import { count, counted } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { Live } from '../../ui/live/Live';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { CaptureFrame } from './CaptureFrame';
import { useView } from '../../ui/live/useView';

interface Props {
  business: string;
  initial: FaultsView;
}

type Fault = FaultsView['rows'][number];

const firstFew = 3;

/** What keeps values from arriving, and what arrives that should not: each with the one thing to do. */
export function FaultsPage(props: Props) {
  return (
    <Live>
      <Faults {...props} />
    </Live>
  );
}

function Faults({ business, initial }: Props) {
  const view = useView(`/api/b/${business}/capture/faults`, initial);
  const client = useQueryClient();
  const tryAgain = useMutation({
    mutationFn: (kind: StoppedWork) => sendJson(`/api/b/${business}/capture/again`, { kind }),
    onSuccess: () => client.invalidateQueries(),
  });
  const columns: Column<Fault>[] = [
    {
      id: 'what',
      head: 'What is wrong',
      className: 'max-w-[420px] py-2!',
      cell: ({ what }) => <Words text={what} />,
    },
    {
      id: 'where',
      head: 'Where',
      by: ({ pages }) => pages[0] ?? null,
      className: 'py-2!',
      cell: ({ pages }) => <Where pages={pages} />,
    },
    {
      id: 'times',
      head: `In ${view.weeks} weeks`,
      by: ({ times }) => times,
      right: true,
      className: 'py-2! whitespace-nowrap',
      cell: (fault) => <Times business={business} fault={fault} timeZone={view.timeZone} />,
    },
    {
      id: 'fix',
      head: 'Fix',
      className: 'max-w-[300px] py-2!',
      cell: ({ mend, again }) => (
        <>
          <Words text={mend} />
          {again && view.mayChange && (
            <button
              type="button"
              className="quiet-link block cursor-pointer"
              disabled={tryAgain.isPending}
              onClick={() => tryAgain.mutate(again)}
            >
              Try again
            </button>
          )}
        </>
      ),
    },
  ];
  return (
    <CaptureFrame business={business} section="Faults" view={view}>
      <DataTable
        label="Faults"
        rows={view.rows}
        idOf={({ id }) => id}
        columns={columns}
        none={
          <>
            {view.sentence.title}{' '}
            <a className="quiet-link" href={`/b/${business}/capture/install`}>
              Install the snippet
            </a>
          </>
        }
      />
      {view.carried.length > 0 && (
        <p className="mt-4" aria-label="Saved by carry names">
          {view.carried.map(({ name, times, campaigns }) => (
            <span key={name}>
              The carry name <code className="value">{name}</code> saved the click ID of{' '}
              <a
                className="quiet-link"
                href={`/b/${business}/capture/arrivals?${new URLSearchParams({ kind: 'carried', name })}`}
              >
                {counted(times, 'arrival', 'arrivals')}
              </a>{' '}
              in {view.weeks} weeks
              {campaigns.length > 0 && (
                <>
                  , of <code className="value">{campaigns.slice(0, 2).join(', ')}</code>
                </>
              )}
              .{' '}
            </span>
          ))}
        </p>
      )}
    </CaptureFrame>
  );
}

function Where({ pages }: { pages: string[] }) {
  return (
    <>
      {pages.slice(0, firstFew).map((page) => (
        <code key={page} className="value block text-[12.5px]">
          {page}
        </code>
      ))}
      {pages.length > firstFew && (
        <span className="text-quiet text-[12.5px]">and {count(pages.length - firstFew)} more</span>
      )}
    </>
  );
}

/** How often, with the way to the arrivals behind it where they are known. */
function Times({
  business,
  fault: { times, isReported, found, lastAt },
  timeZone,
}: {
  business: string;
  fault: Fault;
  timeZone: string;
}) {
  return (
    <>
      {times === null ? (
        <span className="text-quiet">{isReported ? 'reported by browsers' : 'not counted'}</span>
      ) : found ? (
        <a className="quiet-link" href={`/b/${business}/capture/arrivals?${new URLSearchParams(found)}`}>
          {count(times)}
        </a>
      ) : (
        count(times)
      )}
      {lastAt !== null && (
        <span className="text-quiet block text-[12.5px] normal-nums">
          {times === null && !isReported ? 'checked' : 'last'}{' '}
          <Time iso={new Date(lastAt).toISOString()} timeZone={timeZone} />
        </span>
      )}
    </>
  );
}
