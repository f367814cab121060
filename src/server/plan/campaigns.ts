import { literal, Op } from 'sequelize';
import { AvrixError } from '../../core/errors';
import { readAmount, writeAmount } from '../../core/outcomes';
import { mayChange } from '../../core/people/rights';
import { checkValue, problemWords, readName, ruleOf, type Plan } from '../../core/plan';
import type { Campaign } from '../../core/plan/campaign';
import { emptyCampaign } from '../../core/plan/empty-campaign';
import type { CampaignDifference, CampaignsView, CampaignView, CrmCampaigns } from '../../core/plan/campaign-view';
import { compareCampaigns, type OutsideCampaign } from '../../core/plan/compare-campaigns';
import { counted } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { selectRows, text, whole, insertRows, inTransaction, plain, type CampaignRow } from '../db';
import { newId } from '../ids';
import { makeLastKnown } from '../last-known';
import type { Membership } from '../people/people';
import type { CrmCampaign } from '../../core/crms';
import type { Crms } from '../crms/crm';
import { requireEditor } from '../releases/draft';
import type { Releases } from '../releases/releases';
import type { Channels } from './channel-service';
import { observationStartDay, weeks, type PlanService } from './plan';
import { mostCampaigns } from './queries';
import { quoteValue } from '../../core/quote-value';

const firstFew = 12;
/** How long (ms) the CRM's list of campaigns is taken as known where links are made. */
const askedAgainAfter = 60_000;

