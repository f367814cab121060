/* eslint-disable no-await-in-loop -- the first platform that knows the click ends it */
import { Op, type Transaction } from 'sequelize';
import { enquiryHops, type EnquiryState } from '../../core/leads';
import { qualifiedOutcome, type Release } from '../../core/releases';
import { clickStrandId, enquiryStrandId, isAlone, nilId, type HopRow, type Strand } from '../../core/strands';
import { hasOwnMail } from '../capture/no-customer';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork, plain, type EnquiryRow } from '../db';
import { countOutcome, reachedOf } from '../outcomes/count';
import type { Releases } from '../releases/releases';
import { readTellingHops, writeReportBacks } from '../reportbacks/write';
import { markMoments } from '../rollups/marks';
import { dropStrands, fromStrandRow, lockStrands, settleStrands, toHopRow, toStrandRow } from '../strands/store';

/** Follows an enquiry from the CRM on: joins it to its strand, counts its outcome once, writes its report-backs. */
export function makeFollowEnquiry(context: Context, releases: Releases) {
  const { db, tables } = context;

  /** @returns when to follow it again because time alone changes a state, or null */
  return async function followEnquiry(businessId: string, enquiryId: string): Promise<Date | null> {
    const release = await releases.live(businessId);
    const accounts = await tables.accounts.findAll({ where: { businessId }, limit: 200 });
    const accountOf = new Map(plain(accounts).map((account) => [account.kind, account.id]));
    return inTransaction(db, async (transaction) => {
      const row = await tables.enquiries.findOne({
        where: { businessId, id: enquiryId },
        transaction,
        lock: transaction.LOCK.UPDATE,
      });
      if (!row) return null;
      const enquiry = row.get({ plain: true });
      // By the list that was live when it was sent, as its visitor is derived by: a newer one looks ahead only.
      const { noCustomer } = (await releases.numbered(businessId, enquiry.releaseNumber)).content;
      if (!enquiry.marked && (await hasOwnMail(context, businessId, enquiry.leadId, noCustomer, transaction))) {
        enquiry.marked = 'mail';
        // Whatever else this browser did is no customer's either.
        if (enquiry.visitorId) await markWork(db, 'visitor', businessId, [enquiry.visitorId], now(), transaction);
      }
      const { strand, joinedBy } = await findStrand(context, enquiry, release, transaction);
      await lockStrands(db, businessId, [strand.id], transaction);
      const state = describe(enquiry, strand, release);
      const outcome = await countOutcome(context, enquiry, release, transaction);
      const reached = outcome && reachedOf(outcome);
      const { hops, again } = enquiryHops(
        state,
        enquiry.crmRecord,
        release.content.crm,
        qualifiedOutcome(release),
        reached,
        nowMs(),
      );
      if (outcome) {
        await writeReportBacks(context, enquiry, strand, outcome, release, accountOf, transaction);
        hops.push(...(await readTellingHops(context, enquiry, strand, outcome, release, transaction)));
      }
      await replaceHops(context, enquiry, strand, hops, transaction);
      await tables.enquiries.update(
        { strandId: strand.id, joinedBy, marked: enquiry.marked },
        { where: { businessId, id: enquiryId }, transaction },
      );
      return again === null ? null : new Date(again);
    });
  };
}

/**
 * The strand an enquiry belongs to: the one of the visit that sent it (lead token), else the one of the click ID in
 * the CRM, else that of an earlier enquiry of the same mail address, else one of its own.
 */
