import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { LinkListRow } from '../../core/links/view';
import { sendJson } from '../../ui/text/read';
import { usedInWords } from '../../core/links/uses';
import { UseFields } from './WhereUsed';
import { Words } from '../../ui/text/Words';

/** Where a link is used and whose it is, changed in its row. */
export function UsedCell({ business, link, mayChange }: { business: string; link: LinkListRow; mayChange: boolean }) {
  const client = useQueryClient();
  const { usedIn, place, owner } = link;
  const [use, setUse] = useState<{ usedIn: typeof usedIn; place: string; owner: string } | null>(null);
  const keep = useMutation({
    mutationFn: () => sendJson(`/api/b/${business}/links/use`, { links: [link.id], ...use }),
    onSuccess: async () => {
      await client.invalidateQueries();
      setUse(null);
    },
  });
  if (use)
    return (
      <form
        className="flex min-w-44 flex-col gap-1.5 py-1"
        onSubmit={(event) => {
          event.preventDefault();
          keep.mutate();
        }}
      >
        <UseFields use={use} onUse={setUse} />
        <span className="flex gap-1.5">
          <button className="button" disabled={keep.isPending}>
            Save
          </button>
          <button type="button" className="button" onClick={() => setUse(null)}>
            Undo
          </button>
        </span>
        {keep.error && (
          <span role="alert" className="text-error text-[12.5px]">
            <Words text={keep.error.message} />
          </span>
        )}
      </form>
    );
  const words = (
    <>
      {usedIn === 'other' && (place || owner) ? '' : usedInWords[usedIn]}
      <span className="text-quiet block text-[12.5px]">{[place, owner].filter(Boolean).join(', ')}</span>
    </>
  );
  if (!mayChange) return words;
  return (
    <button
      type="button"
      className="hover:bg-base-200 cursor-pointer rounded text-left"
      title="Say where it is used"
      onClick={() => setUse({ usedIn, place, owner })}
    >
      {words}
    </button>
  );
}
