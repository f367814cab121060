import { createColumnHelper, type ColumnDef } from '@tanstack/react-table';
import { useState } from 'react';
import type { LinkListRow, LinkListView } from '../../core/links/view';
import { count } from '../../core/strands';
import { ListPage } from '../../ui/list/ListPage';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { PartsOf } from '../../ui/frame/StationFrame';
import { linkParts } from './LinksFrame';
import { ReplaceInLinks } from './ReplaceInLinks';
import { UsedCell } from './UsedCell';

const column = createColumnHelper<LinkListRow>();

/** The register: each link with where it is used, whose it is, what came by it, and whether its page answers. */
export function MadePage({
  business,
  initial,
  search,
  mayChange,
}: {
  business: string;
  initial: LinkListView;
  search: string;
  mayChange: boolean;
}) {
  const api = `/api/b/${business}/links`;
  const columns = (timeZone: string) =>
    [
      column.accessor('url', {
        header: 'Link',
        cell: ({ row: { original: link } }) => (
          <div className="max-w-[560px] py-1">
            <code className="value text-[12.5px]">{link.url}</code>
            {link.problems.length > 0 && (
              <span className="text-error block text-[12.5px]">
                <Words text={link.problems.join(' ')} />
              </span>
            )}
          </div>
        ),
      }),
      column.accessor('owner', {
        header: 'Used',
        cell: ({ row: { original: link } }) => <UsedCell business={business} link={link} mayChange={mayChange} />,
      }),
      column.accessor('madeAt', {
        id: 'made_at',
        header: 'Made',
        cell: ({ getValue }) => <Time iso={getValue()} timeZone={timeZone} />,
      }),
      column.display({
        id: 'came',
        header: 'Came by it',
        cell: ({ row: { original: link } }) =>
          link.arrivals === 0 ? (
            <span className="text-quiet">nobody yet</span>
          ) : (
            <span className="whitespace-nowrap">
              {count(link.arrivals)}, last <Time iso={link.lastAt!} timeZone={timeZone} />
            </span>
          ),
      }),
      column.display({
        id: 'page',
        header: 'Its page',
        cell: ({ row: { original: link } }) => <PageState link={link} timeZone={timeZone} />,
      }),
      column.display({
        id: 'do',
        header: () => <span className="sr-only">What to do</span>,
        cell: ({ row: { original: link } }) => mayChange && <Actions business={business} link={link} />,
      }),
    ] as ColumnDef<LinkListRow>[];
  return (
    <ListPage
      api={api}
      initial={initial}
      search={search}
      usualSort="made_at"
      finds="Part of a link, place, owner"
      columns={columns}
      first={
        <a href={`/b/${business}/links`} className="button text-base-content">
          Make the first link
        </a>
      }
      hrefOf={(link) => `/b/${business}/links?link=${encodeURIComponent(link.url)}`}
      under={
        <>
          <PartsOf {...linkParts(business, 'Made')} />
          {mayChange && initial.total > 0 && <ReplaceInLinks api={`${api}/replace`} />}
        </>
      }
    />
  );
}

function PageState({ link: { check }, timeZone }: { link: LinkListRow; timeZone: string }) {
  if (!check) return <span className="text-quiet whitespace-nowrap">not checked</span>;
  if (check.state === 'waiting') return <span className="text-quiet">being checked</span>;
  return (
    <span className={check.state === 'bad' ? 'text-error' : ''}>
      {check.state === 'good' ? 'sound' : <Words text={check.words.join(' ')} />}
      <span className="text-quiet block text-[12.5px]">
        <Time iso={check.at!} timeZone={timeZone} />
      </span>
    </span>
  );
}

function Actions({ business, link }: { business: string; link: LinkListRow }) {
  const [state, setState] = useState('');
  const send = (path: string, body: object, words: string) =>
    void sendJson(`/api/b/${business}/${path}`, body).then(
      () => setState(words),
      (error: Error) => setState(error.message),
    );
  if (state) return <span className="text-quiet">{state}</span>;
  return (
    <span className="flex gap-1.5 whitespace-nowrap">
      {!link.retired && (
        <button
          type="button"
          className="button"
          onClick={() => send('page-checks', { urls: [link.url] }, 'being checked')}
        >
          Check
        </button>
      )}
      <button
        type="button"
        className="button"
        onClick={() =>
          send('links/retire', { links: [link.id], retired: !link.retired }, link.retired ? 'in use' : 'retired')
        }
      >
        {link.retired ? 'Use again' : 'Retire'}
      </button>
    </span>
  );
}
