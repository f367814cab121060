import { createHmac } from 'node:crypto';
import { mailDomainOf } from '../../core/capture/no-customer';
import { AvrixError } from '../../core/errors';
import { crmEnquiryIdOf, enquiryIdOf, leadIdOf } from '../../core/strands';
import { readBodyAs } from '../../core/read-as';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, markWork } from '../db';
import { newId } from '../ids';
import { crmContractOf } from '../../core/crms';
import type { Crms } from '../crms/crm';
import type { Account } from '../platforms/accounts';
import { ServiceAway } from '../platforms/call';
import type { Releases } from '../releases/releases';
import { hashMail, hashTelephone, sameText } from '../secrets';

/** A webhook older than this is refused, so that a recorded one cannot be played again later. */
const sealSeconds = 300;
const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-[1-8][0-9a-f]{3}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

export type CrmEvents = ReturnType<typeof makeCrmEvents>;

/** What the CRM tells: taken by signed webhook, each event once; then the deal is read back and joined. */
export function makeCrmEvents(context: Context, crms: Crms, releases: Releases) {
  const { db, tables, config } = context;

  return {
    /**
     * Takes one webhook of the account that it names. Its seal is HMAC-SHA256 in hex, under the account's webhook secret.
     * @param header its headers by name
     * @throws AVX_NOT_FOUND, AVX_SEAL_WRONG, AVX_SEAL_OLD, AVX_BODY_NOT_JSON, AVX_FIELD_WRONG
     */
    async take(account: Account, body: string, header: (name: string) => string): Promise<void> {
      const webhook = crmContractOf(account.kind)?.webhook;
      if (!webhook) throw new AvrixError('AVX_NOT_FOUND', { what: 'account' });
      const sent = header(webhook.sentHeader);
      const { webhookSecret } = account.secrets;
      const wanted = createHmac('sha256', webhookSecret).update(webhook.sealed(body, sent)).digest('hex');
      if (!webhookSecret || !sameText(wanted, header(webhook.sealHeader))) throw new AvrixError('AVX_SEAL_WRONG');
      const seconds = Math.abs(Math.round((nowMs() - Number(sent)) / 1000));
      if (!(seconds <= sealSeconds)) throw new AvrixError('AVX_SEAL_OLD', { seconds, limit: sealSeconds });
      const event = readBodyAs(webhook.body, body, 'Send {"event", "kind", "deal", "at"}.');
      const { businessId } = account;
      const id = newId();
      await inTransaction(db, async (transaction) => {
        await db.query(
          `INSERT INTO crm_events (business_id, id, account_id, crm_event, kind, deal, happened_at, received_at)
           VALUES (?,?,?,?,?,?,?,?) ON DUPLICATE KEY UPDATE id = id`,
          {
            transaction,
            replacements: [businessId, id, account.id, event.event, event.kind, event.deal, new Date(event.at), now()],
          },
        );
        const stored = await tables.crmEvents.findOne({
          where: { businessId, accountId: account.id, crmEvent: event.event },
          transaction,
        });
        if (stored?.get({ plain: true }).id === id)
          await markWork(db, 'crm_event', businessId, [id], now(), transaction, account.id);
      });
    },

    /** Reads the deal of an event back from the CRM and joins it to its enquiry; one that is gone there ends the event. */
    async read(businessId: string, eventId: string): Promise<void> {
      const event = (await tables.crmEvents.findOne({ where: { businessId, id: eventId } }))?.get({ plain: true });
      const crm = event && (await crms.ofAccount(businessId, event.accountId));
      if (!event || !crm) return;
      const { account } = crm;
      const read = await crm.ask(crm.contract.record(event.deal)).catch((error: unknown) => {
        // Deleted there: asking again would find nothing either.
        if (error instanceof ServiceAway && ['404', '410'].includes(error.status)) return null;
        throw error;
      });
      if (!read) {
        await tables.crmEvents.update({ readAt: now() }, { where: { businessId, id: eventId } });
        return;
      }
      const { record, mail, telephone } = read;
      const release = await releases.live(businessId);
      const token = (record.fields[release.content.crm?.leadTokenField ?? ''] ?? '').toLowerCase();
      const leadToken = uuid.test(token) ? token : null;
      const leadId = leadIdOf(businessId, account.id, record.person);

      await inTransaction(db, async (transaction) => {
        await tables.leads.bulkCreate(
          [
            {
              businessId,
              id: leadId,
              accountId: account.id,
              crmPerson: record.person,
              name: record.personName,
              company: record.company,
              mailHash: mail ? hashMail(config.secretKey, mail) : '',
              telephoneHash: hashTelephone(config.secretKey, telephone),
              mailDomain: mailDomainOf(mail),
              madeAt: new Date(record.madeAt),
            },
          ],
          { updateOnDuplicate: ['name', 'company', 'mailHash', 'telephoneHash', 'mailDomain'], transaction },
        );
        const known = await tables.enquiries.findOne({
          where: { businessId, accountId: account.id, crmDeal: record.deal },
          transaction,
        });
        const id =
          known?.get({ plain: true }).id ??
          (leadToken ? enquiryIdOf(businessId, leadToken) : crmEnquiryIdOf(businessId, account.id, record.deal));
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
              accountId: account.id,
              crmDeal: record.deal,
              crmRecord: record,
              stage: record.stage,
              releaseNumber: release.number,
            },
          ],
          { updateOnDuplicate: ['leadId', 'accountId', 'crmDeal', 'crmRecord', 'stage'], transaction },
        );
        await tables.crmEvents.update({ readAt: now() }, { where: { businessId, id: eventId }, transaction });
        await markWork(db, 'enquiry', businessId, [id], now(), transaction);
      });
    },
  };
}
