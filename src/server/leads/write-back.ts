import { AvrixError } from '../../core/errors';
import { groupBy } from '../../core/group-by';
import type { CrmWriteRule } from '../../core/leads/schema';
import { cardNote } from '../../core/leads/card';
import { touchValue, type TouchValues } from '../../core/leads/touch-words';
import { planWrites, type LeftField, type PlannedWrite } from '../../core/leads/write-back';
import type { Release } from '../../core/releases';
import { now } from '../clock';
import type { Context } from '../context';
import type { Crm, Crms } from '../crms/crm';
import { inTransaction, insertRows, markWork, plain, type CrmWriteRow, type RowOf } from '../db';
import type { Begun } from '../jobs/handlers';
import { newId } from '../ids';
import { makeLastKnown } from '../last-known';
import type { CampaignNames } from '../plan/campaign-names';
import type { Releases } from '../releases/releases';
import { cardOf } from './card';
import { readDeals, type KnownDeal } from './deals-of';
import type { crmWriteRuns } from './table';
import { readWritable, type Writable } from './write-facts';
import { writeRecord, type WriteEnd } from './write-records';

/** How long (ms) the lengths of a CRM's fields are taken as known. */
const lengthsFor = 10 * 60_000;
/** And a business's name in addresses, and its time zone. */
const businessFor = 60_000;

/** What is to be written into one deal, and what is left. */
export interface DealPlan {
  writable: Writable;
  deal: KnownDeal;
  writes: PlannedWrite[];
  left: LeftField[];
}
export type WriteBack = ReturnType<typeof makeWriteBack>;

/**
 * Writes into the CRM's records what the rules say. What is to be written is stored first, with what the field held; it is
 * written unless somebody changed the field meanwhile, and every call and answer stays.
 */
