import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import {
  placeholdersOf,
  readLanding,
  queryOf,
  readLink,
  tagLink,
  checkTags,
  type LinkProblem,
  type TagValue,
} from '../../core/links';
import { fixedTags, mediumOf, ruleOf, sourceRule, valuesBeside, withSource } from '../../core/plan';
import type { MakingView } from '../../core/links/view';
import { useWritten } from '../../ui/form/useWritten';
import { Live } from '../../ui/live/Live';
import { useView } from '../../ui/live/useView';
import { Combobox } from '../../ui/pick/Combobox';
import { sendJson } from '../../ui/text/read';
import { CampaignField, useCrmCampaigns } from './CampaignField';
import { CarryName } from './CarryName';
import { LinksFrame } from './LinksFrame';
import { LinkSheet } from './LinkSheet';
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
  return {
    landing: campaign ? (view.landings[0] ?? '') : '',
    tags: campaign ? withCampaign(view, { utm_campaign: campaign }, known) : {},
    pasted: [],
  };
}

/** What a picked campaign says of the rest of its link: the medium of its type, and the source that mostly comes with that. */
function withCampaign(
  { plan, usual }: MakingView,
  tags: Record<string, string>,
  campaign: { medium: string } | undefined,
): Record<string, string> {
  const medium = tags.utm_medium || campaign?.medium || '';
  const source = tags.utm_source || usual[medium] || '';
  const next = { ...tags, utm_medium: medium };
  return source ? withSource(plan, next, source) : next;
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
  const link = 'problem' in read ? '' : tagLink(read.url, values, plan.names);
  const problems = checkTags(plan, values, 'problem' in read ? [] : queryOf(read.url.href));
  const fromCrm = useCrmCampaigns(business, view.mayChange);
  const known = [
    ...view.campaigns,
    ...fromCrm.campaigns.map(({ name, friendly, crmType }) => ({ name, friendly, medium: mediumOf(plan, crmType) })),
  ];
  const campaigns = known.map(({ name, friendly }) => ({ value: name, label: friendly }));
  const source = sourceRule(plan, tags.utm_source ?? '');
  const fixed = new Map(source ? fixedTags(source) : []);
  const sourceName = ruleOf(plan, 'utm_source')?.values.find(({ value }) => value === source?.source)?.label ?? '';
  const offered = placeholdersOf(plan.platforms).filter(
    ({ platform, isClickId }) => view.platforms.includes(platform) && !isClickId,
  );
  const [use, setUse] = useState<LinkUse>({ usedIn: 'other', place: '', owner: '' });
  const keep = useMutation({
    /** @returns the link, so that another one is not taken for saved */
    mutationFn: () =>
      sendJson(api, { links: [{ landing, tags: Object.fromEntries(values), ...use }] }).then(() => link),
    onSuccess: () => {
      written.saved();
      return client.invalidateQueries();
    },
  });
  const setTag = (tag: string, value: string) => {
    const next = tag === 'utm_source' ? withSource(plan, tags, value) : { ...tags, [tag]: value };
    const campaign = ruleOf(plan, tag)?.named && known.find(({ name }) => name === value);
    setState({ ...state, tags: campaign ? withCampaign(view, next, campaign) : next });
  };
  const clear = () => setState({ landing: '', tags: {}, pasted: [] });

  return (
    <LinksFrame business={business} section="Make one" sentence={view.sentence}>
      <LinkSheet
        business={business}
        landing={landing}
        link={link}
        plan={plan}
        tags={Object.fromEntries(values)}
        problems={problems}
        pasted={state.pasted}
        mayChange={view.mayChange}
        save={keep}
        onClear={clear}
      />

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
              choices={rule.named ? campaigns : valuesBeside(plan, rule, tags)}
              fixedBy={fixed.has(rule.tag) ? sourceName || tags.utm_source! : ''}
              beneath={
                rule.named && (
                  <CampaignField
                    business={business}
                    view={view}
                    fromCrm={fromCrm}
                    value={tags[rule.tag] ?? ''}
                    onChange={(value) => setTag(rule.tag, value)}
                  />
                )
              }
              offered={offered}
              platforms={plan.platforms}
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
