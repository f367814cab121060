/* eslint-disable no-await-in-loop -- deals that come to name another enquiry are few */
import { Op, type Transaction } from 'sequelize';
import type { ReadRecord } from '../../core/crms';
import { tellsByMail, type Release } from '../../core/releases';
import { leadIdOf } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { insertRows, markWork, plain, selectRows, text, type DealRow } from '../db';
import type { Releases } from '../releases/releases';
import { readErased } from './erasing/marks';
import { forgetEnquiries } from './forget';
import { seal } from '../secrets';
import { readOpenLeads } from './open-leads';
import { storeIdentities, type Known } from './people';
import { recordRows, type NewEnquiry, type RecordRows, type Source } from './record-rows';

/**
 * Stores records of a CRM as they were read, each with its person, company and enquiry, and has their enquiries followed. A
 * record that names a lead token is a deal of the enquiry of the form that was sent with it; any other has one of its own.
 *
 * @param isWhole false where a record says only the stage it is at now: the moves before it are those that were known
 */
export async function storeRecords(
  context: Context,
  releases: Releases,
  source: Source,
  arrived: ReadRecord[],
  isWhole: boolean,
  transaction: Transaction,
): Promise<void> {
  const { db, tables, config } = context;
  const { businessId } = source;
  const release = await releases.live(businessId);
  const read = await withoutErased(context, source, arrived, release, transaction);
  if (read.length === 0) return;
  const known = await lockDeals(
    context,
    source,
    read.flatMap(({ record, merged }) => [record.deal, ...merged.records]),
    transaction,
  );
  const openLeadOf = await readOpenLeads(
    context,
    businessId,
    read.filter(({ record }) => !known.has(record.deal)),
    transaction,
  );
  const rows = recordRows(source, read, known, release, config.secretKey, isWhole, openLeadOf);
  if (rows.deals.size === 0) return;
  const [deals, enquiries] = [[...rows.deals.values()], [...rows.enquiries.values()]];
  await markTrials(context, businessId, enquiries, transaction);
  await insertRows(tables.companies, [...rows.companies.values()], ['name'], transaction);
  await insertRows(tables.leads, [...rows.leads.values()], ['name', 'company', 'companyId', 'mailDomain'], transaction);
  await insertRows(tables.enquiries, enquiries, ['leadId'], transaction);
  await storeDeals(context, deals, transaction);
  for (const { from, to } of rows.moved) await moveTold(context, businessId, from, to, transaction);
  await forgetLeft(context, businessId, rows.moved, transaction);
  await storeIdentities(context, businessId, await onlyKnown(context, businessId, rows, transaction), transaction);
  if (!isWhole) await keepAddresses(context, source, read, release, transaction);
  await followDeals(db, businessId, deals, transaction);
}

/** Records that are not of somebody who was erased: by their number, or by the lead token that they carry. */
async function withoutErased(
  context: Context,
  { businessId, id }: Source,
  read: ReadRecord[],
  { content }: Release,
  transaction: Transaction,
): Promise<ReadRecord[]> {
  const numberOf = ({ record }: ReadRecord) => `${id} ${record.deal}`;
  const tokenOf = ({ record }: ReadRecord) => record.fields[content.crm?.leadTokenField ?? ''] ?? '';
  const [deals, tokens] = [
    await readErased(context, businessId, 'deal', read.map(numberOf), transaction),
    await readErased(context, businessId, 'token', read.map(tokenOf).filter(Boolean), transaction),
  ];
  return read.filter((one) => !deals.has(numberOf(one)) && !tokens.has(tokenOf(one)));
}

/** Keeps email addresses of a CRM that cannot be asked for them, encrypted, while routines or report-backs need them. */
async function keepAddresses(
  { tables, config }: Context,
  { businessId, id: accountId }: Source,
  read: ReadRecord[],
  release: Release,
  transaction: Transaction,
): Promise<void> {
  const inUse = { businessId, state: { [Op.ne]: 'retired' as const } };
  if (!tellsByMail(release) && (await tables.routines.count({ where: inUse, transaction })) === 0) return;
  const rows = read
    .filter(({ mail }) => mail !== '')
    .map(({ record, mail }) => ({
      businessId,
      leadId: leadIdOf(businessId, accountId, record.person),
      mail: seal(config.secretKey, mail),
    }));
  await insertRows(tables.leadAddresses, rows, ['mail'], transaction);
}

