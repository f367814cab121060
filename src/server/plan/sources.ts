import { linkPlan } from '../../core/links';
import { countByMeaning, ruleOf, sourceRule } from '../../core/plan';
import type { SourceEffectView, SourcesView } from '../../core/plan/view';
import { applyChanges, type RuleChange } from '../../core/rules';
import { counted, type Sentence } from '../../core/strands';
import type { Context } from '../context';
import { linksOfSource } from '../links/queries';
import type { Membership } from '../people/people';
import type { PlanService } from './plan';
import { readCampaignNames } from './queries';

/** Which media a source goes with, and what partners prescribe, held against the links there are. */
export function makeSources({ db }: Context, plans: PlanService) {
  return {
    async view(membership: Membership): Promise<SourcesView> {
      const state = await plans.stateOf(membership.business.id);
      const { plan } = state.draft;
      const arrivals = countByMeaning(plan, 'utm_source', state.arrived);
      const planned = ruleOf(plan, 'utm_source')?.values ?? [];
      const rows = planned.map(({ value, label }) => ({ source: value, label, arrivals: arrivals.get(value) ?? 0 }));
      const free = rows.filter(({ source }) => !sourceRule(plan, source));
      return { ...plans.base(membership, sourcesSentence(rows.length, free), state), rows };
    },

    /** How the links that name the first changed source fit its rule as it would be; nothing is stored. */
    async effect({ business }: Membership, changes: RuleChange[]): Promise<SourceEffectView> {
      const [state, campaigns] = await Promise.all([plans.stateOf(business.id), readCampaignNames(db, business.id)]);
      const source = changes.find(({ kind }) => kind === 'source')?.id ?? '';
      return linksOfSource(db, business.id, linkPlan(applyChanges(state.draft, changes), campaigns), source);
    },
  };
}

function sourcesSentence(planned: number, free: SourcesView['rows']): Sentence {
  if (planned === 0)
    return {
      title: 'No source is planned yet.',
      under: 'List the sources you use at the tag Source; each then says which media it goes with.',
    };
  if (free.length === 0)
    return {
      title: `${planned === 1 ? 'The one source says' : `All ${planned} sources say`} which media they go with.`,
      under: 'A link that names another medium is off plan, and the right one is offered while it is made.',
    };
  const busiest = free.toSorted((a, b) => b.arrivals - a.arrivals)[0]!;
  return {
    title: `${counted(free.length, 'source goes', 'sources go')} with any medium.`,
    under: `Say which media ${busiest.label || busiest.source} goes with: a link with another one is then off plan.`,
  };
}
