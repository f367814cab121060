/* eslint-disable no-await-in-loop -- releases are few and kept in memory; marked ones are few */
import type { Transaction } from 'sequelize';
import { isOwnMail } from '../../core/capture/no-customer';
import { groupBy } from '../../core/group-by';
import { decideQuality, enquiryHops, enquiryState, type SentOn } from '../../core/leads';
import { noStages } from '../../core/outcomes';
import type { PersonKey } from '../../core/platforms/contract';
import { qualifiedOutcome, type Release } from '../../core/releases';
import { enquiryStrandId, type HopRow } from '../../core/strands';
import { readPast } from '../capture/no-customer';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import {
  insertRows,
  inTransaction,
  markWork,
  plain,
  selectRows,
  uuid,
  type EnquiryRow,
  type LeadRow,
  type OutcomeRow,
} from '../db';
import { countOutcomes } from '../outcomes/count';
import type { Releases } from '../releases/releases';
import type { Brakes } from '../reportbacks/brakes';
import { readTellingHops, writeReportBacks } from '../reportbacks/write';
import { markMoments } from '../rollups/marks';
import { replaceHops } from '../strands/replace-hops';
import { lockStrands } from '../strands/store';
import { readPickedUp } from './calls/follow';
import { markEnquiriesOf } from './mark-enquiries';
import { happeningsOf, readDeals, readPersonOf, type KnownDeal } from './deals-of';
import type { TakeLeads } from './routines/take';
import { keepHandedOver, readSentOn } from './sent-on';
import { joinStrands, wasSent, type Joined } from './strands-of';

/** What following an enquiry may set anew. */
const followed = [
  ...(['leadId', 'dealId', 'stage', 'strandId', 'touchId', 'joinedBy', 'marked'] as const),
  ...(['quality', 'qualityReason', 'answeredAt', 'answeredBy'] as const),
] as const;

