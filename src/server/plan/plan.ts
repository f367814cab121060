import type { LinkContract } from '../../core/platforms/contract';
import { linksOf } from '../../core/platforms/links';
import {
  comparePlans,
  countByMeaning,
  findOffPlan,
  problemWords,
  ruleOf,
  withCampaigns,
  type ArrivedValue,
  type Plan,
  type PlannedValue,
} from '../../core/plan';
import type { OffPlanListQuery } from '../../core/plan/list-schema';
import type { EffectView, OffPlanView, PlanBase, TagsView, ValueEffect } from '../../core/plan/view';
import { mayChange } from '../../core/people/rights';
import type { ReleaseContent } from '../../core/releases';
import { applyChanges, type RuleChange } from '../../core/rules';
import { counted, type Sentence } from '../../core/strands';
import { nowMs } from '../clock';
import type { Context } from '../context';
import { makeLastKnown } from '../last-known';
import { pageSize } from '../lists';
import type { Membership } from '../people/people';
import type { Draft } from '../releases/draft';
import { addUsualOrigin, firstRecorded, readArrivedCounts, readCampaignNames } from './queries';
import { linkPlan } from '../../core/links';
import { linksOffPlan, linksWithOldNames } from '../links/queries';
import { quoteValue } from '../../core/quote-value';

export const weeks = 13;
const firstFew = 5;
const countedAnewAfter = 30_000;

/** The first day, such as `2027-02-15`, of the weeks that arrivals are looked at. */
export const observationStartDay = (): string => new Date(nowMs() - weeks * 7 * 86_400_000).toISOString().slice(0, 10);
/** When that day begins, where no business's time zone is at hand. */
export const observationStart = (): Date => new Date(`${observationStartDay()}T00:00:00Z`);

export type PlanService = ReturnType<typeof makePlan>;

/** The station Plan: its rules as the draft has them, held against what arrived. */
export function makePlan({ db }: Context, draft: Draft) {
  const base = ({ business, role }: Membership, sentence: Sentence, state: PlanState): PlanBase => ({
    sentence,
    plan: state.draft.plan,
    changed: state.changed,
    offPlan: state.offLive.length,
    weeks,
    mayChange: mayChange(role),
    timeZone: business.timeZone,
  });

  interface PlanState {
    live: ReleaseContent;
    draft: ReleaseContent;
    /** The draft's plan with the register's campaigns: what arrivals are held against. */
    held: Plan;
    campaigns: PlannedValue[];
    changed: PlanBase['changed'];
    /** Whose placeholders are known. */
    platforms: LinkContract[];
    arrived: ArrivedValue[];
    offLive: ReturnType<typeof findOffPlan>;
  }

  async function stateOf(businessId: string): Promise<PlanState> {
    const [{ live, draft: edited, changed }, arrived, campaigns] = await Promise.all([
      draft.content(businessId),
      readArrivedCounts(db, businessId, observationStartDay()),
      readCampaignNames(db, businessId),
    ]);
    const held = withCampaigns(edited.plan, campaigns);
    const platforms = linksOf(live.platforms);
    const offLive = findOffPlan(withCampaigns(live.plan, campaigns), arrived, platforms);
    return { live, draft: edited, held, campaigns, changed, platforms, arrived, offLive };
  }

  const effectOf = (
    values: { tag: string; value: string; arrivals: number; nearest: string | null }[],
  ): ValueEffect => ({
    values: values.length,
    arrivals: values.reduce((sum, { arrivals }) => sum + arrivals, 0),
    first: values.slice(0, firstFew).map(({ tag, value, arrivals, nearest }) => ({ tag, value, arrivals, nearest })),
  });

  const offPlanCount = makeLastKnown(
    async (businessId) => (await stateOf(businessId)).offLive.length,
    countedAnewAfter,
  );

  return {
    base,
    stateOf,

    /** Values off plan by the live rules, counted anew every half a minute at most: every page shows it. */
    offPlanCount: (businessId: string): Promise<number> => offPlanCount.get(businessId),

    /** The rules of the tags. */
    async tags(membership: Membership): Promise<TagsView> {
      const state = await stateOf(membership.business.id);
      const { plan } = state.draft;
      const off = findOffPlan(state.held, state.arrived, state.platforms);
      const counts = Object.fromEntries(
        plan.tags.map(({ tag }) => [tag, Object.fromEntries(countByMeaning(plan, tag, state.arrived))]),
      );
      const { tagCarry } = state.draft.capture;
      const oldNames = await linksWithOldNames(db, membership.business.id, linkPlan(state.draft, []));
      return {
        tagCarry,
        oldNames,
        ...base(membership, tagsSentence(state.live.plan, state.offLive, state.arrived), state),
        tags: plan.tags.map((rule) => {
          const own = state.arrived.filter(({ tag }) => tag === rule.tag);
          return {
            rule,
            values: own.length,
            arrivals: own.reduce((sum, { arrivals }) => sum + arrivals, 0),
            offPlan: off.filter(({ tag }) => tag === rule.tag).length,
          };
        }),
        counts,
        outcomes: state.live.outcomes.map(({ code }) => code),
      };
    },

    /** What changes of rules would do to the recorded traffic and to the links there are; nothing is stored. */
    async effect({ business }: Membership, changes: RuleChange[]): Promise<EffectView> {
      const state = await stateOf(business.id);
      // What a rule takes in is judged by the rule alone: a campaign of the register would fit any.
      const changed = applyChanges(state.draft, changes);
      const after = changed.plan;
      const { off, noLongerFits, takenIn } = comparePlans(state.live.plan, after, state.arrived, state.platforms);
      const named = new Set(
        changes.flatMap(({ kind, id }) =>
          kind === 'tag'
            ? [id]
            : kind === 'naming'
              ? after.tags.filter((rule) => rule.named).map(({ tag }) => tag)
              : [],
        ),
      );
      const own = named.size > 0 ? off.filter(({ tag }) => named.has(tag)) : off;
      const [links, since] = await Promise.all([
        linksOffPlan(db, business.id, linkPlan(state.live, []), linkPlan(changed, [])),
        firstRecorded(db, business.id),
      ]);
      return {
        off: effectOf(own),
        noLongerFits: effectOf(noLongerFits),
        takenIn: effectOf(takenIn),
        links,
        recordedSince: since?.toISOString() ?? null,
      };
    },

    /** Values that arrived although the plan does not know them, by the draft's rules, found and sorted, a page of them. */
    async offPlan(membership: Membership, { find, sort, descending, page }: OffPlanListQuery): Promise<OffPlanView> {
      const { business } = membership;
      const state = await stateOf(business.id);
      const { held: plan } = state;
      const off = findOffPlan(plan, state.arrived, state.platforms);
      const found = off.filter(({ value, tag }) => `${tag} ${value}`.toLowerCase().includes(find.toLowerCase()));
      found.sort((a, b) => (descending === 'yes' ? -1 : 1) * compareBy(sort, a, b));
      const shown = found.slice((page - 1) * pageSize, page * pageSize);
      const rows = await addUsualOrigin(db, business.id, observationStartDay(), shown);
      return {
        ...base(membership, offPlanSentence(off), state),
        total: found.length,
        pageSize,
        campaigns: state.campaigns.map(({ value }) => value),
        rows: rows.map((row) => ({
          ...row,
          problems: row.problems.map((problem) => problemWords(problem, ruleOf(plan, row.tag)!)),
        })),
      };
    },
  };
}

