import { Op } from 'sequelize';
import {
  countOutcome,
  dedupeKey,
  filedHappening,
  noStages,
  type Counted,
  type Happening,
  type OutcomeRule,
} from '../../core/outcomes';
import type { OutcomeEffectView } from '../../core/outcomes/view';
import { wouldTell } from '../../core/outcomes/would-tell';
import { contractOf } from '../../core/platforms';
import { platformName } from '../../core/platforms/links';
import type { ReleaseContent } from '../../core/releases';
import type { Connections } from '../connections/connections';
import type { Context } from '../context';
import { pick, plain, selectRows, uuid } from '../db';
import { hiddenName } from '../leads/called';
import { happeningsOf, readDeals, readPersonOf } from '../leads/deals-of';
import { orderHappenings } from '../orders/follow';
import { makeWebsiteEffect } from './effect-website';
import type { Membership } from '../people/people';
import { observationStart, weeks } from '../plan/plan';
import type { Draft } from '../releases/draft';
import { moneyWords } from '../strands/trace-events';
import { subscriptionHappenings } from '../subscriptions/follow';
import { subscriptions } from '../subscriptions/table';
import { readNotices } from './notices/posted';

/** Records, orders and subscriptions that an effect is worked out from, the newest first; more are not read. */
const mostSubjects = 20_000;
const newestFew = 5;

/** An enquiry, order or subscription with what happened to it. */
interface Subject {
  id: string;
  words: string;
  isPerson: boolean;
  href: string;
  strands: string[];
  happenings: Happening[];
}

/** What a rule counts of some subjects, each once by its key, the newest first. */
function countAll(subjects: Subject[], rule: OutcomeRule, stages: typeof noStages) {
  const found = new Map<string, { subject: Subject; counted: Counted }>();
  for (const subject of subjects)
    for (const happening of subject.happenings) {
      const one = countOutcome(happening, rule, stages);
      const key = dedupeKey(happening, rule);
      if (!one || key === null || found.has(key)) continue;
      found.set(key, { subject, counted: one });
    }
  return [...found.values()].sort((a, b) => b.counted.at - a.counted.at);
}

