import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import {
  placeholders,
  placeholdersIn,
  previewValue,
  readLanding,
  readLink,
  tagLink,
  checkTags,
  type LinkProblem,
  type TagValue,
} from '../../core/links';
import type { MakingView } from '../../core/links/view';
import { useWritten } from '../../ui/form/useWritten';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Combobox } from '../../ui/pick/Combobox';
import { Copy } from '../../ui/text/Copy';
import { sendJson } from '../../ui/text/read';
import { Words } from '../../ui/text/Words';
import { CarryName } from './CarryName';
import { FinishedLink } from './FinishedLink';
import { LinksFrame } from './LinksFrame';
import { TagField } from './TagField';
import { TagSets } from './TagSets';
import { underline } from './underlines';
import { WhereUsed, type LinkUse } from './WhereUsed';

interface Props {
  business: string;
  initial: MakingView;
  search: string;
}

/** Makes one link on one screen: the finished link above, its parts picked beneath. Any link can be pasted to be read. */
export function BuilderPage(props: Props) {
  return (
    <Live>
      <Builder {...props} />
    </Live>
  );
}

interface State {
  landing: string;
  tags: Record<string, string>;
  /** What was wrong with the link that was pasted, apart from its tags. */
  pasted: LinkProblem[];
}

/**
 * What the screen begins with: the link in the address, or a campaign of the register with its medium and the source
 * that mostly comes with it.
 */
function begin(view: MakingView, query: URLSearchParams): State {
  const read = readLink(query.get('link') ?? '', view.plan);
  if (read) return { landing: read.landing, tags: Object.fromEntries(read.tags), pasted: [] };
  const campaign = query.get('campaign') ?? '';
  const known = view.campaigns.find(({ name }) => name === campaign);
  const medium = known?.medium ?? '';
  const source = view.usual[medium] ?? '';
  return {
    landing: campaign ? (view.landings[0] ?? '') : '',
    tags: campaign ? { utm_campaign: campaign, utm_medium: medium, utm_source: source } : {},
    pasted: [],
  };
}