const arrivalsOf = (values: ArrivedValue[]) => values.reduce((sum, { arrivals }) => sum + arrivals, 0);

function tagsSentence(plan: Plan, off: ReturnType<typeof findOffPlan>, arrived: ArrivedValue[]): Sentence {
  const agreed = plan.tags.filter((rule) => rule.values.length > 0 || rule.named || rule.pattern).length;
  if (agreed === 0)
    return {
      title: 'No names are agreed yet.',
      under: 'List the sources and media you use, or take in those that arrive; links are then made of them alone.',
    };
  const rules = counted(plan.tags.length, 'tag is', 'tags are');
  if (arrived.length === 0)
    return { title: `${rules} planned; no tagged visit has arrived yet.`, under: 'Make the first link from the plan.' };
  if (off.length === 0)
    return {
      title: `${rules} planned, and everything that arrives fits.`,
      under: `${counted(arrived.length, 'value', 'values')} in ${weeks} weeks, all of them known.`,
    };
  const worst = off[0]!;
  return {
    title: `${rules} planned; ${counted(off.length, 'value arrives', 'values arrive')} that the plan does not know.`,
    under: `${quoteValue(worst.value)} as ${ruleOf(plan, worst.tag)!.name.toLowerCase()} came ${counted(worst.arrivals, 'time', 'times')} in ${weeks} weeks${
      worst.nearest ? `; it should have been ${quoteValue(worst.nearest)}` : ''
    }.`,
  };
}

function compareBy(sort: OffPlanListQuery['sort'], a: ArrivedValue, b: ArrivedValue): number {
  return sort === 'value' ? a.value.localeCompare(b.value, 'en') : a[sort] - b[sort];
}

function offPlanSentence(off: ReturnType<typeof findOffPlan>): Sentence {
  if (off.length === 0)
    return { title: 'Everything that arrives is on plan.', under: `Nothing else came in ${weeks} weeks.` };
  const near = off.filter(({ nearest }) => nearest !== null);
  return {
    title: `${counted(arrivalsOf(off), 'arrival', 'arrivals')} in ${weeks} weeks carried ${counted(off.length, 'value', 'values')} off plan.`,
    under:
      near.length > 0
        ? `${counted(near.length, 'is a spelling', 'are spellings')} of a planned value; an alias makes them count as one, the value that came is kept.`
        : 'None is near a planned value: take it into the plan or leave it.',
  };
}
