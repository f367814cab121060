import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { openShortLink, shortLinkWins, type ShortLinkWins } from '../../core/links/open';
import type { ShortLinksView, ShortLinkView } from '../../core/links/view';
import { count } from '../../core/strands';
import { Key } from '../../ui/keys/Key';
import { FindField } from '../../ui/list/FindField';
import { NoRows } from '../../ui/list/NoRows';
import { PickLink } from '../../ui/list/PickLink';
import { SortHead } from '../../ui/list/SortHead';
import { useSorted } from '../../ui/list/useSorted';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { useAddressPart } from '../../ui/rule/useAddressPart';
import { Copy } from '../../ui/text/Copy';
import { ApiProblem, sendJson } from '../../ui/text/read';
import { fromLocalField, toLocalField } from '../../ui/text/time';
import { Time } from '../../ui/text/Time';
import { LinksFrame } from './LinksFrame';

interface Props {
  business: string;
  initial: ShortLinksView;
  search: string;
}

type SortColumn = 'path' | 'destination' | 'clicks' | 'lastAt';

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
  const [path, setPath] = useAddressPart('path', search);
  const [find, setFind] = useState('');
  const link = view.rows.find((row) => row.path === path);
  const found = view.rows.filter((row) => `${row.path} ${row.destination}`.toLowerCase().includes(find.toLowerCase()));
  const { sorted: rows, ...sort } = useSorted<ShortLinkView, SortColumn>(found, { by: 'path', descending: false });
  const head = (column: SortColumn, words: string, right = false) => (
    <SortHead column={column} words={words} right={right} sorting={sort.sorting} onSort={sort.sortBy} />
  );
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
            <button type="button" className="button button-strong" data-new onClick={() => setPath('new')}>
              New short link <Key k="n" strong />
            </button>
          )}
        </div>
      }
    >
      <div className={`grid grid-cols-1 items-start gap-4 ${path ? 'xl:grid-cols-[1fr_400px]' : ''}`}>
        <section className="sheet overflow-x-auto" aria-label="Short links">
          <p className="px-3.5 pt-3">
            <FindField what="Path or destination" label="Find a short link" onFind={setFind} />
          </p>
          <table className="rows">
            <thead>
              <tr>
                {head('path', 'Short link')}
                {head('destination', 'Leads to')}
                {head('clicks', 'Clicks', true)}
                {head('lastAt', 'Last')}
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <tr key={row.id} aria-selected={row.path === path} className={row.state === 'open' ? '' : 'text-quiet'}>
                  <td className="whitespace-nowrap">
                    <PickLink
                      href={`?path=${row.path}`}
                      className="quiet-link font-semibold"
                      onPick={() => setPath(row.path)}
                    >
                      <code className="value">/go/{row.path}</code>
                    </PickLink>
                    {row.state !== 'open' && <span className="block text-[12.5px]">{row.state}</span>}
                  </td>
                  <td>
                    <code className="value text-[12.5px]">{row.destination}</code>
                  </td>
                  <td className="text-right tabular-nums">
                    {count(row.clicks)}
                    {row.bots > 0 && <span className="text-quiet block text-[12px]">{count(row.bots)} by bots</span>}
                  </td>
                  <td className="whitespace-nowrap">
                    {row.lastAt ? <Time iso={row.lastAt} timeZone={view.timeZone} /> : 'never'}
                  </td>
                </tr>
              ))}
              {rows.length === 0 && (
                <NoRows columns={4} find={find}>
                  None yet.
                </NoRows>
              )}
            </tbody>
          </table>
        </section>
        {(link ?? path === 'new') && (
          <div className="flex flex-col gap-4">
            <ShortForm
              key={`${path} ${link?.destination}`}
              api={api}
              link={link ?? null}
              mayChange={view.mayChange}
              timeZone={view.timeZone}
              onDone={(made) => {
                setPath(made);
                void client.invalidateQueries();
              }}
            />
            {link && <ShortDetails api={api} link={link} timeZone={view.timeZone} />}
          </div>
        )}
      </div>
    </LinksFrame>
  );
}

const winsWords: Record<ShortLinkWins, string> = {
  link: 'the link’s own value holds',
  visitor: 'the value it is opened with holds',
  neither: 'nothing is passed on',
};