export function makeWriteBack(context: Context, crms: Crms, releases: Releases, campaignNames: CampaignNames) {
  const { db, tables, config } = context;
  const linkOf = (key: string, enquiryId: string) => `${config.origin}/b/${key}/leads/${enquiryId}`;
  const lengthsOf = makeLastKnown(async (businessId) => {
    const crm = await crms.of(businessId);
    const fields = crm?.contract.fields ? await crm.ask(crm.contract.fields).catch(() => []) : [];
    return new Map(fields.map(({ name, length }) => [name, length]));
  }, lengthsFor);

  const businessOf = makeLastKnown(
    async (id) => (await tables.businesses.findOne({ where: { id }, rejectOnEmpty: true })).get({ plain: true }),
    businessFor,
  );

  /**
   * What rules would write into the records of enquiries.
   *
   * @param rulesOf those that hold for an enquiry
   */
  async function plan(
    businessId: string,
    ids: string[],
    release: Release,
    rulesOf: (writable: Writable) => readonly CrmWriteRule[] | Promise<readonly CrmWriteRule[]>,
  ): Promise<DealPlan[]> {
    const [items, lengths, campaignName, business] = await Promise.all([
      readWritable(context, businessId, ids, release),
      lengthsOf.get(businessId),
      campaignNames.get(businessId),
      businessOf.get(businessId),
    ]);
    const valueOf = (writable: Writable, { part, swap, touch: which }: CrmWriteRule, touch: TouchValues | null) => {
      if (part === 'link') return linkOf(business.key, writable.enquiry.id);
      if (part === 'card') return cardNote(writtenCard(writable, release, business.timeZone, campaignName), '');
      // The click that the strand is of, which need not be the newest of its touch.
      if (part === 'click_id' && which === 'enquiry') return touch ? writable.clickId : '';
      return touch ? touchValue({ part, swap }, touch, release, campaignName) : '';
    };
    const plans: DealPlan[] = [];
    for (const writable of items) {
      // eslint-disable-next-line no-await-in-loop -- releases are kept in memory
      const rules = await rulesOf(writable);
      for (const deal of rules.length > 0 ? writable.deals : []) {
        const { writes, left } = planWrites(
          rules,
          writable.facts,
          (rule, touch) => valueOf(writable, rule, touch),
          (field) => writable.stateOf(deal, field, lengths.get(field) ?? null),
        );
        plans.push({ writable, deal, writes, left });
      }
    }
    return plans;
  }

  /** Stores what is to be written, with the work to write it. @param byName '' where a rule has it written */
  async function queue(
    businessId: string,
    crm: Crm,
    plans: { writable: Pick<Writable, 'enquiry'>; deal: KnownDeal; writes: PlannedWrite[] }[],
    cause: CrmWriteRow['cause'],
    byName: string,
    release: Release,
  ): Promise<number> {
    const rows = plans.flatMap(({ writable, deal, writes }): CrmWriteRow[] =>
      writes.length === 0
        ? []
        : [
            {
              businessId,
              id: newId(),
              accountId: crm.account.id,
              enquiryId: writable.enquiry.id,
              dealId: deal.id,
              number: deal.number,
              cause,
              byName,
              state: 'waiting',
              answer: '',
              found: null,
              fields: writes.map(({ rule, field, was, becomes }) => ({ rule, field, was, becomes })),
              madeAt: now(),
              writtenAt: null,
              releaseNumber: release.number,
            },
          ],
    );
    if (rows.length === 0) return 0;
    const ids = [...new Set(rows.map(({ enquiryId }) => enquiryId))].sort();
    await inTransaction(db, async (transaction) => {
      await insertRows(tables.crmWrites, rows, [], transaction);
      await markWork(db, 'crm_write', businessId, ids, now(), transaction, crm.account.id);
    });
    return rows.length;
  }

  /** Live rules that held already when an enquiry came, or that somebody had written into what was there before. */
  const ownRules = async (
    { enquiry }: Writable,
    { content }: Release,
    runs: readonly Run[],
  ): Promise<CrmWriteRule[]> => {
    const under = await releases.numbered(enquiry.businessId, enquiry.releaseNumber);
    const known = new Set(under.content.crmWrites.map(({ id }) => id));
    const had = new Set(runs.filter(({ madeAt }) => madeAt >= enquiry.sentAt).flatMap(({ rules }) => rules));
    return content.crmWrites.filter(({ id }) => known.has(id) || had.has(id));
  };
  type Run = RowOf<typeof crmWriteRuns>;

  /** Keeps what fields held when their record was read back after they were written. */
  async function noteFound(businessId: string, ids: string[], deals: ReadonlyMap<string, KnownDeal>): Promise<void> {
    const rows = await tables.crmWrites.findAll({
      where: { businessId, enquiryId: ids, state: 'written', found: null },
    });
    for (const { id, dealId, fields, writtenAt } of plain(rows)) {
      const record = deals.get(dealId)?.record;
      if (!record || record.changedAt < writtenAt!.getTime()) continue;
      const found = Object.fromEntries(fields.map(({ field }) => [field, record.fields[field] ?? '']));
      // eslint-disable-next-line no-await-in-loop -- those few that were written since
      await tables.crmWrites.update({ found }, { where: { businessId, id } });
    }
  }

  /** Queues what the live rules have written now into the records of enquiries for which nothing waits. */
  async function queueByRules(
    businessId: string,
    crm: Crm,
    ids: string[],
    deals: ReadonlyMap<string, KnownDeal>,
    release: Release,
  ): Promise<void> {
    // Before anything is planned: what a CRM made of a value is not written again and again.
    await noteFound(businessId, ids, deals);
    const runs = plain(await tables.crmWriteRuns.findAll({ where: { businessId }, order: [['madeAt', 'DESC']] }));
    const plans = await plan(businessId, ids, release, (writable) => ownRules(writable, release, runs));
    const byName = ({ writable }: DealPlan) =>
      runs.find(({ madeAt }) => madeAt >= writable.enquiry.sentAt)?.byName ?? '';
    for (const [name, own] of groupBy(plans, byName))
      // eslint-disable-next-line no-await-in-loop -- one for each who had rules written, mostly one
      await queue(businessId, crm, own, 'rule', name, release);
  }

  /** Stores what became of rows, those with the same answer in one statement. */
  async function storeEnds(businessId: string, ends: readonly { id: string; end: WriteEnd }[]): Promise<void> {
    for (const own of groupBy(ends, ({ end }) => `${end.state} ${end.answer}`).values())
      // eslint-disable-next-line no-await-in-loop -- one for each answer, mostly one
      await tables.crmWrites.update(
        { ...own[0]!.end, writtenAt: now() },
        { where: { businessId, id: own.map(({ id }) => id) } },
      );
  }

  return {
    plan,
    queue,
    linkOf,

    /** The CRM that is read. @throws AVX_CRM_NOT_WRITTEN where none is, or it says no way to write */
    async crmOf(businessId: string): Promise<Crm> {
      const crm = await crms.of(businessId);
      if (!crm?.contract.write) throw new AvrixError('AVX_CRM_NOT_WRITTEN');
      return crm;
    },

    /**
     * Queues what the live rules have written now for enquiries, and reads what waits for them.
     * @returns how what waits for one of them is written. What became of it is stored for all together: a call that is
     * made again after a crash finds what it wrote.
     */
    async begin(businessId: string, enquiryIds: string[]): Promise<Begun> {
      const crm = await crms.of(businessId);
      if (!crm) return { work: async () => null, store: async () => undefined };
      const release = await releases.live(businessId);
      const where = { businessId, enquiryId: enquiryIds, state: 'waiting' as const };
      const [known, rows] = await Promise.all([
        readDeals(context, businessId, enquiryIds, release.content),
        tables.crmWrites.findAll({ where, order: [['id', 'ASC']] }),
      ]);
      const there = [...known.values()].flat().filter(({ goneAt }) => goneAt === null);
      const deals = new Map(there.map((deal) => [deal.id, deal]));
      const waiting = groupBy(plain(rows), ({ enquiryId }) => enquiryId);
      const planned = enquiryIds.filter((id) => !waiting.has(id));
      if (planned.length > 0) await queueByRules(businessId, crm, planned, deals, release);
      const ends: { id: string; end: WriteEnd }[] = [];
      return {
        async work(enquiryId) {
          for (const row of waiting.get(enquiryId) ?? [])
            // eslint-disable-next-line no-await-in-loop -- one call after the other, in their order
            ends.push({ id: row.id, end: await writeRecord(context, crm, row, deals.get(row.dealId)) });
          return null;
        },
        store: () => storeEnds(businessId, ends),
      };
    },
  };
}

/** The card of an enquiry as far as it is written into a field: as it was when it came, so that it is written once. */
const writtenCard = (
  { enquiry, facts, touches }: Writable,
  release: Release,
  timeZone: string,
  campaignName: (campaign: string) => string,
) =>
  cardOf(
    {
      title: '',
      person: '',
      enquiry,
      orderedAt: null,
      origin: facts.enquiry,
      first: touches[0] && touches[0].id !== enquiry.touchId ? touches[0] : null,
      before: [],
    },
    release,
    timeZone,
    campaignName,
  );
