import { useState } from 'react';
import type { LinkListRow, LinkListView } from '../../core/links/view';
import { count } from '../../core/strands';
import type { Column } from '../../ui/list/DataTable';
import { ListPage } from '../../ui/list/ListPage';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { PartsOf } from '../../ui/frame/StationFrame';
import { linkParts } from './LinksFrame';
import { ReplaceInLinks } from './ReplaceInLinks';
import { UsedCell } from './UsedCell';

const lists = [
  ['In use', ''],
  ['Retired', 'retired'],
] as const;

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
  const shown = new URLSearchParams(search).get('show') ?? '';
  const columns = (timeZone: string): Column<LinkListRow>[] => [
    {
      id: 'url',
      head: 'Link',
      by: true,
      className: 'max-w-[560px] py-1.5!',
      cell: ({ url, problems }) => (
        <>
          <code className="value text-[12.5px]">{url}</code>
          {problems.length > 0 && (
            <span className="text-error block text-[12.5px]">
              <Words text={problems.join(' ')} />
            </span>
          )}
        </>
      ),
    },
    {
      id: 'owner',
      head: 'Used',
      by: true,
      cell: (link) => <UsedCell business={business} link={link} mayChange={mayChange} />,
    },
    { id: 'made_at', head: 'Made', by: true, cell: ({ madeAt }) => <Time iso={madeAt} timeZone={timeZone} /> },
    {
      id: 'came',
      head: 'Came by it, ever',
      className: 'whitespace-nowrap',
      cell: ({ arrivals, lastAt }) =>
        arrivals === 0 ? (
          <span className="text-quiet">nobody yet</span>
        ) : (
          <>
            {count(arrivals)}, last <Time iso={lastAt!} timeZone={timeZone} />
          </>
        ),
    },
    { id: 'page', head: 'Its page', cell: (link) => <PageState link={link} timeZone={timeZone} /> },
    {
      id: 'do',
      head: 'What to do',
      isHeadHidden: true,
      cell: (link) => mayChange && <Actions business={business} link={link} />,
    },
  ];
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
          <p className="mt-3 flex gap-4">
            {lists.map(([words, show]) => (
              <a
                key={words}
                href={`/b/${business}/links/made${show && `?show=${show}`}`}
                aria-current={shown === show ? 'page' : undefined}
                className={shown === show ? 'font-semibold' : 'quiet-link'}
              >
                {words}
              </a>
            ))}
          </p>
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
