import { useMutation } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import type { SavedView } from '../../core/results/saved-view';
import { Problem } from '../../ui/form/Problem';
import { sendJson } from '../../ui/text/read';

/** Figures that are kept under names, and a name for those that are shown. */
export function SavedViews({
  business,
  initial,
  query,
  mayChange,
}: {
  business: string;
  initial: SavedView[];
  /** What is shown, as it stands in the address. */
  query: string;
  mayChange: boolean;
}) {
  const [views, setViews] = useState(initial);
  const [name, setName] = useState<string | null>(null);
  const [gone, setGone] = useState<SavedView | null>(null);
  const api = `/api/b/${business}/results/views`;
  const save = useMutation({
    mutationFn: () => sendJson<SavedView[]>(api, { name, query }),
    onSuccess: (next) => {
      setViews(next);
      setName(null);
    },
  });
  const retire = useMutation({
    mutationFn: ({ id, retired }: { id: string; retired: boolean }) =>
      sendJson<SavedView[]>(`${api}/retire`, { id, retired }),
    onSuccess: (next, { id, retired }) => {
      setGone(retired ? (views.find((one) => one.id === id) ?? null) : null);
      setViews(next);
    },
  });
  if (views.length === 0 && !mayChange) return null;
  return (
    <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
      {views.length > 0 && (
        <nav aria-label="Saved views" className="flex flex-wrap items-baseline gap-x-4 gap-y-1">
          {views.map(({ id, name: words, query: shown, by }) => (
            <span key={id} className="whitespace-nowrap">
              <a
                href={`/b/${business}/results?${shown}`}
                className={shown === query ? 'font-semibold underline underline-offset-4' : 'quiet-link'}
                aria-current={shown === query ? 'true' : undefined}
                title={`Saved by ${by}`}
              >
                {words}
              </a>
              {mayChange && (
                <button
                  type="button"
                  className="text-quiet hover:text-error ml-1 cursor-pointer align-middle"
                  aria-label={`Take out “${words}”`}
                  onClick={() => retire.mutate({ id, retired: true })}
                >
                  <X size={14} aria-hidden />
                </button>
              )}
            </span>
          ))}
        </nav>
      )}
      {gone && (
        <span role="status">
          “{gone.name}” is taken out.{' '}
          <button
            type="button"
            className="quiet-link cursor-pointer"
            onClick={() => retire.mutate({ id: gone.id, retired: false })}
          >
            Undo
          </button>
        </span>
      )}
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
      <Problem text={(save.error ?? retire.error)?.message} />
    </div>
  );
}