async function findStrand(
  { tables }: Context,
  enquiry: EnquiryRow,
  release: Release,
  transaction: Transaction,
): Promise<{ strand: Strand; joinedBy: EnquiryRow['joinedBy'] }> {
  const { businessId } = enquiry;
  const byId = async (id: string | null) => {
    const row = id && (await tables.strands.findOne({ where: { businessId, id }, transaction }));
    return row ? fromStrandRow(row.get({ plain: true })) : null;
  };
  const sent = enquiry.hitId ? await byId(enquiry.strandId) : null;
  if (sent && !isAlone(sent)) return { strand: sent, joinedBy: enquiry.crmDeal ? 'lead token' : null };

  if (!enquiry.hitId && enquiry.crmRecord) {
    const clickId = enquiry.crmRecord.fields[release.content.crm.fields.click_id ?? ''] ?? '';
    for (const { platform } of clickId ? release.content.capture.keep.clickIds : []) {
      const strand = await byId(clickStrandId(businessId, platform, clickId));
      if (strand) return { strand, joinedBy: 'click ID' };
    }
    const strand = await byId(await strandOfSameMail(tables, enquiry, transaction));
    if (strand) return { strand, joinedBy: 'mail' };
  }
  const own: Strand = {
    id: enquiryStrandId(enquiry.id),
    kind: 'enquiry',
    platform: '',
    clickId: '',
    firstAt: enquiry.sentAt.getTime(),
    source: '',
    medium: '',
    campaign: '',
    content: '',
    utmId: '',
    visitor: nilId,
    marked: enquiry.marked,
  };
  await tables.strands.bulkCreate([toStrandRow(businessId, own)], {
    updateOnDuplicate: ['firstAt', 'marked'],
    transaction,
  });
  return {
    strand: own,
    joinedBy: enquiry.hitId && enquiry.crmDeal ? 'lead token' : enquiry.crmDeal ? 'nothing' : null,
  };
}

/** The strand of the newest earlier enquiry by a lead with the same mail address. */
async function strandOfSameMail(
  tables: Context['tables'],
  enquiry: EnquiryRow,
  transaction: Transaction,
): Promise<string | null> {
  const { businessId, leadId } = enquiry;
  if (!leadId) return null;
  const lead = (await tables.leads.findOne({ where: { businessId, id: leadId }, transaction }))?.get({ plain: true });
  if (!lead?.mailHash) return null;
  const same = await tables.leads.findAll({ where: { businessId, mailHash: lead.mailHash }, limit: 20, transaction });
  const earlier = await tables.enquiries.findOne({
    where: {
      businessId,
      leadId: plain(same).map((row) => row.id),
      id: { [Op.ne]: enquiry.id },
      hitId: { [Op.ne]: null },
      strandId: { [Op.ne]: null },
      sentAt: { [Op.lt]: enquiry.sentAt },
    },
    order: [['sentAt', 'DESC']],
    transaction,
  });
  return earlier?.get({ plain: true }).strandId ?? null;
}

function describe(enquiry: EnquiryRow, strand: Strand, release: Release): EnquiryState {
  const reading = strand.kind === 'click' ? 'click_id' : 'last_source';
  const sent = enquiry.fills?.find((line) => line.reading === reading && line.value !== '');
  return {
    id: enquiry.id,
    sentAt: enquiry.sentAt.getTime(),
    strand,
    form: enquiry.form,
    sentField: sent?.field ?? '',
    sentValue: sent?.value ?? '',
    release: release.number,
  };
}

/** Writes the hops after Form sent anew, and clears what an earlier strand of the enquiry held. */
async function replaceHops(
  context: Context,
  enquiry: EnquiryRow,
  strand: Strand,
  hops: HopRow[],
  transaction: Transaction,
): Promise<void> {
  const { tables } = context;
  const { businessId } = enquiry;
  const before = await tables.hops.findAll({
    attributes: ['strandId'],
    where: { businessId, subjectId: enquiry.id, strandId: { [Op.ne]: strand.id } },
    group: ['strandId'],
    transaction,
  });
  const others = plain(before).map((row) => row.strandId);
  await tables.hops.destroy({
    where: {
      businessId,
      subjectId: enquiry.id,
      [Op.or]: [{ strandId: others }, { strandId: strand.id, hop: ['in_crm', 'qualified', 'told', 'confirmed'] }],
    },
    transaction,
  });
  await tables.hops.bulkCreate(
    hops.map((hop) => toHopRow(businessId, hop)),
    { updateOnDuplicate: ['state', 'reason', 'evidence', 'at', 'releaseNumber'], transaction },
  );
  const own = enquiryStrandId(enquiry.id);
  if (strand.id !== own) {
    const gone = await tables.strands.findAll({ attributes: ['firstAt'], where: { businessId, id: own }, transaction });
    await tables.strands.destroy({ where: { businessId, id: own }, transaction });
    const moments = plain(gone).map(({ firstAt }) => firstAt.getTime());
    await markMoments(context.db, businessId, moments, transaction, context.config.rollUpSeconds * 1000);
    await dropStrands(context, businessId, [own], transaction);
  }
  await settleStrands(context, businessId, [strand.id, ...others.filter((id) => id !== own)], transaction);
}