/** Follows enquiries from the CRM on: joins each to its strand, counts its outcomes once, writes their report-backs. */
export function makeFollowEnquiries(
  context: Context,
  releases: Releases,
  brakes: Brakes,
  routines: Pick<TakeLeads, 'mark'>,
) {
  const { db, tables } = context;

  /** @returns when to follow each again because time alone changes a state, or null */
  return async function followEnquiries(businessId: string, ids: string[]): Promise<Map<string, Date | null>> {
    const release = await releases.live(businessId);
    return inTransaction(db, async (transaction) => {
      // Strands before enquiries, as visitors are stored, so that neither waits for the other.
      await lockStrands(db, businessId, await knownStrands(businessId, ids, transaction), transaction);
      const enquiries = plain(
        await tables.enquiries.findAll({
          where: { businessId, id: ids, erasedAt: null },
          order: [['id', 'ASC']],
          transaction,
          lock: transaction.LOCK.UPDATE,
        }),
      );
      if (enquiries.length === 0) return new Map();
      const before = new Map(enquiries.map((enquiry) => [enquiry.id, { ...enquiry }]));
      const deals = await readDeals(context, businessId, ids, release.content, transaction);
      for (const enquiry of enquiries) {
        const furthest = deals.get(enquiry.id)?.[0];
        if (!furthest) continue;
        enquiry.dealId = furthest.id;
        enquiry.stage = furthest.record.stage;
        enquiry.leadId = furthest.leadId;
      }
      const leads = await readLeads(businessId, enquiries, transaction);
      await markOwnMail(enquiries, leads, transaction);
      await markPlatformStrands(enquiries, transaction);
      const joined = await joinStrands(context, enquiries, deals, leads, release, transaction);
      const strandIds = [...new Set([...joined.values()].map(({ strand }) => strand.id))].sort();
      await lockStrands(db, businessId, strandIds, transaction);
      const personOf = await readPersonOf(
        context,
        businessId,
        [...deals.values()].flatMap((own) => own.map(({ leadId }) => leadId)),
        transaction,
      );
      const outcomes = await countOutcomes(
        context,
        releases,
        businessId,
        enquiries.map((enquiry) => ({
          subject: { kind: 'enquiry', id: enquiry.id },
          happenings: happeningsOf(businessId, enquiry.id, deals.get(enquiry.id) ?? [], release.content, personOf),
          isMarked: enquiry.marked !== '' || enquiry.saidQuality === 'no_enquiry',
        })),
        transaction,
      );
      const sentOn = await readSentOn(context, businessId, enquiries, release, transaction);
      const pickedUp = await readPickedUp(context, businessId, enquiries, transaction);
      for (const enquiry of enquiries)
        judge(enquiry, deals.get(enquiry.id) ?? [], outcomes.get(enquiry.id)!, release, {
          isGone: sentOn.get(enquiry.id)?.fetchedAt === null,
          pickedUpAt: pickedUp.get(enquiry.id) ?? null,
        });
      await tell(enquiries, deals, joined, outcomes, release, transaction);
      const again = await writeHops(enquiries, deals, joined, outcomes, sentOn, release, transaction);
      const changed = enquiries.flatMap((enquiry) => {
        const { strand, joinedBy, touchId } = joined.get(enquiry.id)!;
        const known = before.get(enquiry.id)!;
        const row = { ...enquiry, strandId: strand.id, joinedBy, touchId };
        return followed.every((column) => isSame(known[column], row[column])) ? [] : [row];
      });
      await insertRows(tables.enquiries, changed, [...followed], transaction);
      await markEnquiriesOf(
        context,
        businessId,
        enquiries.flatMap(({ id, leadId }) => [leadId, before.get(id)!.leadId]),
        enquiries.map(({ sentAt }) => sentAt.getTime()),
        transaction,
      );
      await markWrites(enquiries, deals, release, transaction);
      await routines.mark(
        businessId,
        enquiries.map(({ id }) => id),
        transaction,
      );
      await followHeirs(
        businessId,
        changed.filter(wasSent).flatMap(({ id, leadId }) => [leadId, before.get(id)!.leadId]),
        transaction,
      );
      return again;
    });
  };

  /** How far it was answered follows from what somebody said, what the CRM says, and what was counted. */
  function judge(
    enquiry: EnquiryRow,
    deals: KnownDeal[],
    outcomes: OutcomeRow[],
    release: Release,
    { isGone, pickedUpAt }: { isGone: boolean; pickedUpAt: number | null },
  ): void {
    const code = qualifiedOutcome(release, enquiry.wayIn)?.code;
    const { saidQuality, saidReason, saidAnsweredAt, saidAnsweredBy } = enquiry;
    const said = {
      quality: saidQuality,
      reason: saidReason,
      answeredAt: saidAnsweredAt?.getTime() ?? null,
      answeredBy: saidAnsweredBy,
    };
    const isQualified = outcomes.some((outcome) => outcome.code === code);
    const stages = release.content.crm?.stages ?? noStages;
    const decided = decideQuality(said, deals, stages, isQualified, isGone, pickedUpAt);
    enquiry.quality = decided.quality;
    enquiry.qualityReason = decided.reason.slice(0, 80);
    enquiry.answeredAt = decided.answeredAt === null ? null : new Date(decided.answeredAt);
    enquiry.answeredBy = decided.answeredBy;
  }

  /** Has written into the CRM's records what its rules say, or what waits. */
  async function markWrites(
    enquiries: EnquiryRow[],
    deals: Map<string, KnownDeal[]>,
    { content }: Release,
    transaction: Transaction,
  ) {
    if (content.crmWrites.length === 0) return;
    const written = enquiries.filter(({ id, marked }) => marked === '' && deals.get(id)?.some(({ goneAt }) => !goneAt));
    for (const [accountId, own] of groupBy(written, ({ id }) => deals.get(id)![0]!.accountId))
      await markWork(
        db,
        'crm_write',
        enquiries[0]!.businessId,
        own.map(({ id }) => id),
        now(),
        transaction,
        accountId,
      );
  }

  /**
   * Enquiries of the same people that no visit sent: they inherit the touch of one that changed.
   *
   * @param leadIds the records that those which changed are or were of
   */
  async function followHeirs(businessId: string, leadIds: (string | null)[], transaction: Transaction) {
    const ids = [...new Set(leadIds.flatMap((id) => id ?? []))];
    if (ids.length === 0) return;
    const heirs = await selectRows(
      db,
      { id: uuid().of('e.id') },
      `FROM leads own JOIN leads l ON l.business_id = own.business_id AND l.person_id = own.person_id
       JOIN enquiries e ON e.business_id = l.business_id AND e.lead_id = l.id AND e.hit_id IS NULL AND e.way_in = 'form'
       WHERE own.business_id = ? AND own.id IN (?) GROUP BY e.id ORDER BY e.id LIMIT 500`,
      [businessId, ids],
      transaction,
    );
    await markWork(
      db,
      'enquiry',
      businessId,
      heirs.map(({ id }) => id),
      now(),
      transaction,
    );
  }

  async function knownStrands(businessId: string, ids: string[], transaction: Transaction): Promise<string[]> {
    const attributes: ['strandId'] = ['strandId'];
    const rows = await tables.enquiries.findAll({ attributes, where: { businessId, id: ids }, transaction });
    return [...new Set(plain(rows).flatMap(({ strandId }) => strandId ?? []))].sort();
  }

  async function readLeads(businessId: string, enquiries: EnquiryRow[], transaction: Transaction) {
    const ids = [...new Set(enquiries.flatMap(({ leadId }) => leadId ?? []))];
    const rows = await tables.leads.findAll({ where: { businessId, id: ids }, transaction });
    return new Map(plain(rows).map((lead): [string, LeadRow] => [lead.id, lead]));
  }

  /** By the list that was live when each was sent, as its visitor is derived by: a newer one looks ahead only. */
  async function markOwnMail(enquiries: EnquiryRow[], leads: Map<string, LeadRow>, transaction: Transaction) {
    const { businessId } = enquiries[0]!;
    const asked = enquiries.filter(({ marked, leadId }) => !marked && leadId && leads.get(leadId)?.mailDomain);
    if (asked.length === 0) return;
    const past = await readPast(context, businessId, transaction);
    for (const enquiry of asked) {
      const { noCustomer } = (await releases.numbered(businessId, enquiry.releaseNumber)).content;
      const { mailDomain } = leads.get(enquiry.leadId!)!;
      if (isOwnMail(mailDomain, [...noCustomer.mailDomains, ...past.mailDomains])) enquiry.marked = 'mail';
    }
    // Whatever else these browsers did is no customer's either.
    const visitors = asked.flatMap(({ marked, visitorId, hitId }) => (marked && hitId && visitorId ? [visitorId] : []));
    await markWork(db, 'visitor', businessId, [...new Set(visitors)].sort(), now(), transaction);
  }

  /** A strand that no visitor has is marked as its enquiry is. */
  async function markPlatformStrands(enquiries: EnquiryRow[], transaction: Transaction): Promise<void> {
    const marked = enquiries.filter(({ wayIn, marked: mark, strandId }) => wayIn !== 'form' && mark && strandId);
    for (const { businessId, strandId, marked: mark, sentAt } of marked) {
      const where = { businessId, id: strandId!, marked: '' as const };
      const [changed] = await tables.strands.update({ marked: mark }, { where, transaction });
      if (changed > 0)
        await markMoments(db, businessId, [sentAt.getTime()], transaction, context.config.rollUpSeconds * 1000);
    }
  }

  /** Writes what is to be told of outcomes that one of these enquiries reached. */
  async function tell(
    enquiries: EnquiryRow[],
    deals: Map<string, KnownDeal[]>,
    joined: Map<string, Joined>,
    outcomes: Map<string, OutcomeRow[]>,
    release: Release,
    transaction: Transaction,
  ) {
    const knownBy = await readKnownBy(enquiries, release, transaction);
    const told = enquiries.flatMap((enquiry) => {
      const { strand } = joined.get(enquiry.id)!;
      const own = outcomes.get(enquiry.id)!.filter(({ subjectId }) => subjectId === enquiry.id);
      const records = (deals.get(enquiry.id) ?? []).map(({ record }) => record);
      const field = release.content.crm?.fields.click_id ?? '';
      return own.map((outcome) => ({
        outcome,
        strands: [strand],
        lastPaid: strand.kind === 'click' ? strand.id : null,
        marked: enquiry.marked,
        consent: enquiry.consent,
        crmClickId: records.map(({ fields }) => fields[field]).find(Boolean) ?? '',
        stageChanges: records[0]?.stageChanges ?? [],
        sameAs: '',
        knownBy: knownBy.get(enquiry.leadId ?? '') ?? {},
      }));
    });
    await writeReportBacks(context, releases, brakes, enquiries[0]!.businessId, told, transaction);
  }

  /** By what the CRM knows people, where platforms are told of some without a click: it is asked for it once it is told. */
  async function readKnownBy(
    enquiries: EnquiryRow[],
    { content }: Release,
    transaction: Transaction,
  ): Promise<Map<string, Partial<Record<PersonKey, string>>>> {
    if (content.telling.every(({ secondKey }) => secondKey === 'none')) return new Map();
    const { businessId } = enquiries[0]!;
    const leadId = enquiries.flatMap((enquiry) => enquiry.leadId ?? []);
    const where = { businessId, leadId, kind: ['mail' as const, 'telephone' as const] };
    const rows = plain(await tables.identities.findAll({ where, transaction }));
    const known = groupBy(rows, (row) => row.leadId);
    return new Map([...known].map(([id, own]) => [id, Object.fromEntries(own.map(({ kind }) => [kind, '']))]));
  }

  async function writeHops(
    enquiries: EnquiryRow[],
    deals: Map<string, KnownDeal[]>,
    joined: Map<string, Joined>,
    outcomes: Map<string, OutcomeRow[]>,
    sentOn: Map<string, SentOn>,
    release: Release,
    transaction: Transaction,
  ): Promise<Map<string, Date | null>> {
    const { businessId } = enquiries[0]!;
    const again = new Map<string, Date | null>();
    await keepHandedOver(context, businessId, enquiries, deals, transaction);
    const hops: HopRow[] = [];
    const qualified = [];
    for (const enquiry of enquiries) {
      const { strand } = joined.get(enquiry.id)!;
      const rule = qualifiedOutcome(release, enquiry.wayIn);
      const outcome = outcomes.get(enquiry.id)!.find(({ code }) => code === rule?.code);
      const sentAt = enquiry.sentAt.getTime();
      const state = enquiryState({ ...enquiry, sentAt }, strand, release.number, {
        sentOn: sentOn.get(enquiry.id) ?? null,
        wasNone: enquiry.quality === 'no_enquiry' ? enquiry.qualityReason : '',
      });
      const reachedAt = outcome ? outcome.happenedAt.getTime() : null;
      const own = enquiryHops(state, deals.get(enquiry.id) ?? [], release.content.crm, rule, reachedAt, nowMs());
      hops.push(...own.hops);
      again.set(enquiry.id, own.again === null ? null : new Date(own.again));
      const key = { strand: strand.id, wayIn: enquiry.wayIn, subject: enquiry.id, release: release.number };
      if (outcome) qualified.push({ key, outcome });
    }
    hops.push(...(await readTellingHops(context, businessId, qualified, release.content.platforms, transaction)));
    await replaceHops(
      context,
      businessId,
      enquiries.map(({ id }) => ({ subject: id, strands: [joined.get(id)!.strand.id], alone: enquiryStrandId(id) })),
      hops,
      ['called', 'sent_there', 'fetched', 'imported', 'in_crm', 'qualified', 'told', 'confirmed'],
      transaction,
    );
    return again;
  }
}

/** Whether two columns hold the same; times are compared by their moment. */
const isSame = (one: unknown, other: unknown): boolean =>
  one instanceof Date && other instanceof Date ? one.getTime() === other.getTime() : one === other;
