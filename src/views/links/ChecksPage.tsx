import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { readTabbed } from '../../core/grid/cells';
import type { FoundOffer } from '../../core/links/take-over';
import type { PageCheckView, PageChecksView } from '../../core/links/view';
import { counted } from '../../core/strands';
import { Live, pageRead } from '../../ui/live/Live';
import { useDraft } from '../../ui/rule/useDraft';
import { readJson, sendJson } from '../../ui/text/read';
import { Time } from '../../ui/text/Time';
import { Words } from '../../ui/text/Words';
import { LinksFrame } from './LinksFrame';

interface Props {
  business: string;
  initial: PageChecksView;
}

const whileWaiting = 700;

/** Page checks: one address or many, with each redirect on the way and what is wrong there. */
export function ChecksPage(props: Props) {
  return (
    <Live>
      <Checks {...props} />
    </Live>
  );
}

function Checks({ business, initial }: Props) {
  const api = `/api/b/${business}/page-checks`;
  const client = useQueryClient();
  const { data: view } = useQuery({
    queryKey: [api],
    queryFn: () => readJson<PageChecksView>(api),
    initialData: initial,
    refetchInterval: ({ state }) => ((state.data?.waiting ?? 0) > 0 ? whileWaiting : 5000),
    meta: pageRead,
  });
  const [text, setText] = useState('');
  const urls = readTabbed(text).flatMap(([url]) => url || []);
  const ask = useMutation({
    mutationFn: () => sendJson(api, { urls }),
    onSuccess: () => {
      setText('');
      return client.invalidateQueries();
    },
  });
  return (
    <LinksFrame business={business} section="Page checks" sentence={view.sentence}>
      {view.mayChange && (
        <form
          className="sheet flex flex-wrap items-end gap-3 px-5 py-3"
          onSubmit={(event) => {
            event.preventDefault();
            ask.mutate();
          }}
        >
          <label className="min-w-96 flex-1">
            <span className="text-quiet block text-[12.5px]">Links or pages, one a line</span>
            <textarea
              className="field value mt-0.5 h-16 w-full"
              value={text}
              spellCheck={false}
              data-find
              onChange={(event) => setText(event.target.value)}
            />
          </label>
          <button className="button button-strong" disabled={urls.length === 0 || ask.isPending}>
            Check {urls.length > 1 ? counted(urls.length, 'page', 'pages') : 'it'}
          </button>
          {ask.error && (
            <p role="alert" className="text-error basis-full">
              <Words text={ask.error.message} />
            </p>
          )}
        </form>
      )}
      <ol className="sheet mt-4" aria-label="What was found">
        {view.rows.map((row) => (
          <Check key={row.id} business={business} row={row} mayChange={view.mayChange} timeZone={view.timeZone} />
        ))}
        {view.rows.length === 0 && <li className="text-quiet px-5 py-3">Nothing is checked yet.</li>}
      </ol>
    </LinksFrame>
  );
}

function Check({
  business,
  row,
  mayChange,
  timeZone,
}: {
  business: string;
  row: PageCheckView;
  mayChange: boolean;
  timeZone: string;
}) {
  const { url, state, checkedAt, steps, words, snippets, release, found } = row;
  return (
    <li className="border-base-300 grid grid-cols-[1fr_auto] gap-x-6 border-b px-5 py-3 last:border-0">
      <div className="min-w-0">
        <code className="value">{url}</code>
        {state === 'good' && (
          <p className="text-success">
            Sound: it answers, {steps.length > 1 && 'the query survives, '}
            {snippets === 1 && 'the snippet is there once'}
            {release !== null && `, on release ${release}`}.
          </p>
        )}
        {state === 'bad' && (
          <p className="text-error">
            <Words text={words.join(' ')} />
          </p>
        )}
        {steps.length > 1 && (
          <ol className="text-quiet mt-1 text-[12.5px]">
            {steps.map((step, index) => (
              <li key={index}>
                {step.status} <code className="value">{step.url}</code>
                {step.to && ' sends on'}
              </li>
            ))}
          </ol>
        )}
        {found.length > 0 && <Found business={business} found={found} mayChange={mayChange} />}
      </div>
      <span className="text-quiet whitespace-nowrap">
        {checkedAt ? <Time iso={checkedAt} timeZone={timeZone} /> : 'being checked'}
      </span>
    </li>
  );
}

/** What the page does already, each with the rule that does it from now on. */
function Found({ business, found, mayChange }: { business: string; found: FoundOffer[]; mayChange: boolean }) {
  const draft = useDraft(business);
  const kinds = { event: 'an event', fill: 'a fill rule' } as Record<string, string>;
  return (
    <details className="mt-1">
      <summary className="cursor-pointer">
        {counted(found.length, 'thing', 'things')} on the page that no rule does yet
      </summary>
      <ul className="mt-1">
        {found.map(({ words, change }) => (
          <li key={words} className="py-0.5">
            <Words text={words} />{' '}
            {change && mayChange && (
              <button
                type="button"
                className="quiet-link"
                disabled={draft.put.isPending}
                aria-label={`Add ${change.id} to the draft`}
                onClick={() => draft.put.mutate([{ ...change, from: null }])}
              >
                Add {kinds[change.kind]} to the draft
              </button>
            )}
          </li>
        ))}
      </ul>
      {draft.put.error && (
        <p role="alert" className="text-error">
          <Words text={draft.put.error.message} />
        </p>
      )}
    </details>
  );
}
