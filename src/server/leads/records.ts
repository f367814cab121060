/* eslint-disable no-await-in-loop -- records of one person may come together, each builds on the one before */
import type { Transaction } from 'sequelize';
import { mailDomainOf } from '../../core/capture/no-customer';
import type { ReadRecord } from '../../core/crms';
import { isRecordNewer, withMoves } from '../../core/leads';
import { crmEnquiryIdOf, enquiryIdOf, leadIdOf } from '../../core/strands';
import { now } from '../clock';
import type { Context } from '../context';
import { markWork } from '../db';
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
  const release = await releases.live(businessId);
  const ids: string[] = [];
  for (const { record: arrived, mail, telephone } of read) {
    const known = (
      await tables.enquiries.findOne({ where: { businessId, accountId, crmDeal: arrived.deal }, transaction })
    )?.get({ plain: true });
    const before = known?.crmRecord ?? null;
    if (!isWhole && before && !isRecordNewer(before, arrived)) continue;
    const record = isWhole ? arrived : withMoves(before, arrived);
    const token = (record.fields[release.content.crm?.leadTokenField ?? ''] ?? '').toLowerCase();
    const leadToken = uuid.test(token) ? token : null;
    const leadId = leadIdOf(businessId, accountId, record.person);
    await tables.leads.bulkCreate(
      [
        {
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
        },
      ],
      { updateOnDuplicate: ['name', 'company', 'mailHash', 'telephoneHash', 'mailDomain'], transaction },
    );
    const id =
      known?.id ??
      (leadToken ? enquiryIdOf(businessId, leadToken) : crmEnquiryIdOf(businessId, accountId, record.deal));
    await tables.enquiries.bulkCreate(
      [
        {
          businessId,
          id,
          leadToken,
          leadId,
          form: '',
          page: '',
          sentAt: new Date(record.madeAt),
          fields: [],
          accountId,
          crmDeal: record.deal,
          crmRecord: record,
          stage: record.stage,
          releaseNumber: release.number,
        },
      ],
      { updateOnDuplicate: ['leadId', 'accountId', 'crmDeal', 'crmRecord', 'stage'], transaction },
    );
    ids.push(id);
  }
  await markWork(db, 'enquiry', businessId, [...new Set(ids)], now(), transaction);
}
