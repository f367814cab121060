import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { MakingView, TagSetView } from '../../core/links/view';
import { sendJson } from '../../ui/text/read';

/** Saved combinations of tags: used here with one press, saved from what stands on the screen. */
export function TagSets({
  business,
  view,
  tags,
  onUse,
}: {
  business: string;
  view: MakingView;
  tags: Record<string, string>;
  onUse: (set: TagSetView) => void;
}) {
  const client = useQueryClient();
  const [name, setName] = useState('');
  const same = view.tagSets.find((set) => set.name === name.trim());
  const onSuccess = () => {
    setName('');
    return client.invalidateQueries();
  };
  const save = useMutation({
    mutationFn: () =>
      sendJson(`/api/b/${business}/tag-sets`, {
        name,
        ...(same ? { id: same.id, usedIn: same.usedIn } : {}),
        tags: Object.fromEntries(Object.entries(tags).map(([tag, value]) => [tag, [value]])),
      }),
    onSuccess,
  });
  const retire = useMutation({
    mutationFn: (id: string) => sendJson(`/api/b/${business}/tag-sets/${id}/retire`, {}),
    onSuccess,
  });
  return (
    <section className="sheet p-5" aria-label="Tag sets">
      <h2 className="text-base">Tag sets</h2>
      {view.tagSets.length === 0 && <p className="text-quiet mt-1">None is saved yet.</p>}
      <ul className="mt-1">
        {view.tagSets.map((set) => (
          <li key={set.id} className="border-base-300 flex items-center gap-2 border-b py-1.5 last:border-0">
            <span className="min-w-0 flex-1">
              {set.name}
              <code className="value text-quiet block truncate text-[11.5px]">
                {Object.values(set.tags)
                  .map((values) => values.join(', '))
                  .join(' · ')}
              </code>
            </span>
            <button type="button" className="button" onClick={() => onUse(set)}>
              Use
            </button>
            {view.mayChange && (
              <button
                type="button"
                className="text-quiet quiet-link cursor-pointer"
                aria-label={`Retire ${set.name}`}
                onClick={() => retire.mutate(set.id)}
              >
                Retire
              </button>
            )}
          </li>
        ))}
      </ul>
      {view.mayChange && Object.keys(tags).length > 0 && (
        <form
          className="mt-3 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            save.mutate();
          }}
        >
          <input
            className="field min-w-0 flex-1"
            placeholder="Name these tags"
            aria-label="Name of the tag set"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          <button
            className="button"
            disabled={name.trim() === '' || save.isPending}
            title={name.trim() === '' ? 'Name the tags to save them as a set.' : undefined}
          >
            {same ? 'Replace it' : 'Save'}
          </button>
        </form>
      )}
      {same && <p className="text-quiet mt-1">“{same.name}” is there already; these tags would take its place.</p>}
      {(save.error ?? retire.error) && (
        <p role="alert" className="text-error mt-2">
          {same && <p className="text-quiet mt-1">“{same.name}” is there already; these tags would take its place.</p>}
          {(save.error ?? retire.error)!.message}
        </p>
      )}
    </section>
  );
}
