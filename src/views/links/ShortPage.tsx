import { useQueryClient } from '@tanstack/react-query';
import type { ShortLinksView, ShortLinkView } from '../../core/links/view';
import { count } from '../../core/strands';
import { useOpen } from '../../ui/address/useOpen';
import { Key } from '../../ui/keys/Key';
import { DataTable, type Column } from '../../ui/list/DataTable';
import { PickLink } from '../../ui/list/PickLink';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { LinksFrame } from './LinksFrame';
import { ShortDetails } from './ShortDetails';
import { ShortForm } from './ShortForm';

interface Props {
  business: string;
  initial: ShortLinksView;
  search: string;
}

/** Short links: made, led elsewhere later, with their clicks, their history and a picture to print. */
export function ShortPage(props: Props) {
  return (
    <Live>
      <Short {...props} />
    </Live>
  );
}

function Short({ business, initial, search }: Props) {
  const api = `/api/b/${business}/short-links`;
  const client = useQueryClient();
  const view = useView(api, initial, 5000);
  const open = useOpen('path', search);
  const link = view.rows.find(({ path }) => path === open.id);
  const columns: Column<ShortLinkView>[] = [
    {
      id: 'path',
      head: 'Short link',
      by: (row) => row.path,
      className: 'whitespace-nowrap',
      cell: (row) => (
        <>
          <PickLink href={open.href(row.path)} className="quiet-link font-semibold" onPick={() => open.pick(row.path)}>
            <code className="value">/go/{row.path}</code>
          </PickLink>
          {row.state !== 'open' && <span className="block text-[12.5px]">{row.state}</span>}
        </>
      ),
    },
    {
      id: 'destination',
      head: 'Leads to',
      by: ({ destination }) => destination,
      cell: ({ destination }) => <code className="value text-[12.5px]">{destination}</code>,
    },
    {
      id: 'clicks',
      head: 'Clicks',
      by: ({ clicks }) => clicks,
      right: true,
      className: 'whitespace-nowrap',
      cell: ({ clicks, bots }) => (
        <>
          {count(clicks)}
          {bots > 0 && <span className="text-quiet block text-[12px]">{count(bots)} by bots</span>}
        </>
      ),
    },
    {
      id: 'lastAt',
      head: 'Last',
      by: ({ lastAt }) => lastAt,
      className: 'whitespace-nowrap',
      cell: ({ lastAt }) => (lastAt ? <Time iso={lastAt} timeZone={view.timeZone} /> : 'never'),
    },
  ];
  return (
    <LinksFrame
      business={business}
      section="Short links"
      sentence={view.sentence}
      actions={
        <div className="flex gap-2">
          <a href={`${api}.conf`} className="button" download>
            Export redirects
          </a>
          {view.mayChange && (
            <button type="button" className="button button-strong" data-new onClick={() => open.make()}>
              New short link <Key k="n" strong />
            </button>
          )}
        </div>
      }
    >
      <div className={`grid grid-cols-1 items-start gap-4 ${link || open.isNew ? 'xl:grid-cols-[1fr_400px]' : ''}`}>
        <div className="min-w-0">
          <DataTable
            label="Short links"
            rows={view.rows}
            idOf={({ id }) => id}
            columns={columns}
            start={{ by: 'path', descending: false }}
            finds={{
              what: 'Path or destination',
              label: 'Find a short link',
              in: (row) => `${row.path} ${row.destination}`,
            }}
            keys={{ Enter: ({ path }) => open.pick(path) }}
            isOpen={({ path }) => path === open.id}
            rowClass={({ state }) => (state === 'open' ? '' : 'text-quiet')}
            under={({ problems, state }) =>
              problems.length > 0 &&
              state === 'open' && (
                <span className="text-error text-[13px]">
                  <Words text={problems.join(' ')} />
                </span>
              )
            }
            none="None yet."
          />
        </div>
        {(link ?? (open.isNew && view.mayChange)) && (
          <div className="flex flex-col gap-4">
            <ShortForm
              key={open.id}
              business={business}
              link={link ?? null}
              view={view}
              onSaved={(path) => {
                open.pick(path);
                void client.invalidateQueries();
              }}
              onClose={() => open.close()}
            />
            {link && <ShortDetails api={api} link={link} timeZone={view.timeZone} mayChange={view.mayChange} />}
          </div>
        )}
      </div>
    </LinksFrame>
  );
}
