import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { SavedListView } from '../../core/rehearsal/view';
import type { ChangeView, NotLiveView } from '../../core/releases/view';
import { counted } from '../../core/strands';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { sayDraftChanged } from '../../ui/rule/draft-changed';
import { useDraft } from '../../ui/rule/useDraft';
import { readJson, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';

interface Props {
  business: string;
  initial: NotLiveView;
}

/** What is not live: the changed sentences, old and new, and the one line that makes them live. */
export function NotLivePage(props: Props) {
  return (
    <Live>
      <NotLive {...props} />
    </Live>
  );
}

function NotLive({ business, initial }: Props) {
  const api = `/api/b/${business}/draft`;
  const client = useQueryClient();
  const view = useView(api, initial);
  const draft = useDraft(business);
  const [name, setName] = useState('');
  const [overrule, setOverrule] = useState('');
  const [made, setMade] = useState<number | null>(null);
  const release = useMutation({
    mutationFn: () =>
      sendJson(`/api/b/${business}/releases`, {
        name,
        overrule,
        seen: view.changes.map(({ kind, id, changedAt }) => ({ kind, id, changedAt })),
      }),
    onSuccess: (answer) => {
      setMade((answer as { number: number }).number);
      setName('');
      setOverrule('');
      sayDraftChanged();
      void client.invalidateQueries();
    },
  });
  const { changes } = view;
  const begin = useMutation({
    mutationFn: () => sendJson(`/api/b/${business}/capture/trial`, {}),
    onSuccess: () => location.assign(`/b/${business}/try`),
  });
  const savedApi = `/api/b/${business}/rehearsals`;
  const saved = useQuery({
    queryKey: [savedApi, seenOf(changes)],
    queryFn: () => readJson<SavedListView>(savedApi),
    enabled: changes.length > 0,
  });
  const failing = (saved.data?.rehearsals ?? []).filter(({ holds }) => !holds);
  const isBroken = view.findings.some(({ weighs }) => weighs === 'stops');
  const isStopped = isBroken || (failing.length > 0 && overrule.trim() === '');
  return (
    <StationFrame
      sentence={view.sentence}
      actions={
        <div className="flex gap-2">
          {view.mayChange && changes.length > 0 && (
            <button type="button" className="button" disabled={begin.isPending} onClick={() => begin.mutate()}>
              Try in my browser
            </button>
          )}
          <a className="button" href={`/b/${business}/releases`}>
            History
          </a>
        </div>
      }
    >
      {changes.length === 0 && (
        <p className="text-quiet mt-3">
          Made live <Time iso={view.release.madeAt} timeZone={view.timeZone} />
          {view.release.by && ` by ${view.release.by}`}.
        </p>
      )}
      {made !== null && (
        <p className="text-success mt-3 font-semibold" role="status">
          Release {made} is live. Pages that are opened from now on work by it.
        </p>
      )}
      {changes.length > 0 && (
        <>
          <ol className="sheet mt-5">
            {changes.map((change) => (
              <Change
                key={`${change.kind} ${change.id}`}
                change={change}
                view={view}
                busy={draft.drop.isPending}
                onDrop={() => draft.drop.mutate([{ kind: change.kind, id: change.id }])}
              />
            ))}
          </ol>
          <Findings business={business} view={view} />
          <Rehearsed business={business} list={saved.data} error={saved.error} />
          {failing.length > 0 && view.mayRelease && view.isOwner && (
            <label className="mt-2 block">
              Make it live all the same, because{' '}
              <input
                className="part min-w-80"
                value={overrule}
                maxLength={200}
                placeholder="the reason, which stays with the release"
                onChange={(event) => setOverrule(event.target.value)}
              />
            </label>
          )}
          {view.mayRelease ? (
            <form
              className="mt-5 flex flex-wrap items-center gap-3 text-[17px]"
              onSubmit={(event) => {
                event.preventDefault();
                release.mutate();
              }}
            >
              <label>
                Call it{' '}
                <input
                  className="part min-w-48"
                  value={name}
                  placeholder="what changes, in a few words"
                  maxLength={120}
                  data-new
                  onChange={(event) => setName(event.target.value)}
                />
              </label>
              <button
                className="button button-strong"
                disabled={name.trim() === '' || release.isPending || isStopped}
                title={whyGrey(isBroken, isStopped, name)}
              >
                Make {changes.length === 1 ? 'it' : counted(changes.length, 'rule', 'rules')} live
              </button>
              {changes.length > 1 && view.mayChange && (
                <button type="button" className="button" onClick={() => draft.drop.mutate([])}>
                  Drop them all
                </button>
              )}
            </form>
          ) : (
            <p className="text-quiet mt-5">Somebody who may release makes them live.</p>
          )}
          {(release.error ?? draft.drop.error ?? begin.error) && (
            <p role="alert" className="text-error mt-3">
              {(release.error ?? draft.drop.error ?? begin.error)!.message}
            </p>
          )}
        </>
      )}
    </StationFrame>
  );
}

function Change({
  change: { station, live, draft, details, by, changedAt },
  view,
  busy,
  onDrop,
}: {
  change: ChangeView;
  view: NotLiveView;
  busy: boolean;
  onDrop: () => void;
}) {
  return (
    <li className="border-base-300 grid grid-cols-[1fr_auto] gap-x-6 border-b px-5 py-4 last:border-0">
      <div className="min-w-0">
        <p className="text-quiet text-[12.5px]">
          {station} · {live === null ? 'new' : draft === null ? 'taken out' : 'changed'} by {by},{' '}
          <Time iso={changedAt} timeZone={view.timeZone} />
        </p>
        {live !== null && live !== draft && (
          <p className="text-quiet mt-1 line-through decoration-1">
            <Words text={live} />
          </p>
        )}
        {draft !== null && (
          <p className="mt-1 text-[16px]">
            <Words text={draft} />
          </p>
        )}
        {details.map((text) => (
          <p key={text} className="mt-0.5">
            <Words text={text} />
          </p>
        ))}
      </div>
      {view.mayChange && (
        <button type="button" className="button h-fit" disabled={busy} onClick={onDrop}>
          Drop it
        </button>
      )}
    </li>
  );
}

/** Why rules cannot be made live yet; nothing where they can. */
function whyGrey(isBroken: boolean, isStopped: boolean, name: string): string | undefined {
  if (isBroken) return 'What stops it stands above: fix it, or drop the rule.';
  if (isStopped)
    return 'A saved rehearsal fails: change the rules or the rehearsal. An owner may say why it goes live all the same.';
  return name.trim() === '' ? 'Say in a few words what changes.' : undefined;
}

const seenOf = (changes: ChangeView[]): string =>
  changes.map(({ kind, id, changedAt }) => `${kind} ${id} ${changedAt}`).join();

/** How saved rehearsals come out by the rules that would go live. */
function Rehearsed({
  business,
  list,
  error,
}: {
  business: string;
  list: SavedListView | undefined;
  error: Error | null;
}) {
  const all = list?.rehearsals ?? [];
  const failing = all.filter(({ holds }) => !holds);
  if (error)
    return (
      <p className="text-error mt-3">
        Saved rehearsals could not be walked: <Words text={error.message} />
      </p>
    );
  if (all.length === 0) return null;
  return (
    <section className="mt-4" aria-label="Saved rehearsals">
      <p>
        <a className="quiet-link" href={`/b/${business}/rehearsals`}>
          {counted(all.length, 'saved rehearsal', 'saved rehearsals')}
        </a>
        {failing.length === 0 ? `, ${all.length === 1 ? 'which comes' : 'which all come'} out as expected.` : ':'}
      </p>
      <ul>
        {failing.map(({ id, name, expectations, problems }) => (
          <li key={id} className="py-1">
            <span className="text-error font-semibold">Stops it:</span> “{name}”.{' '}
            <Words
              text={[...problems, ...expectations.filter((one) => !one.holds).map(({ words }) => words)].join(' ')}
            />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Of an event or wire, with the rule it is about. */
type Finding = NotLiveView['findings'][number] & { rule?: { kind: string; id: string } | null };

/** What is wrong with the rules together, and what of their events does not fit what was recorded or what places outside say. */
function Findings({ business, view }: { business: string; view: NotLiveView }) {
  const api = `/api/b/${business}/events/before-release`;
  const { data, error } = useQuery({
    queryKey: [api, seenOf(view.changes)],
    queryFn: () => readJson<{ findings: Finding[] }>(api),
    staleTime: 60_000,
  });
  const all: Finding[] = [...view.findings, ...(data?.findings ?? [])];
  return (
    <section className="mt-5" aria-label="Before you release">
      {all.length > 0 && (
        <>
          <h2 className="text-base">Before you release: {counted(all.length, 'thing', 'things')}</h2>
          <ul className="mt-1">
            {all.map(({ weighs, was, fix, rule }) => (
              <li key={was} className="py-1">
                <span className={weighs === 'stops' ? 'text-error font-semibold' : 'font-semibold'}>
                  {weighs === 'stops' ? 'Stops it:' : 'Look at it:'}
                </span>{' '}
                <Words text={`${was}. ${fix}`} />{' '}
                {rule && (
                  <a className="quiet-link" href={`/b/${business}/events?event=${rule.id.split(' ')[0]}`}>
                    Open it
                  </a>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
      {!data && !error && (
        <p className="text-quiet mt-1" role="status">
          Checking events against recorded visits …
        </p>
      )}
      {error && (
        <p className="text-error mt-1">
          Events could not be checked against recorded visits: <Words text={error.message} />
        </p>
      )}
    </section>
  );
}
