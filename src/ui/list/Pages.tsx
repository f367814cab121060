import { useEffect } from 'react';
import { count } from '../../core/strands';

/** Which rows of a list are shown, and the way to those before and after. */
export function Pages({
  view,
  page,
  onPage,
}: {
  view: { total: number; pageSize: number };
  page: number;
  onPage: (page: number) => void;
}) {
  const pages = Math.max(1, Math.ceil(view.total / view.pageSize));
  // An address may name a page that is no longer there.
  useEffect(() => {
    if (view.total > 0 && page > pages) onPage(pages);
  }, [view.total, page, pages, onPage]);
  if (view.total === 0 || page > pages) return null;
  const first = (page - 1) * view.pageSize + 1;
  return (
    <nav aria-label="Pages" className="mt-3 flex items-center justify-between">
      <span className="text-quiet">
        {count(first)} to {count(Math.min(view.total, page * view.pageSize))} of {count(view.total)}
      </span>
      {pages > 1 && (
        <span className="flex gap-2">
          <button type="button" className="button" disabled={page <= 1} onClick={() => onPage(page - 1)}>
            Back
          </button>
          <button type="button" className="button" disabled={page >= pages} onClick={() => onPage(page + 1)}>
            Next
          </button>
        </span>
      )}
    </nav>
  );
}