function ShortForm({
  api,
  link,
  mayChange,
  timeZone,
  onDone,
}: {
  api: string;
  link: ShortLinkView | null;
  mayChange: boolean;
  timeZone: string;
  onDone: (path: string) => void;
}) {
  const [form, setForm] = useState({
    ...{ path: link?.path ?? '', destination: link?.destination ?? '', wins: link?.wins ?? 'link' },
    ...{
      status: link?.status ?? 302,
      expires: link?.expiresAt ? toLocalField(link.expiresAt, timeZone) : '',
      password: null as string | null,
    },
  });
  const edit = (part: Partial<typeof form>) => setForm((before) => ({ ...before, ...part }));
  const save = useMutation({
    mutationFn: () =>
      sendJson(api, {
        ...{ path: form.path, destination: form.destination, wins: form.wins, status: form.status },
        ...(form.password === null ? {} : { password: form.password }),
        expiresAt: fromLocalField(form.expires, timeZone) || null,
      }),
    onSuccess: () => onDone(form.path),
  });
  const retire = useMutation({
    mutationFn: (retired: boolean) => sendJson(`${api}/${link!.id}/retire`, { retired }),
    onSuccess: () => onDone(form.path),
  });
  const wrong = save.error instanceof ApiProblem ? save.error.fields : [];
  const problem = save.error ?? retire.error;
  return (
    <form
      className="sheet flex flex-col gap-3 p-5"
      aria-label={link ? link.path : 'New short link'}
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}
    >
      <fieldset className="contents" disabled={!mayChange}>
        <label>
          <span className="text-quiet block text-[12.5px]">Its own path, after /go/</span>
          <input
            className="field value mt-0.5 w-full"
            value={form.path}
            disabled={Boolean(link)}
            placeholder="spring-letter"
            spellCheck={false}
            onChange={(event) => edit({ path: event.target.value })}
          />
        </label>
        <label>
          <span className="text-quiet block text-[12.5px]">Leads to</span>
          <textarea
            className="field value mt-0.5 h-20 w-full"
            value={form.destination}
            placeholder="paste a finished link"
            spellCheck={false}
            onChange={(event) => edit({ destination: event.target.value })}
          />
        </label>
        <label>
          <span className="text-quiet block text-[12.5px]">Where both name a value</span>
          <select
            className="field mt-0.5 w-full"
            value={form.wins}
            onChange={(event) => edit({ wins: event.target.value as ShortLinkWins })}
          >
            {shortLinkWins.map((wins) => (
              <option key={wins} value={wins}>
                {winsWords[wins]}
              </option>
            ))}
          </select>
        </label>
        <div className="grid grid-cols-2 gap-3">
          <label>
            <span className="text-quiet block text-[12.5px]">Until, or always</span>
            <input
              type="datetime-local"
              className="field mt-0.5 w-full"
              value={form.expires}
              onChange={(event) => edit({ expires: event.target.value })}
            />
          </label>
          <label>
            <span className="text-quiet block text-[12.5px]">Sends on with</span>
            <select
              className="field mt-0.5 w-full"
              value={form.status}
              onChange={(event) => edit({ status: Number(event.target.value) })}
            >
              <option value={302}>302, can change</option>
              <option value={301}>301, remembered</option>
            </select>
          </label>
        </div>
        <label>
          <span className="text-quiet block text-[12.5px]">
            Password{link?.hasPassword ? ', one is set; empty takes it away' : ', if it is to ask for one'}
          </span>
          <input
            type="password"
            autoComplete="new-password"
            className="field mt-0.5 w-full"
            value={form.password ?? ''}
            placeholder={link?.hasPassword && form.password === null ? 'as it is' : ''}
            onChange={(event) => edit({ password: event.target.value })}
          />
        </label>
      </fieldset>
      {problem && (
        <p role="alert" className="text-error">
          {wrong.length > 0
            ? wrong.map(({ field, was, wants }) => `${field}: ${was}. ${wants}`).join(' ')
            : problem.message}
        </p>
      )}
      {form.destination && opened(form.destination, form.wins) && (
        <p className="text-quiet text-[12.5px]">
          Opened with <code className="value">?utm_source=poster</code> it leads to{' '}
          <code className="value">{opened(form.destination, form.wins)}</code>
        </p>
      )}
      <div className="flex gap-2">
        {mayChange && (
          <button className="button button-strong" disabled={save.isPending}>
            {link ? 'Keep it' : 'Make it'}
          </button>
        )}
        {link && mayChange && (
          <button type="button" className="button" onClick={() => retire.mutate(link.state !== 'retired')}>
            {link.state === 'retired' ? 'Use it again' : 'Retire it'}
          </button>
        )}
        <button type="button" className="button" onClick={() => onDone('')}>
          Close
        </button>
      </div>
    </form>
  );
}

/** Where a short link would lead when somebody opens it with a query of their own; '' where it leads nowhere yet. */
function opened(destination: string, wins: ShortLinkWins): string {
  return URL.canParse(destination) ? openShortLink(destination, 'utm_source=poster', wins) : '';
}

function ShortDetails({ api, link, timeZone }: { api: string; link: ShortLinkView; timeZone: string }) {
  return (
    <section className="sheet p-5" aria-label="For print, and where it led">
      <div className="flex items-start justify-between gap-4">
        <img
          src={`${api}/${link.id}/qr.svg`}
          alt={`QR picture of ${link.url}`}
          width="128"
          height="128"
          className="bg-white p-1"
        />
        <div className="flex min-w-0 flex-col items-end gap-2">
          <code className="value text-right">{link.url}</code>
          <Copy text={link.url} words="Copy" byKey />
          <span className="flex gap-2">
            <a href={`${api}/${link.id}/qr.svg`} className="button" download={`${link.path}.svg`}>
              SVG
            </a>
            <a href={`${api}/${link.id}/qr.png`} className="button" download={`${link.path}.png`}>
              PNG
            </a>
          </span>
        </div>
      </div>
      <h2 className="mt-4 text-base">Where it led</h2>
      <ol className="mt-1">
        {link.history.map(({ since, destination, by }) => (
          <li key={since} className="border-base-300 border-b py-1.5 last:border-0">
            <code className="value text-[12.5px]">{destination}</code>
            <span className="text-quiet block text-[12.5px]">
              since <Time iso={since} timeZone={timeZone} />, by {by}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