/** The campaign register: by hand, from a file, or pulled from the CRM. */
export function makeCampaigns(
  { db, tables }: Context,
  crms: Crms,
  releases: Releases,
  channels: Channels,
  plans: PlanService,
) {
  const rowsOf = async (businessId: string): Promise<CampaignRow[]> =>
    plain(
      await tables.campaigns.findAll({ where: { businessId }, order: [['changedAt', 'DESC']], limit: mostCampaigns }),
    );

  async function countBy(name: string, n: string, rest: string, values: unknown[]): Promise<Map<string, number>> {
    const rows = await selectRows(db, { name: text().of(name), n: whole().of(n) }, rest, values);
    return new Map(rows.map((row) => [row.name, row.n]));
  }

  const lastSaid = makeLastKnown(async (businessId): Promise<{ crm: string; read: CrmCampaign[] }> => {
    const crm = await crms.of(businessId);
    const read = crm?.contract.campaigns ? await crm.ask(crm.contract.campaigns.all).catch(() => []) : [];
    return { crm: crm?.account.name ?? '', read };
  }, askedAgainAfter);

  async function compareWithCrm(
    { id, currency }: Membership['business'],
    read: CrmCampaign[],
  ): Promise<CampaignDifference> {
    const register = (await rowsOf(id)).map(toCampaign);
    const known = new Map(register.map((one) => [one.crmId, one]));
    const outside = read.map((one): OutsideCampaign => ({
      name: one.trackingName,
      friendly: one.title,
      startsOn: one.startsOn ?? '',
      endsOn: one.endsOn ?? '',
      budget: one.budget?.amount ?? '',
      currency: one.budget?.currency ?? currency,
      owner: one.owner,
      crmId: one.id,
      crmType: one.type,
      // What the CRM does not know stays as it is here.
      stage: known.get(one.id)?.stage ?? 'asking',
      note: known.get(one.id)?.note ?? '',
    }));
    return compareCampaigns(register, outside, true);
  }

  return {
    async view({ business, role }: Membership): Promise<CampaignsView> {
      const { id: businessId } = business;
      const [rows, { plan }, crm, types, offPlan, arrivals, links] = await Promise.all([
        rowsOf(businessId),
        releases.live(businessId).then(({ content }) => content),
        crms.of(businessId),
        channels.crmTypes(businessId),
        plans.offPlanCount(businessId),
        countBy(
          ...(['value', 'SUM(arrivals)'] as const),
          `FROM tag_days WHERE business_id = ? AND tag = 'utm_campaign' AND day >= ?
           GROUP BY value ORDER BY n DESC LIMIT 5000`,
          [businessId, observationStartDay()],
        ),
        countBy(
          ...(['campaign', 'COUNT(*)'] as const),
          'FROM links WHERE business_id = ? AND retired_at IS NULL GROUP BY campaign',
          [businessId],
        ),
      ]);
      const known = new Set(rows.map(({ name }) => name));
      const views = rows.map((row) => campaignView(row, plan, arrivals.get(row.name) ?? 0, links.get(row.name) ?? 0));
      const unregistered = [...arrivals].filter(([name]) => !known.has(name));
      return {
        sentence: campaignsSentence(views, unregistered, crm?.account.name ?? ''),
        rows: views,
        unregistered: unregistered.slice(0, firstFew).map(([name, n]) => ({ name, arrivals: n })),
        plan: { naming: plan.naming },
        crm: crm?.account.name ?? '',
        crmTypes: types,
        currency: business.currency,
        weeks,
        offPlan,
        mayChange: mayChange(role),
        timeZone: business.timeZone,
      };
    },

    /** Writes a new campaign, or changes one. @throws AVX_NOT_FOUND, AVX_CAMPAIGN_TAKEN */
    async save(membership: Membership, id: string | null, campaign: Campaign): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      if (id && !(await tables.campaigns.findOne({ where: { businessId, id } }))) throw unknown();
      await store(businessId, [{ id, campaign }], []);
    },

    /**
     * Puts a name that arrived into the register: as the CRM has it, where it does, else with nothing but its name.
     * @throws AVX_CAMPAIGN_TAKEN
     */
    async register(membership: Membership, name: string): Promise<void> {
      requireEditor(membership);
      const { business } = membership;
      const there = (await this.onlyInCrm(membership)).campaigns.find((campaign) => campaign.name === name);
      await store(business.id, [{ id: null, campaign: there ?? { ...emptyCampaign(business.currency), name } }], []);
    },

    /** Takes a campaign out of use, or back into it. @throws AVX_NOT_FOUND */
    async retire(membership: Membership, id: string, retired: boolean): Promise<void> {
      requireEditor(membership);
      const row = await tables.campaigns.findOne({ where: { businessId: membership.business.id, id } });
      if (!row) throw unknown();
      await row.update({ retiredAt: retired ? now() : null, changedAt: now() });
    },

    /** What the CRM's campaigns would change; nothing is taken. @throws AVX_SERVICE_AWAY, AVX_NOT_FOUND */
    async pull({ business }: Membership): Promise<CampaignDifference> {
      const crm = await crms.of(business.id);
      if (!crm?.contract.campaigns) throw new AvrixError('AVX_NOT_FOUND', { what: 'CRM with campaigns' });
      const read = await crm.ask(crm.contract.campaigns.all).catch((error: Error) => {
        throw new AvrixError('AVX_SERVICE_AWAY', { why: error.message });
      });
      return compareWithCrm(business, read);
    },

    /**
     * Campaigns of the CRM that the register does not have, as it last said, a minute old at most; none where no CRM
     * is connected or it does not answer.
     */
    async onlyInCrm({ business }: Membership): Promise<CrmCampaigns> {
      const known = await lastSaid.get(business.id);
      const { fresh } = await compareWithCrm(business, known.read);
      return { crm: known.crm, campaigns: fresh.map(({ campaign }) => campaign) };
    },

    /** What a file's campaigns would change; nothing is taken. */
    async compare({ business }: Membership, outside: OutsideCampaign[]): Promise<CampaignDifference> {
      return compareCampaigns((await rowsOf(business.id)).map(toCampaign), outside, false);
    },

    /**
     * Takes campaigns from outside that were shown: new and changed ones are stored, vanished ones retired, all of them
     * or none.
     * @throws AVX_CAMPAIGN_TAKEN
     */
    async take(membership: Membership, campaigns: Campaign[], vanished: string[]): Promise<void> {
      requireEditor(membership);
      const { id: businessId } = membership.business;
      const rows = await rowsOf(businessId);
      const byNumber = new Map(rows.flatMap(({ id, crmId }) => (crmId ? [[crmId, id]] : [])));
      const byName = new Map(rows.map(({ id, name }) => [name, id]));
      const known = ({ crmId, name }: Campaign) => byNumber.get(crmId) ?? byName.get(name) ?? null;
      await store(
        businessId,
        campaigns.map((campaign) => ({ id: known(campaign), campaign })),
        vanished,
      );
    },
  };

  /** Stores campaigns, those without an ID as new ones, and retires those of numbers that vanished. */
  async function store(
    businessId: string,
    wanted: { id: string | null; campaign: Campaign }[],
    vanished: string[],
  ): Promise<void> {
    const account = (await crms.of(businessId))?.account.key ?? null;
    const rows = wanted.map(({ id, campaign }): CampaignRow => ({
      ...toRow(campaign),
      businessId,
      id: id ?? newId(),
      crmAccount: campaign.crmId ? account : null,
      madeAt: now(),
      changedAt: now(),
      retiredAt: null,
    }));
    await inTransaction(db, async (transaction) => {
      const others = plain(
        await tables.campaigns.findAll({
          where: {
            businessId,
            id: { [Op.notIn]: rows.map(({ id }) => id) },
            [Op.or]: [{ name: rows.map(({ name }) => name) }, { crmId: rows.flatMap(({ crmId }) => crmId ?? []) }],
          },
          transaction,
          lock: transaction.LOCK.UPDATE,
        }),
      );
      refuseTaken(
        'tracking name',
        rows.map(({ name }) => name),
        others.map(({ name }) => name),
      );
      refuseTaken(
        'number',
        rows.flatMap(({ crmId }) => crmId ?? []),
        others.flatMap(({ crmId }) => crmId ?? []),
      );
      // Names and numbers may change places among them: the old ones give way first.
      await tables.campaigns.update(
        { name: literal('id'), crmId: null },
        { where: { businessId, id: wanted.flatMap(({ id }) => id ?? []) }, transaction },
      );
      await insertRows(tables.campaigns, rows, changing, transaction);
      await tables.campaigns.update(
        { retiredAt: now(), changedAt: now() },
        { where: { businessId, crmId: { [Op.in]: vanished } }, transaction },
      );
    });
  }
}