/** What outcomes would have counted of what is recorded. */
export function makeOutcomeEffect(context: Context, draft: Draft, connections: Pick<Connections, 'names'>) {
  const { db, tables } = context;
  const ofWebsite = makeWebsiteEffect(context);

  /** By what reaches an outcome, what it may be reached by. */
  const readSubjects: Record<
    OutcomeRule['reachedBy']['kind'],
    (businessId: string, edited: ReleaseContent, by: OutcomeRule['reachedBy']) => Promise<Subject[]>
  > = {
    stage: readEnquiries,
    field: readEnquiries,
    event: readWebsite,
    page: readWebsite,
    file: readFiled,
    order: readOrders,
    postback: async (businessId) => (await Promise.all([readOrders(businessId), readSubscriptions(businessId)])).flat(),
  };

  /** What an outcome as it is written would have counted of what happened in the last weeks. */
  return async function effect(membership: Membership, rule: OutcomeRule): Promise<OutcomeEffectView> {
    const { business, role } = membership;
    const { live, draft: edited } = await draft.content(business.id);
    const subjects = await readSubjects[rule.reachedBy.kind](business.id, edited, rule.reachedBy);
    const before = live.outcomes.find(({ code }) => code === rule.code);
    const stages = (content: ReleaseContent) => content.crm?.stages ?? noStages;
    const written = countAll(subjects, rule, stages(edited));
    const sums = new Map<string, number>();
    for (const { counted: one } of written)
      if (one.worth) sums.set(one.worth.currency, (sums.get(one.worth.currency) ?? 0) + one.worth.minor);
    const [clicksOf, accounts] = await Promise.all([
      readClicks(
        business.id,
        written.flatMap(({ subject }) => subject.strands),
      ),
      connections.names(business.id),
    ]);
    const amounts = (sums: Map<string, number>) =>
      role.seesMoney ? [...sums].map(([currency, minor]) => moneyWords({ minor, currency })) : null;
    const withClicks = written.map(({ subject, counted: one }) => ({
      at: one.at,
      worth: one.worth,
      clicks: subject.strands.flatMap((id) => clicksOf.get(id) ?? []),
    }));
    const clicks = new Map<string, number>();
    for (const one of withClicks)
      for (const platform of new Set(one.clicks.map((click) => click.platform)))
        clicks.set(platform, (clicks.get(platform) ?? 0) + 1);
    return {
      weeks,
      live: before ? countAll(subjects, before, stages(live)).length : 0,
      written: written.length,
      of: subjects.length,
      worth: amounts(sums),
      told: edited.telling
        .filter(({ outcome, how }) => outcome === rule.code && how === 'told')
        .map(({ account, platform, percent }) => {
          const own = contractOf(platform, edited.platforms)?.limits.clickDays ?? rule.clickDays;
          const limitDays = Math.min(own, rule.clickDays);
          const { sums: told, ...times } = wouldTell(withClicks, { platform, percent, limitDays });
          const name = accounts.find(({ key }) => key === account)?.name ?? platformName(platform, edited.platforms);
          return { account, name, limitDays, ...times, worth: amounts(told) };
        }),
      withoutAmount: rule.worth.kind === 'none' ? 0 : written.filter((one) => one.counted.worth === null).length,
      newest: written.slice(0, newestFew).map(({ subject, counted: one }) => ({
        id: subject.id,
        words: subject.isPerson && !role.seesPeople ? hiddenName : subject.words,
        href: subject.href,
        at: new Date(one.at).toISOString(),
        worth: one.worth && role.seesMoney ? moneyWords(one.worth) : '',
      })),
      clicks: [...clicks].map(([platform, times]) => ({
        platform,
        words: platformName(platform, edited.platforms),
        count: times,
      })),
    };
  };

  async function readEnquiries(businessId: string, edited: ReleaseContent): Promise<Subject[]> {
    const rows = await selectRows(
      db,
      {
        id: uuid(),
        strandId: uuid().nullable().of('enquiries.strand_id'),
      },
      `FROM enquiries WHERE business_id = ? AND sent_at >= ? AND deal_id IS NOT NULL AND marked = ''
       ORDER BY sent_at DESC LIMIT ${mostSubjects}`,
      [businessId, observationStart()],
    );
    const ids = rows.map(({ id }) => id);
    const deals = await readDeals(context, businessId, ids, edited);
    const leadIds = [...deals.values()].flatMap((own) => own.map(({ leadId }) => leadId));
    const personOf = await readPersonOf(context, businessId, leadIds);
    return rows.flatMap((row): Subject[] => {
      const own = deals.get(row.id) ?? [];
      const [furthest] = own;
      if (!furthest) return [];
      const { company, personName } = furthest.record;
      return [
        {
          id: row.id,
          words: company || personName || `record ${furthest.number}`,
          isPerson: true,
          href: `/leads/${row.id}`,
          strands: row.strandId ? [row.strandId] : [],
          happenings: happeningsOf(businessId, row.id, own, edited, personOf),
        },
      ];
    });
  }

  async function readWebsite(businessId: string, edited: ReleaseContent, by: OutcomeRule['reachedBy']) {
    const found = await ofWebsite(businessId, by, edited);
    return found.map(({ id, words, strands, happening }): Subject => ({
      id,
      words,
      isPerson: false,
      href: strands[0] ? `/strands/${strands[0]}` : '',
      strands,
      happenings: [happening],
    }));
  }

  /** Rows of files that were taken. */
  async function readFiled(businessId: string): Promise<Subject[]> {
    const rows = plain(
      await tables.conversions.findAll({
        where: { businessId, kind: 'file', at: { [Op.gte]: observationStart() } },
        order: [['at', 'DESC']],
        limit: mostSubjects,
      }),
    );
    return rows.map((row) => ({
      id: row.id,
      words: row.orderId ? `order ${row.orderId}` : row.name,
      isPerson: false,
      href: `/strands/${row.strands[0]}?way=conversion`,
      strands: row.strands,
      happenings: [filedHappening(row, row.at.getTime(), row.at.getTime())],
    }));
  }

  async function readOrders(businessId: string): Promise<Subject[]> {
    const rows = plain(
      await tables.orders.findAll({
        where: { businessId, marked: '' },
        order: [['at', 'DESC']],
        limit: mostSubjects,
      }),
    );
    const lately = rows.filter(({ at }) => at >= observationStart());
    const posted = await readNotices(
      context,
      businessId,
      'order',
      lately.map(({ number }) => number),
    );
    return lately.map((order) => ({
      id: order.id,
      words: `order ${order.number}`,
      isPerson: false,
      href: order.strands[0] ? `/strands/${order.strands[0]}?way=order` : '',
      strands: order.strands,
      happenings: orderHappenings(order, posted.get(order.number) ?? []).happenings,
    }));
  }

  /** Subscriptions of which something was posted lately, with what happened lately. */
  async function readSubscriptions(businessId: string): Promise<Subject[]> {
    const start = observationStart();
    const rows = await selectRows(
      db,
      pick(subscriptions, ['id', 'number', 'strands'], 'u'),
      `FROM subscriptions u WHERE u.business_id = ? AND u.number <> '' AND u.marked = ''
         AND EXISTS (SELECT 1 FROM notices n WHERE n.business_id = u.business_id AND n.about_kind = 'subscription'
           AND n.about_number = u.number AND n.happened_at >= ?)
       ORDER BY u.first_at DESC LIMIT ${mostSubjects}`,
      [businessId, start],
    );
    const numbers = rows.map(({ number }) => number);
    const posted = await readNotices(context, businessId, 'subscription', numbers);
    return rows.map(({ id, number, strands }) => ({
      id,
      words: `subscription ${number}`,
      isPerson: false,
      href: strands[0] ? `/strands/${strands[0]}?way=subscription` : '',
      strands,
      happenings: subscriptionHappenings({ id, number }, posted.get(number) ?? []).happenings.filter(
        ({ at }) => at >= start.getTime(),
      ),
    }));
  }

  /** The platform and the time (ms) of each strand that is a click. */
  async function readClicks(businessId: string, ids: string[]): Promise<Map<string, { platform: string; at: number }>> {
    if (ids.length === 0) return new Map();
    const rows = await tables.strands.findAll({
      attributes: ['id', 'platform', 'firstAt'],
      where: { businessId, id: [...new Set(ids)], kind: 'click' },
    });
    return new Map(plain(rows).map(({ id, platform, firstAt }) => [id, { platform, at: firstAt.getTime() }]));
  }
}
