import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { readLine } from '../../core/rehearsal/steps';
import type { CleanedView, RealWalkView } from '../../core/rehearsal/view';
import { TraceTable } from '../line/TraceTable';
import { readJson, sendJson } from '../text/read';
import { Time } from '../text/Time';
import { Words } from '../text/Words';

const apiOf = (business: string) => `/api/b/${business}/rehearse/real`;
/** How often (ms) it is looked at while somebody walks. */
const every = 2000;

/** How far one's own browser came, read anew while that is looked at. */
export function useRealWalk(business: string, isLookedAt: boolean) {
  const api = apiOf(business);
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: [api],
    queryFn: () => readJson<RealWalkView>(api),
    refetchInterval: (query) => (isLookedAt && query.state.data?.isOn ? every : false),
  });
  const onSuccess = () => client.invalidateQueries({ queryKey: [api] });
  const begin = useMutation({ mutationFn: () => sendJson<RealWalkView>(api, {}), onSuccess });
  const end = useMutation({ mutationFn: () => sendJson<CleanedView>(`${api}/end`, {}), onSuccess });
  return { view: data, begin, end };
}

/** The page that a walk begins on, with what lets a tab in: that of the first line that says one. */
function linkFor(link: string, lines: readonly string[]): string {
  const first = lines.map(readLine).find((read) => 'step' in read && read.step.does === 'arrive');
  if (!first || !('step' in first) || first.step.does !== 'arrive') return link;
  const begins = new URL(link);
  const { address } = first.step;
  try {
    const page = new URL(
      /^https?:/i.test(address) ? address : address.startsWith('/') ? begins.origin + address : `http://${address}`,
    );
    page.searchParams.set('avx_try', begins.searchParams.get('avx_try')!);
    return page.href;
  } catch {
    return link;
  }
}

/** One's own browser on the real pages: each hop is ticked as it happens, and what it made is cleaned up after. */
export function RealWalk({
  view,
  lines,
  end,
}: {
  view: Extract<RealWalkView, { isOn: true }>;
  lines: string[];
  end: ReturnType<typeof useRealWalk>['end'];
}) {
  return (
    <section aria-label="Walk it for real">
      <h2 className="text-[19px] leading-tight">
        {view.happened.length === 0 ? 'Open the page and walk it yourself.' : 'Each hop is ticked as it happens.'}
      </h2>
      <p className="text-quiet mt-0.5 mb-2 max-w-[72ch]">
        Your tab works by {view.rules === 'draft' ? 'the rules in the draft' : 'what is live'}. Nothing of it is counted
        or told to a platform; a form that you send is a real one, and its record in the CRM is taken out when you end.
      </p>
      <p className="mb-2 flex gap-2">
        {view.link && (
          <a className="button button-strong" href={linkFor(view.link, lines)} target="_blank" rel="noopener">
            Open the page
          </a>
        )}
        <button type="button" className="button" disabled={end.isPending} onClick={() => end.mutate()}>
          End and clean up
        </button>
      </p>
      {!view.link && <p>Add your website under Connections first.</p>}
      {view.trace && <TraceTable trace={view.trace} isNarrow />}
      <ol className="mt-2">
        {view.happened.map(({ at, text }) => (
          <li key={`${at} ${text}`} className="grid grid-cols-[110px_1fr] gap-2 py-0.5">
            <span className="text-quiet">
              <Time iso={at} timeZone={view.timeZone} />
            </span>
            <span>
              <Words text={text} />
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

/** What was cleaned up after a walk, and what is left to be done by hand. */
export function Cleaned({ cleaned, left }: CleanedView) {
  return (
    <div role="status" className="pb-2">
      <h2 className="text-[19px] leading-tight">
        {left.length > 0 ? 'Not everything could be cleaned up.' : 'Cleaned up.'}
      </h2>
      <ul>
        {[...left, ...cleaned].map((text) => (
          <li key={text}>
            <Words text={text} />
          </li>
        ))}
        {left.length === 0 && cleaned.length === 0 && <li>Nothing had been made.</li>}
        <li className="text-quiet">Open any page of the website once more in that tab: it gets back what it kept.</li>
      </ul>
    </div>
  );
}
