import { AvrixError } from '../../core/errors';
import type { CrmWriteRule } from '../../core/leads/schema';
import { cardNote } from '../../core/leads/card';
import { touchValue, type TouchValues } from '../../core/leads/touch-words';
import { planWrites, type LeftField, type PlannedWrite } from '../../core/leads/write-back';
import type { Release } from '../../core/releases';
import { now } from '../clock';
import type { Context } from '../context';
import type { Crm, Crms } from '../crms/crm';
import { inTransaction, insertRows, markWork, plain, type CrmWriteRow, type RowOf } from '../db';
import { newId } from '../ids';
import { makeLastKnown } from '../last-known';
import { isRefusal, ServiceAway } from '../platforms/call';
import type { CampaignNames } from '../plan/campaign-names';
import type { Releases } from '../releases/releases';
import { cardOf } from './card';
import type { KnownDeal } from './deals-of';
import { storeGone } from './records';
import type { crmWriteRuns, WrittenField } from './table';
import { readWritable, type Writable } from './write-facts';

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
/** Whether a field can be written into: a CRM that is described by hand knows those that are described. */
const canHold = ({ contract: { writable } }: Crm, field: string): boolean => writable?.includes(field) ?? true;

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
  async function noteFound(businessId: string, enquiryId: string, items: Writable[]): Promise<void> {
    const rows = plain(await tables.crmWrites.findAll({ where: { businessId, enquiryId, state: 'written' } }));
    for (const row of rows.filter(({ found }) => found === null)) {
      const deal = items.flatMap(({ deals }) => deals).find(({ id }) => id === row.dealId);
      if (!deal || deal.record.changedAt < row.writtenAt!.getTime()) continue;
      const found = Object.fromEntries(row.fields.map(({ field }) => [field, deal.record.fields[field] ?? '']));
      // eslint-disable-next-line no-await-in-loop -- one or two of an enquiry
      await tables.crmWrites.update({ found }, { where: { businessId, id: row.id } });
    }
  }

  /** Writes one row's fields, unless somebody changed one of them since. @throws ServiceAway where it has to be tried again */
  async function writeRow(crm: Crm, row: CrmWriteRow, deal: KnownDeal | undefined): Promise<void> {
    const where = { businessId: row.businessId, id: row.id };
    const end = (state: CrmWriteRow['state'], answer: string) =>
      tables.crmWrites.update({ state, answer: answer.slice(0, 500), writtenAt: now() }, { where });
    if (!deal) return void (await end('dropped', 'The CRM has the record no more.'));
    const { contract } = crm;
    if (row.cause === 'note') return writeNote(crm, row, end);
    if (row.cause === 'stage') return moveRecord(crm, row, end);
    if (!contract.write) return void (await end('refused', `${crm.account.name} says no way to write.`));
    const unknown = row.fields.find(({ field }) => !canHold(crm, field));
    if (unknown)
      return void (await end('refused', `${crm.account.name} has no place described for \`${unknown.field}\`.`));
    const fields = Object.fromEntries(row.fields.map(({ field, becomes }) => [field, becomes]));
    try {
      // As it is at this moment, where the CRM can be asked: what was typed a minute ago is not known here yet.
      const read = contract.gives === 'numbers' ? await crm.ask(contract.record(row.number)) : { record: deal.record };
      if (!('record' in read)) return void (await end('dropped', `It was merged into \`${read.mergedInto}\`.`));
      const differs = row.fields.filter(({ field, was }) => (read.record.fields[field] ?? '') !== was);
      // Written by a call whose answer never came, perhaps cut to the field's length.
      const isThere = ({ field, becomes }: WrittenField) =>
        (read.record.fields[field] ?? '') !== '' && becomes.startsWith(read.record.fields[field]!);
      const changed = differs.find((one) => !isThere(one));
      if (changed) return void (await end('dropped', `\`${changed.field}\` was changed there meanwhile.`));
      if (differs.length < row.fields.length) await crm.tell(contract.write(row.number, fields));
    } catch (error) {
      if (!isRefusal(error)) throw error;
      await end('refused', (error as Error).message);
      if (error instanceof ServiceAway && ['404', '410'].includes(error.status))
        await inTransaction(db, (transaction) =>
          storeGone(
            context,
            { businessId: row.businessId, id: row.accountId },
            row.number,
            { at: now(), mergedInto: '' },
            transaction,
          ),
        );
      return;
    }
    await end('written', '');
    // A CRM that cannot be asked for its record has what it was told.
    if (crm.contract.gives === 'records')
      await tables.deals.update(
        { record: { ...deal.record, fields: { ...deal.record.fields, ...fields } } },
        { where: { businessId: row.businessId, id: deal.id } },
      );
  }

  /** Adds a note to a record, known by its row: asked for again, the CRM adds none. */
  async function writeNote(
    { contract, account, tell }: Crm,
    { id, number, fields }: CrmWriteRow,
    end: (state: CrmWriteRow['state'], answer: string) => Promise<unknown>,
  ): Promise<void> {
    if (!contract.note) return void (await end('refused', `${account.name} says no way to add a note.`));
    try {
      await tell(contract.note(number, fields[0]!.becomes, id));
    } catch (error) {
      if (!isRefusal(error)) throw error;
      return void (await end('refused', (error as Error).message));
    }
    await end('written', '');
  }

  /** Moves a record on, unless somebody moved it meanwhile. */
  async function moveRecord(
    { contract, account, ask, tell }: Crm,
    { number, fields }: CrmWriteRow,
    end: (state: CrmWriteRow['state'], answer: string) => Promise<unknown>,
  ): Promise<void> {
    const { was, becomes } = fields[0]!;
    if (!contract.move) return void (await end('refused', `${account.name} says no way to move a record.`));
    try {
      const read = contract.gives === 'numbers' ? await ask(contract.record(number)) : null;
      if (read && !('record' in read)) return void (await end('dropped', `It was merged into \`${read.mergedInto}\`.`));
      if (read && read.record.stage !== was && read.record.stage !== becomes)
        return void (await end('dropped', `It was moved to ${read.record.stage} meanwhile.`));
      if (read?.record.stage !== becomes) await tell(contract.move(number, becomes));
    } catch (error) {
      if (!isRefusal(error)) throw error;
      return void (await end('refused', (error as Error).message));
    }
    await end('written', '');
  }

  return {
    plan,
    queue,
    canHold,
    linkOf,

    /** The CRM that is read. @throws AVX_CRM_NOT_WRITTEN where none is, or it says no way to write */
    async crmOf(businessId: string): Promise<Crm> {
      const crm = await crms.of(businessId);
      if (!crm?.contract.write) throw new AvrixError('AVX_CRM_NOT_WRITTEN');
      return crm;
    },

    /** Writes what waits for an enquiry, and what its rules have written now. @returns null: nothing is due again by itself */
    async run(businessId: string, enquiryId: string): Promise<null> {
      const crm = await crms.of(businessId);
      if (!crm) return null;
      const release = await releases.live(businessId);
      const items = await readWritable(context, businessId, [enquiryId], release);
      // Before anything is planned: what a CRM made of a value is not written again and again.
      await noteFound(businessId, enquiryId, items);
      const waiting = await tables.crmWrites.findAll({
        where: { businessId, enquiryId, state: 'waiting' },
        order: [['id', 'ASC']],
      });
      if (waiting.length === 0) {
        const runs = plain(await tables.crmWriteRuns.findAll({ where: { businessId }, order: [['madeAt', 'DESC']] }));
        const plans = await plan(businessId, [enquiryId], release, (writable) => ownRules(writable, release, runs));
        const came = items[0]?.enquiry.sentAt;
        const byName = runs.find(({ madeAt }) => came !== undefined && madeAt >= came)?.byName ?? '';
        await queue(businessId, crm, plans, 'rule', byName, release);
        return null;
      }
      const deals = items.flatMap((one) => one.deals);
      for (const row of plain(waiting))
        // eslint-disable-next-line no-await-in-loop -- one call after the other, in their order
        await writeRow(
          crm,
          row,
          deals.find(({ id }) => id === row.dealId),
        );
      return null;
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
