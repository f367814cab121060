import type { Transaction } from 'sequelize';
import { mailDomainOf } from '../../core/capture/no-customer';
import type { ReadRecord } from '../../core/crms';
import { isRecordNewer, withMoves } from '../../core/leads';
import { crmEnquiryIdOf, enquiryIdOf, leadIdOf } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { markWork, plain, selectRows, text, type EnquiryRow, type LeadRow } from '../db';
import type { Account } from '../platforms/accounts';
import type { Releases } from '../releases/releases';
import { hashMail, hashTelephone } from '../secrets';

const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

/**
 * Stores records of a CRM as they were read, each with its lead, and has their enquiries followed. A record that names a
 * lead token is the enquiry of the form that was sent with it.
 *
 * @param isWhole false where a record says only the stage it is at now: the moves before it are those that were known
 */
export async function storeRecords(
  { db, tables, config }: Context,
  releases: Releases,
  { businessId, id: accountId }: Pick<Account, 'businessId' | 'id'>,
  read: ReadRecord[],
  isWhole: boolean,
  transaction: Transaction,
): Promise<void> {
  if (read.length === 0) return;
  const release = await releases.live(businessId);
  const deals = [...new Set(read.map(({ record }) => record.deal))];
  // Locked: what is known of a deal is what its next move is added to.
  const rows = await tables.enquiries.findAll({
    attributes: ['id', 'crmDeal', 'crmRecord'],
    where: { businessId, accountId, crmDeal: deals },
    order: [['id', 'ASC']],
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  const known = new Map(plain(rows).map((row) => [row.crmDeal, row]));
  const leads = new Map<string, Partial<LeadRow>>();
  const enquiries = new Map<string, Partial<EnquiryRow>>();
  for (const { record: arrived, mail, telephone } of read) {
    const { deal } = arrived;
    // Of several records of one deal each builds on the one before.
    const before = enquiries.get(deal)?.crmRecord ?? known.get(deal)?.crmRecord ?? null;
    if (!isWhole && before && !isRecordNewer(before, arrived)) continue;
    const record = isWhole ? arrived : withMoves(before, arrived);
    const token = (record.fields[release.content.crm?.leadTokenField ?? ''] ?? '').toLowerCase();
    const leadToken = uuid.test(token) ? token : null;
    const leadId = leadIdOf(businessId, accountId, record.person);
    leads.set(leadId, {
      businessId,
      id: leadId,
      accountId,
      crmPerson: record.person,
      name: record.personName.slice(0, 120),
      company: record.company.slice(0, 120),
      mailHash: mail ? hashMail(config.secretKey, mail) : '',
      telephoneHash: hashTelephone(config.secretKey, telephone),
      mailDomain: mailDomainOf(mail),
      madeAt: new Date(record.madeAt),
    });
    enquiries.set(deal, {
      businessId,
      id:
        known.get(deal)?.id ??
        (leadToken ? enquiryIdOf(businessId, leadToken) : crmEnquiryIdOf(businessId, accountId, deal)),
      leadToken,
      leadId,
      form: '',
      page: '',
      sentAt: new Date(record.madeAt),
      fields: [],
      accountId,
      crmDeal: deal,
      crmRecord: record,
      stage: record.stage,
      releaseNumber: release.number,
    });
  }
  if (enquiries.size === 0) return;
  const tried = await tokensOfTrials(
    db,
    businessId,
    [...enquiries.values()].flatMap((one) => one.leadToken ?? []),
    transaction,
  );
  for (const enquiry of enquiries.values()) if (tried.has(enquiry.leadToken ?? '')) enquiry.marked = 'browser';
  await tables.leads.bulkCreate([...leads.values()], {
    updateOnDuplicate: ['name', 'company', 'mailHash', 'telephoneHash', 'mailDomain'],
    transaction,
  });
  await tables.enquiries.bulkCreate([...enquiries.values()], {
    updateOnDuplicate: ['leadId', 'accountId', 'crmDeal', 'crmRecord', 'stage'],
    transaction,
  });
  const ids = [...enquiries.values()].map(({ id }) => id!);
  await markWork(db, 'enquiry', businessId, [...new Set(ids)].sort(), now(), transaction);
}

/** Of lead tokens those of forms that somebody sent while trying rules: their enquiries are no customer's. */
async function tokensOfTrials(
  db: Context['db'],
  businessId: string,
  tokens: string[],
  transaction: Transaction,
): Promise<Set<string>> {
  if (tokens.length === 0) return new Set();
  const rows = await selectRows(
    db,
    { token: text().of("JSON_VALUE(hit, '$.leadToken')") },
    "FROM trial_hits WHERE business_id = ? AND JSON_VALUE(hit, '$.leadToken') IN (?)",
    [businessId, tokens],
    transaction,
  );
  return new Set(rows.map(({ token }) => token));
}
