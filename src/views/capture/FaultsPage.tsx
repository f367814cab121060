import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { StoppedWork } from '../../core/capture/faults';
import { sendJson } from '../../ui/text/read';
import type { FaultsView } from '../../core/capture/station-view';
import { count, counted } from '../../core/strands';
import { Live } from '../../ui/live/Live';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { CaptureFrame } from './CaptureFrame';
import { useView } from '../../ui/live/useView';

interface Props {
  business: string;
  initial: FaultsView;
}

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
  return (
    <CaptureFrame business={business} section="Faults" view={view}>
      <div className="sheet overflow-x-auto">
        <table className="rows" aria-label="Faults">
          <thead>
            <tr>
              <th scope="col">What is wrong</th>
              <th scope="col">Where</th>
              <th scope="col" className="text-right!">
                In {view.weeks} weeks
              </th>
              <th scope="col">What mends it</th>
            </tr>
          </thead>
          <tbody>
            {view.rows.map(({ id, what, mend, pages, times, lastAt, isReported, found, again }) => (
              <tr key={id}>
                <td className="max-w-[420px] py-2!">
                  <Words text={what} />
                </td>
                <td className="py-2!">
                  {pages.slice(0, firstFew).map((page) => (
                    <code key={page} className="value block text-[12.5px]">
                      {page}
                    </code>
                  ))}
                  {pages.length > firstFew && (
                    <span className="text-quiet text-[12.5px]">and {count(pages.length - firstFew)} more</span>
                  )}
                </td>
                <td className="py-2! text-right whitespace-nowrap tabular-nums">
                  {times === null ? (
                    <span className="text-quiet">{isReported ? 'reported by browsers' : 'as it stands'}</span>
                  ) : found ? (
                    <a className="quiet-link" href={`/b/${business}/capture/arrivals?${new URLSearchParams(found)}`}>
                      {count(times)}
                    </a>
                  ) : (
                    count(times)
                  )}
                  {lastAt !== null && (
                    <span className="text-quiet block text-[12.5px]">
                      {times === null && !isReported ? 'checked' : 'last'}{' '}
                      <Time iso={new Date(lastAt).toISOString()} timeZone={view.timeZone} />
                    </span>
                  )}
                </td>
                <td className="max-w-[300px] py-2!">
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
                </td>
              </tr>
            ))}
            {view.rows.length === 0 && (
              <tr>
                <td colSpan={4} className="text-quiet">
                  {view.sentence.title}{' '}
                  <a className="quiet-link" href={`/b/${business}/capture/install`}>
                    Install the line
                  </a>
                </td>
              </tr>
            )}
          </tbody>
        </table>
      </div>
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
