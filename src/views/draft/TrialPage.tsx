import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { TrialPage as Opened } from '../../core/capture/trial';
import type { TrialView } from '../../core/capture/trial-view';
import { StationFrame } from '../../ui/frame/StationFrame';
import { Problem } from '../../ui/form/Problem';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Combobox } from '../../ui/pick/Combobox';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';

interface Props {
  business: string;
  initial: TrialView;
}

const readAgainAfter = 1500;

/** Rules that are not live yet, tried in one's own browser: the links that begin it, and what it keeps and fills. */
export function TrialPage(props: Props) {
  return (
    <Live>
      <Trial {...props} />
    </Live>
  );
}

function Trial({ business, initial }: Props) {
  const api = `/api/b/${business}/capture/trial`;
  const client = useQueryClient();
  const view = useView(api, initial, readAgainAfter);
  const { trial } = view;
  const onSuccess = () => client.invalidateQueries();
  const begin = useMutation({ mutationFn: (rules: 'draft' | 'live') => sendJson(api, { rules }), onSuccess });
  const end = useMutation({ mutationFn: () => sendJson(`${api}/end`, {}), onSuccess });
  return (
    <StationFrame
      sentence={view.sentence}
      actions={
        <div className="flex gap-2">
          {trial && (
            <button type="button" className="button" disabled={end.isPending} onClick={() => end.mutate()}>
              End the trial
            </button>
          )}
          <a className="button" href={`/b/${business}/not-live`}>
            What is not live
          </a>
        </div>
      }
    >
      <Problem text={(begin.error ?? end.error)?.message} />
      {!trial && (
        <div className="mt-4">
          {end.isSuccess && (
            <p className="mb-3" role="status">
              The trial has ended. Open any page of the website once more in the tab you used: it gets back what it
              kept.
            </p>
          )}
          {view.mayChange ? (
            <span className="flex flex-wrap gap-2">
              <button
                type="button"
                className="button button-strong"
                disabled={begin.isPending}
                onClick={() => begin.mutate('draft')}
              >
                See through by the draft
              </button>
              <button type="button" className="button" disabled={begin.isPending} onClick={() => begin.mutate('live')}>
                See through by what is live
              </button>
            </span>
          ) : (
            <p className="text-quiet">Somebody who may edit can begin a trial.</p>
          )}
        </div>
      )}
      {trial && (
        <div className="mt-4 grid grid-cols-1 items-start gap-4 lg:grid-cols-[1fr_330px]">
          <div className="flex min-w-0 flex-col gap-4">
            <Links trial={trial} />
            {trial.pages.map((page) => (
              <OpenedPage key={`${page.at} ${page.address}`} page={page} timeZone={view.timeZone} />
            ))}
          </div>
          <aside className="sheet p-5" aria-label="A page without the snippet">
            <h2 className="text-base">A page without the snippet</h2>
            <p className="text-quiet mt-1">
              Save this as a bookmark, open the page, and press it. It works for that page alone, and not where its
              content policy stops scripts from elsewhere.
            </p>
            <code className="value mt-2 block text-[12px] [overflow-wrap:anywhere]">{trial.bookmarklet}</code>
            <div className="mt-2 flex">
              <Copy text={trial.bookmarklet} words="Copy bookmark" />
            </div>
            <p className="text-quiet mt-4">
              The trial ends by itself at <Time iso={trial.endsAt} timeZone={view.timeZone} />. Nothing of it is counted
              or kept.
            </p>
          </aside>
        </div>
      )}
    </StationFrame>
  );
}

/** Where a trial begins: a page of the website with made-up values. */
function Links({ trial }: { trial: NonNullable<TrialView['trial']> }) {
  const { links } = trial;
  const [page, setPage] = useState(links[0]?.page ?? '');
  const link = links.find((one) => one.page === page)?.link ?? withPage(links[0]?.link ?? '', page);
  return (
    <section className="sheet p-5" aria-label="Begin here">
      <label className="block">
        <span className="text-quiet block text-[12.5px]">The page to begin at</span>
        <Combobox
          label="The page to begin at"
          value={page}
          choices={links.map((one) => ({ value: one.page }))}
          onChange={setPage}
        />
      </label>
      {link ? (
        <div className="mt-3 flex items-start justify-between gap-4">
          <code className="value min-w-0 text-[13px] [overflow-wrap:anywhere]">{link}</code>
          <span className="flex shrink-0 gap-2">
            <Copy key={link} text={link} words="Copy" byKey />
            <a className="button button-strong" href={link} target="_blank" rel="noreferrer">
              Open it
            </a>
          </span>
        </div>
      ) : (
        <p className="text-quiet mt-2">Give the address of a page, such as https://larkmoor.example/fleet.</p>
      )}
      <p className="text-quiet mt-2 text-[13px]">
        Its values are made up. The tab you open works by {trial.rules === 'draft' ? 'the draft' : 'what is live'} and
        shows what Avrix sees and does, from page to page, until the trial ends.
      </p>
    </section>
  );
}

/** The same values on another page; '' where it is none. */
function withPage(link: string, page: string): string {
  if (link === '' || !/^https?:\/\//.test(page) || !URL.canParse(page)) return '';
  const [url, values] = [new URL(page), new URL(link).search.slice(1)];
  url.search = url.search ? `${url.search}&${values}` : values;
  return url.href;
}

const stateWords: Record<string, string> = {
  filled: '',
  had_value: 'left as it was: it had a value',
  no_value: 'empty: nothing to read',
  not_found: 'no such field',
};

function OpenedPage({ page: { at, address, kept, forms }, timeZone }: { page: Opened; timeZone: string }) {
  const url = new URL(address);
  return (
    <section className="sheet p-5" aria-label={url.pathname}>
      <h2 className="text-base">
        <code className="value">{url.host + url.pathname}</code>{' '}
        <span className="text-quiet text-[13px] font-normal">
          <Time iso={new Date(at).toISOString()} timeZone={timeZone} />
        </span>
      </h2>
      <Values
        label="Kept"
        none="It keeps nothing."
        rows={kept.map(({ words, value }) => ({ name: words, value, note: '' }))}
      />
      {forms.map(({ form, isSent, fields }, index) => (
        <Values
          key={`${form} ${index}`}
          label={`Form ${form}${isSent ? ', sent' : ''}`}
          none="No rule is for this form."
          isValue
          rows={fields.map(({ field, near, state, value }) => ({
            name: field,
            value,
            note: state === 'near' ? `no such field; there is ${near}` : (stateWords[state] ?? ''),
          }))}
        />
      ))}
    </section>
  );
}

function Values({
  label,
  none,
  rows,
  isValue = false,
}: {
  label: string;
  none: string;
  rows: { name: string; value: string; note: string }[];
  isValue?: boolean;
}) {
  return (
    <div className="mt-3">
      <h3 className="text-quiet text-[13px]">{label}</h3>
      {rows.length === 0 && <p className="text-quiet">{none}</p>}
      <dl className="grid grid-cols-[minmax(0,220px)_1fr] gap-x-4">
        {rows.map(({ name, value, note }) => (
          <div key={name} className="border-base-300 contents">
            <dt className={`py-1 ${isValue ? 'value' : ''}`}>{name}</dt>
            <dd className="py-1">
              {value && <code className="value [overflow-wrap:anywhere]">{value}</code>}
              {note && <span className="text-error"> {note}</span>}
            </dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