/** What was counted, told and written under an enquiry goes on under another: its deal has come to name that one's token. */
async function moveTold(
  { tables }: Context,
  businessId: string,
  from: string,
  to: string,
  transaction: Transaction,
): Promise<void> {
  await tables.outcomes.update({ subjectId: to }, { where: { businessId, subjectId: from }, transaction });
  await tables.reportBacks.update({ subjectId: to }, { where: { businessId, subjectId: from }, transaction });
  await tables.crmWrites.update({ enquiryId: to }, { where: { businessId, enquiryId: from }, transaction });
  await tables.routineRuns.update({ enquiryId: to }, { where: { businessId, enquiryId: from }, transaction });
  await tables.routineActs.update({ enquiryId: to }, { where: { businessId, enquiryId: from }, transaction });
}

/** Enquiries that no form sent and that no deal belongs to any more. */
async function forgetLeft(
  context: Context,
  businessId: string,
  moved: RecordRows['moved'],
  transaction: Transaction,
): Promise<void> {
  if (moved.length === 0) return;
  const id = [...new Set(moved.map(({ from }) => from))];
  const { tables } = context;
  const [rows, held] = [
    plain(await tables.enquiries.findAll({ where: { businessId, id, hitId: null, wayIn: 'form' }, transaction })),
    plain(await tables.deals.findAll({ where: { businessId, enquiryId: id }, transaction })),
  ];
  const left = rows.filter((row) => !held.some(({ enquiryId }) => enquiryId === row.id));
  await forgetEnquiries(
    context,
    businessId,
    left.map((row) => row.id),
    transaction,
  );
}

/**
 * Keeps that a CRM has a record no more, with what is known of it. One that was never read leaves nothing.
 *
 * @param mergedInto the number of the record that it was merged into; '' where it was deleted
 */
export async function storeGone(
  context: Context,
  source: Source,
  number: string,
  { at, mergedInto }: { at: Date; mergedInto: string },
  transaction: Transaction,
): Promise<void> {
  const known = await lockDeals(context, source, [number, mergedInto], transaction);
  const deal = known.get(number);
  if (!deal) return;
  const into = known.get(mergedInto);
  const gone = { ...deal, goneAt: deal.goneAt && deal.goneAt > at ? deal.goneAt : at, mergedInto };
  await storeDeals(context, [gone], transaction);
  await followDeals(context.db, source.businessId, into ? [gone, into] : [gone], transaction);
}

/** Deals by their numbers. Locked: what is known of a deal is what its next move is added to. */
async function lockDeals(
  { tables }: Context,
  { businessId, id: accountId }: Source,
  numbers: string[],
  transaction: Transaction,
): Promise<Map<string, DealRow>> {
  const rows = await tables.deals.findAll({
    where: { businessId, accountId, number: [...new Set(numbers)] },
    order: [['id', 'ASC']],
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  return new Map(plain(rows).map((row) => [row.number, row]));
}

const storeDeals = ({ tables }: Context, deals: DealRow[], transaction: Transaction) =>
  insertRows(
    tables.deals,
    deals,
    ['enquiryId', 'leadId', 'companyId', 'record', 'stage', 'madeAt', 'goneAt', 'mergedInto'],
    transaction,
  );

async function followDeals(db: Context['db'], businessId: string, deals: DealRow[], transaction: Transaction) {
  const ids = [...new Set(deals.map(({ enquiryId }) => enquiryId))].sort();
  await markWork(db, 'enquiry', businessId, ids, now(), transaction);
}

/** Of what people are known by, that of records which are here: one that was merged away before it was read never is. */
async function onlyKnown(
  { tables }: Context,
  businessId: string,
  { leads, identities }: RecordRows,
  transaction: Transaction,
): Promise<Known[]> {
  const asked = [...identities.keys()].filter((id) => !leads.has(id));
  const rows =
    asked.length > 0
      ? plain(await tables.leads.findAll({ attributes: ['id'], where: { businessId, id: asked }, transaction }))
      : [];
  const here = new Set([...leads.keys(), ...rows.map(({ id }) => id)]);
  return [...identities.values()].filter(({ leadId }) => here.has(leadId));
}

/** Enquiries of forms that somebody sent while trying rules are no customer's. */
async function markTrials(
  { db }: Context,
  businessId: string,
  enquiries: NewEnquiry[],
  transaction: Transaction,
): Promise<void> {
  const tokens = enquiries.flatMap(({ leadToken }) => leadToken ?? []);
  if (tokens.length === 0) return;
  const rows = await selectRows(
    db,
    { token: text().of("JSON_VALUE(hit, '$.leadToken')") },
    "FROM trial_hits WHERE business_id = ? AND JSON_VALUE(hit, '$.leadToken') IN (?)",
    [businessId, tokens],
    transaction,
  );
  const tried = new Set(rows.map(({ token }) => token));
  for (const enquiry of enquiries) if (enquiry.leadToken && tried.has(enquiry.leadToken)) enquiry.marked = 'browser';
}
