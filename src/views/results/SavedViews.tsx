import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { SavedKind, SavedView } from '../../core/results/kept';
import { Problem } from '../../ui/form/Problem';
import { useWritten } from '../../ui/form/useWritten';
import { sendJson } from '../../ui/text/read';
import { TakenOut, TakeOut, useTakenOut } from './TakenOut';

const placeOf: Record<SavedKind, string> = { figures: '', funnel: '/funnel' };

/** Figures or funnels that are kept under names, and a name for what is shown. */
export function SavedViews({
  business,
  kind,
  initial,
  query,
  mayChange,
}: {
  business: string;
  kind: SavedKind;
  initial: SavedView[];
  /** What is shown, as it stands in the address. */
  query: string;
  mayChange: boolean;
}) {
  const api = `/api/b/${business}/results/views`;
  const [views, setViews] = useState(initial);
  const { value: name, set: setName } = useWritten<string | null>(`${api} ${kind}`, null, (one) => one === null);
  const out = useTakenOut<SavedView, SavedView[]>(api, setViews);
  const save = useMutation({
    mutationFn: () => sendJson<SavedView[]>(api, { kind, name, query }),
    onSuccess: (next) => {
      setViews(next);
      setName(null);
    },
  });
  if (views.length === 0 && !mayChange) return null;
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {views.length > 0 && (
        <nav aria-label="Saved views" className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          {views.map((view) => (
            <span key={view.id}>
              <a
                href={`/b/${business}/results${placeOf[kind]}?${view.query}`}
                className={view.query === query ? 'font-semibold underline underline-offset-4' : 'quiet-link'}
                aria-current={view.query === query ? 'true' : undefined}
                title={`Saved by ${view.by}`}
              >
                {view.name}
              </a>
              {mayChange && <TakeOut label={`Take out “${view.name}”`} onPress={() => out.takeOut(view)} />}
            </span>
          ))}
        </nav>
      )}
      {out.gone && <TakenOut words={`“${out.gone.name}”`} onUndo={out.undo} />}
      {mayChange &&
        (name === null ? (
          <button type="button" className="part part-more" onClick={() => setName('')}>
            Save this view
          </button>
        ) : (
          <form
            className="flex flex-wrap items-center gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              save.mutate();
            }}
          >
            <input
              className="field w-60"
              aria-label="Name of the view"
              placeholder="such as Winterproof by content"
              autoFocus
              maxLength={60}
              value={name}
              onChange={({ target }) => setName(target.value)}
            />
            <button className="button button-strong" disabled={name.trim() === '' || save.isPending}>
              Save view
            </button>
            <button type="button" className="quiet-link cursor-pointer" onClick={() => setName(null)}>
              Cancel
            </button>
          </form>
        ))}
      <Problem text={save.error?.message ?? out.problem} />
    </div>
  );
}