function Builder({ business, initial, search }: Props) {
  const api = `/api/b/${business}/links`;
  const client = useQueryClient();
  const view = useView(`${api}/making`, initial);
  const { plan } = view;
  const written = useWritten<State>(
    `${business} link ${search}`,
    begin(initial, new URLSearchParams(search)),
    (one) => one.landing === '' && Object.values(one.tags).every((value) => value === ''),
  );
  const state = written.value;
  const setState = written.set;
  const { landing, tags } = state;

  /** Takes a page or a whole link that was pasted: its tags go into their fields. */
  const take = (text: string) => {
    const read = /[?#&]/.test(text) ? readLink(text, plan) : null;
    if (!read) return setState({ ...state, landing: text, pasted: [] });
    const tagNames = new Set(plan.tags.map(({ tag }) => tag));
    const own = read.problems.filter(
      ({ tag, code }) => !tagNames.has(tag) || ['doubled', 'after_hash', 'encoding'].includes(code),
    );
    const found = Object.fromEntries(read.tags);
    setState({ landing: read.landing, tags: read.tags.length > 0 ? found : tags, pasted: own });
  };

  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      if (/^(INPUT|TEXTAREA|SELECT)$/.test((event.target as HTMLElement).tagName)) return;
      const text = event.clipboardData?.getData('text/plain').trim() ?? '';
      if (text === '' || 'problem' in readLanding(text)) return;
      event.preventDefault();
      take(text);
    };
    addEventListener('paste', onPaste);
    return () => removeEventListener('paste', onPaste);
  });

  const read = readLanding(landing);
  const values = plan.tags.flatMap(({ tag }): TagValue[] => (tags[tag] ? [[tag, tags[tag]]] : []));
  const link = 'problem' in read ? '' : tagLink(read.url, values);
  const problems = checkTags(plan, values);
  const filled = values.some(([, value]) => placeholdersIn(value).length > 0);
  const offered = placeholders.filter(({ platform, isClickId }) => view.platforms.includes(platform) && !isClickId);
  const [use, setUse] = useState<LinkUse>({ usedIn: 'other', place: '', owner: '' });
  const keep = useMutation({
    mutationFn: () => sendJson(api, { links: [{ landing, tags: Object.fromEntries(values), ...use }] }),
    onSuccess: () => {
      written.saved();
      return client.invalidateQueries();
    },
  });
  const setTag = (tag: string, value: string) => {
    setState({ ...state, tags: { ...tags, [tag]: value } });
    keep.reset();
  };
  const clear = () => {
    setState({ landing: '', tags: {}, pasted: [] });
    keep.reset();
  };
  const good = link !== '' && problems.length === 0;

  return (
    <LinksFrame business={business} section="Make one" sentence={view.sentence}>
      <section className="sheet min-h-32 px-6 py-5" aria-label="The link">
        {link ? (
          <div className="grid grid-cols-[1fr_auto] items-start gap-6">
            <div className="min-w-0">
              <FinishedLink link={link} plan={plan} tags={Object.fromEntries(values)} />
              {filled && (
                <p className="text-quiet mt-2">
                  After a click, for example: <code className="value">{previewValue(link)}</code>
                </p>
              )}
            </div>
            <div className="flex flex-col items-end gap-2">
              <Copy key={link} text={link} words="Copy" byKey />
              {view.mayChange && (
                <button
                  type="button"
                  className="button"
                  disabled={keep.isPending || keep.isSuccess}
                  onClick={() => keep.mutate()}
                >
                  {keep.isSuccess ? 'Saved' : 'Save link'}
                </button>
              )}
              <button type="button" className="quiet-link cursor-pointer" onClick={clear}>
                Clear
              </button>
            </div>
          </div>
        ) : (
          <p className="text-quiet text-[19px]">
            {landing === '' || !('problem' in read)
              ? 'The link appears here as soon as it has a page.'
              : `The page: ${read.problem.was}. ${read.problem.wants}`}
          </p>
        )}
        <p className="mt-2 text-[13px]" role="status">
          {keep.error && <span className="text-error">{keep.error.message}</span>}
          {!keep.error && link && (
            <span className={good ? 'text-success' : 'text-error'}>
              {good
                ? `On plan. ${link.length} characters.`
                : `${problems.length === 1 ? 'One thing is' : `${problems.length} things are`} wrong with its tags.`}
            </span>
          )}
        </p>
        {state.pasted.map(({ words, code }) => (
          <p key={words + code} role="alert" className="text-error mt-1">
            What you pasted: <Words text={words} />
          </p>
        ))}
      </section>

      <div className="mt-4 grid grid-cols-1 items-start gap-4 xl:grid-cols-[1fr_330px]">
        <section className="sheet px-6 py-3" aria-label="Its parts">
          <div className="border-base-300 grid grid-cols-[150px_1fr] items-baseline gap-3 border-b py-2">
            <label htmlFor="landing" className={`font-semibold ${underline(0)}`}>
              Landing page
            </label>
            <div>
              <Combobox
                id="landing"
                label="Landing page"
                isFound
                value={landing}
                choices={view.landings.map((value) => ({ value }))}
                placeholder="paste a page, or any link"
                onChange={(text) => setState({ ...state, landing: text, pasted: [] })}
                onPaste={take}
              />
            </div>
          </div>
          {plan.tags.map((rule, index) => (
            <TagField
              key={rule.tag}
              rule={rule}
              index={index + 1}
              value={tags[rule.tag] ?? ''}
              suggestions={
                rule.named ? view.campaigns.map(({ name, friendly }) => ({ value: name, label: friendly })) : []
              }
              offered={offered}
              problems={problems.filter(({ tag, code }) => tag === rule.tag && (code !== 'missing' || link !== ''))}
              onChange={(value) => setTag(rule.tag, value)}
            />
          ))}
        </section>
        <div className="flex flex-col gap-4">
          <TagSets
            business={business}
            view={view}
            tags={Object.fromEntries(values)}
            onUse={(set) => setState({ ...state, tags: { ...tags, ...firstOf(set.tags) } })}
          />
          {view.mayChange && <WhereUsed use={use} onUse={setUse} />}
          <CarryName
            business={business}
            view={view}
            landing={landing}
            onLanding={(text) => setState({ ...state, landing: text })}
          />
        </div>
      </div>
    </LinksFrame>
  );
}

/** The first value of each tag of a set: one link is made here, all of them under Make many. */
const firstOf = (tags: Record<string, string[]>): Record<string, string> =>
  Object.fromEntries(Object.entries(tags).flatMap(([tag, values]) => (values[0] ? [[tag, values[0]]] : [])));
