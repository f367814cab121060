import { AvrixError } from '../../core/errors';
import { groupBy } from '../../core/group-by';
import type { CrmWriteRule } from '../../core/leads/schema';
import { cardNote } from '../../core/leads/card';
import { touchValue, type TouchValues } from '../../core/leads/touch-words';
import { takenAlong } from '../../core/leads/taken-along';
import { planWrites, type LeftField, type PlannedWrite } from '../../core/leads/write-back';
import type { Release } from '../../core/releases';
import { now } from '../clock';
import type { Context } from '../context';
import type { Crm, Crms } from '../crms/crm';
import { inTransaction, insertRows, markWork, plain, type CrmWriteRow, type EnquiryRow, type RowOf } from '../db';
import type { Begun } from '../jobs/handlers';
import { newId } from '../ids';
import { makeLastKnown } from '../last-known';
import type { CampaignNames } from '../plan/campaign-names';
import type { Releases } from '../releases/releases';
import { cardOf } from './card';
import type { KnownDeal } from './deals-of';
import type { crmWriteRuns } from './table';
import { readWritable, type Writable } from './write-facts';
import { endWrites, readWaitingWrites } from './write-queries';
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
  /** The CRM's fields with their lengths; none where it cannot be asked. Asked anew where a rule names one that it did not have. */
  async function fieldsFor(businessId: string, rules: readonly CrmWriteRule[]): Promise<Map<string, number | null>> {
    const known = await lengthsOf.get(businessId);
    if (known.size === 0 || rules.every(({ fields }) => fields.every((field) => known.has(field)))) return known;
    lengthsOf.forget(businessId);
    return lengthsOf.get(businessId);
  }

  const businessOf = makeLastKnown(
    async (id) => (await tables.businesses.findOne({ where: { id }, rejectOnEmpty: true })).get({ plain: true }),
    businessFor,
  );

  /**
   * What rules would write into the records of enquiries.
   *
   * @param ofEnquiry those of the rules that hold for an enquiry
   */
  async function plan(
    businessId: string,
    ids: string[],
    release: Release,
    rules: readonly CrmWriteRule[],
    ofEnquiry: (writable: Writable) => readonly CrmWriteRule[] | Promise<readonly CrmWriteRule[]> = () => rules,
  ): Promise<DealPlan[]> {
    const [items, lengths, campaignName, business] = await Promise.all([
      readWritable(context, businessId, ids, release, { withReadings: rules.some(({ part }) => part === 'reading') }),
      fieldsFor(businessId, rules),
      campaignNames.get(businessId),
      businessOf.get(businessId),
    ]);
    const valueOf = (
      writable: Writable,
      { part, reading, swap, touch: which }: CrmWriteRule,
      touch: TouchValues | null,
    ) => {
      if (part === 'link') return linkOf(business.key, writable.enquiry.id);
      if (part === 'card') return cardNote(writtenCard(writable, release, business.timeZone, campaignName), '');
      if (part === 'reading') return takenAlong(writable.events, asked(writable.enquiry), reading);
      // The click that the strand is of, which need not be the newest of its touch.
      if (part === 'click_id' && which === 'enquiry') return touch ? writable.clickId : '';
      return touch ? touchValue({ part, swap }, touch, release, campaignName) : '';
    };
    const plans: DealPlan[] = [];
    for (const writable of items) {
      // eslint-disable-next-line no-await-in-loop -- releases are kept in memory
      const own = await ofEnquiry(writable);
      for (const deal of own.length > 0 ? writable.deals : []) {
        const { writes, left } = planWrites(
          own,
          writable.facts,
          (rule, touch) => valueOf(writable, rule, touch),
          (field) =>
            lengths.size > 0 && !lengths.has(field) ? null : writable.stateOf(deal, field, lengths.get(field) ?? null),
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
  async function noteFound(businessId: string, ids: string[]): Promise<void> {
    const rows = plain(
      await tables.crmWrites.findAll({ where: { businessId, enquiryId: ids, state: 'written', found: null } }),
    );
    if (rows.length === 0) return;
    const dealIds = [...new Set(rows.map(({ dealId }) => dealId))];
    const deals = plain(await tables.deals.findAll({ where: { businessId, id: dealIds, goneAt: null } }));
    const recordOf = new Map(deals.map(({ id, record }) => [id, record]));
    for (const { id, dealId, fields, writtenAt } of rows) {
      const record = recordOf.get(dealId);
      if (!record || record.changedAt < writtenAt!.getTime()) continue;
      const found = Object.fromEntries(fields.map(({ field }) => [field, record.fields[field] ?? '']));
      // eslint-disable-next-line no-await-in-loop -- those few that were written since
      await tables.crmWrites.update({ found }, { where: { businessId, id } });
    }
  }

  /** Queues what the live rules have written now into the records of enquiries for which nothing waits. */
  async function queueByRules(businessId: string, crm: Crm, ids: string[], release: Release): Promise<void> {
    // Before anything is planned: what a CRM made of a value is not written again and again.
    await noteFound(businessId, ids);
    const runs = plain(await tables.crmWriteRuns.findAll({ where: { businessId }, order: [['madeAt', 'DESC']] }));
    const plans = await plan(businessId, ids, release, release.content.crmWrites, (writable) =>
      ownRules(writable, release, runs),
    );
    const byName = ({ writable }: DealPlan) =>
      runs.find(({ madeAt }) => madeAt >= writable.enquiry.sentAt)?.byName ?? '';
    for (const [name, own] of groupBy(plans, byName))
      // eslint-disable-next-line no-await-in-loop -- one for each who had rules written, mostly one
      await queue(businessId, crm, own, 'rule', name, release);
  }

  /** Stores what became of rows, those with the same answer in one statement. */
  async function storeEnds(businessId: string, ends: readonly { id: string; end: WriteEnd }[]): Promise<void> {
    if (ends.some(({ end }) => end.lacks)) lengthsOf.forget(businessId);
    for (const own of groupBy(ends, ({ end }) => `${end.state} ${end.answer}`).values())
      // eslint-disable-next-line no-await-in-loop -- one for each answer, mostly one
      await endWrites(
        db,
        businessId,
        own.map(({ id }) => id),
        own[0]!.end,
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
      const waiting = groupBy(await readWaitingWrites(db, businessId, enquiryIds), ({ enquiryId }) => enquiryId);
      const planned = enquiryIds.filter((id) => !waiting.has(id));
      if (planned.length > 0) await queueByRules(businessId, crm, planned, release);
      const ends: { id: string; end: WriteEnd }[] = [];
      return {
        async work(enquiryId) {
          for (const row of waiting.get(enquiryId) ?? [])
            // eslint-disable-next-line no-await-in-loop -- one call after the other, in their order
            ends.push({ id: row.id, end: await writeRecord(context, crm, row) });
          return null;
        },
        store: () => storeEnds(businessId, ends),
      };
    },
  };
}

const asked = ({ leadToken, sentAt }: EnquiryRow) => ({ leadToken, sentAt: sentAt.getTime() });

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
      bought: null,
      origin: facts.enquiry,
      first: touches[0] && touches[0].id !== enquiry.touchId ? touches[0] : null,
      before: [],
    },
    release,
    timeZone,
    campaignName,
  );