/** @throws AVX_CAMPAIGN_TAKEN where one is wanted twice or stands elsewhere */
function refuseTaken(what: string, wanted: string[], others: string[]): void {
  const value = wanted.find((one, index) => others.includes(one) || wanted.indexOf(one) !== index);
  if (value !== undefined) throw new AvrixError('AVX_CAMPAIGN_TAKEN', { what, value });
}

const unknown = () => new AvrixError('AVX_NOT_FOUND', { what: 'campaign' });

/** What storing a campaign anew changes of it. */
const changing = [
  ...(['name', 'friendly', 'stage', 'startsOn', 'endsOn', 'budgetMinor', 'currency', 'owner', 'note'] as const),
  ...(['crmAccount', 'crmId', 'crmType', 'changedAt', 'retiredAt'] as const),
];

function toRow({ budget, currency, startsOn, endsOn, crmId, ...rest }: Campaign) {
  const money = budget === '' ? null : readAmount(budget, currency);
  return {
    ...rest,
    currency,
    budgetMinor: money?.minor ?? null,
    startsOn: startsOn || null,
    endsOn: endsOn || null,
    crmId: crmId || null,
  };
}

/** A campaign of the register as it is written. */
export function toCampaign(row: CampaignRow): Campaign {
  const { name, friendly, stage, currency, owner, note, crmType, budgetMinor } = row;
  return {
    name,
    friendly,
    stage,
    currency,
    owner,
    note,
    crmType,
    crmId: row.crmId ?? '',
    startsOn: row.startsOn ?? '',
    endsOn: row.endsOn ?? '',
    budget: budgetMinor === null ? '' : writeAmount({ minor: Number(budgetMinor), currency }),
  };
}

function campaignView(row: CampaignRow, plan: Plan, arrivals: number, links: number): CampaignView {
  const rule = ruleOf(plan, 'utm_campaign');
  const problems = rule ? checkValue(plan, rule, row.name).problems : [];
  return {
    ...toCampaign(row),
    id: row.id,
    retired: row.retiredAt !== null,
    arrivals,
    links,
    wrong: rule ? problems.map((problem) => problemWords(problem, rule)).join(', ') : '',
    parts: readName(plan.naming, row.name),
  };
}

function campaignsSentence(rows: CampaignView[], unregistered: [string, number][], crm: string) {
  const used = rows.filter(({ retired }) => !retired);
  if (used.length === 0)
    return {
      title: 'No campaign is in the register yet.',
      under: crm ? `Pull them from ${crm}, or write the first by hand.` : 'Write the first by hand, or read in a file.',
    };
  const wrong = used.filter((row) => row.wrong).length;
  const title = wrong
    ? `${counted(used.length, 'campaign', 'campaigns')}, ${wrong} of them with a name off plan.`
    : `${counted(used.length, 'campaign', 'campaigns')}, all named by the plan.`;
  const [name, arrivals] = unregistered[0] ?? ['', 0];
  return {
    title,
    under: name
      ? `${counted(unregistered.length, 'name arrives', 'names arrive')} that no campaign has; ${quoteValue(name)} came ${counted(arrivals, 'time', 'times')} in ${weeks} weeks.`
      : `Every campaign name that arrived in ${weeks} weeks is in the register.`,
  };
}
