import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Replaced } from '../../core/links';
import { count, counted } from '../../core/strands';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';

const columns: Column<Replaced>[] = [
  {
    id: 'before',
    head: 'Before',
    by: ({ before }) => before,
    cell: ({ before }) => <code className="value text-quiet text-[12.5px]">{before}</code>,
  },
  {
    id: 'after',
    head: 'After',
    by: ({ after }) => after,
    cell: ({ after, wrong }) => (
      <>
        <code className="value text-[12.5px]">{after}</code>
        {wrong && <span className="text-error block text-[12.5px]">{wrong}</span>}
      </>
    ),
  },
];

/** Finds a text in all links in use and puts another in its place: first shown, then done, taken back by one press. */
export function ReplaceInLinks({ api }: { api: string }) {
  const client = useQueryClient();
  const [wanted, setWanted] = useState({ find: '', put: '' });
  const readAnew = () => client.invalidateQueries();
  const preview = useMutation({
    mutationFn: () => sendJson(`${api}/preview`, wanted) as Promise<{ links: Replaced[] }>,
  });
  const replace = useMutation({
    mutationFn: () => sendJson(api, wanted) as Promise<{ change: string; changed: number; left: number }>,
    onSuccess: () => {
      preview.reset();
      return readAnew();
    },
  });
  const undo = useMutation({
    mutationFn: (change: string) => sendJson(`${api}/${change}/undo`, {}) as Promise<{ moved: number }>,
    onSuccess: () => {
      replace.reset();
      return readAnew();
    },
  });
  const found = preview.data?.links ?? [];
  const good = found.filter(({ wrong }) => wrong === '');
  const error = preview.error ?? replace.error ?? undo.error;
  const field = (key: 'find' | 'put', label: string) => (
    <input
      className="field value w-64"
      aria-label={label}
      placeholder={label.toLowerCase()}
      value={wanted[key]}
      spellCheck={false}
      onChange={(event) => {
        setWanted({ ...wanted, [key]: event.target.value });
        preview.reset();
      }}
    />
  );
  return (
    <section className="mt-3" aria-label="Find and replace">
      <form
        className="flex flex-wrap items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          preview.mutate();
        }}
      >
        Find {field('find', 'The old text')} in all links and put {field('put', 'The new text')}
        <button
          className="button"
          disabled={wanted.find === '' || preview.isPending}
          title={wanted.find === '' ? 'Say what to find first.' : undefined}
        >
          Show what changes
        </button>
        {replace.data && (
          <span role="status">
            {counted(replace.data.changed, 'link is', 'links are')} changed
            {replace.data.left > 0 && `, ${count(replace.data.left)} left as they were`};{' '}
            {replace.data.changed === 1 ? 'its page is' : 'their pages are'} being checked.{' '}
            <button
              type="button"
              className="quiet-link cursor-pointer"
              onClick={() => undo.mutate(replace.data.change)}
            >
              Undo
            </button>
          </span>
        )}
        {undo.data && !replace.data && (
          <span role="status">{counted(undo.data.moved, 'link is', 'links are')} as before.</span>
        )}
      </form>
      {error && (
        <p role="alert" className="text-error mt-2">
          <Words text={error.message} />
        </p>
      )}
      {preview.data && (
        <div className="mt-3">
          <DataTable rows={found} idOf={({ id }) => id} columns={columns} none={`No link holds “${wanted.find}”.`} />
          {found.length > 0 && (
            <p className="mt-3">
              <button
                type="button"
                className="button button-strong"
                disabled={good.length === 0 || replace.isPending}
                onClick={() => replace.mutate()}
              >
                Change {count(good.length)}
              </button>
            </p>
          )}
        </div>
      )}
    </section>
  );
}
