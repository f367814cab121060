import { AvrixError } from '../../core/errors';
import { readBodyAs } from '../../core/read-as';
import { now, nowMs } from '../clock';
import type { Context } from '../context';
import { inTransaction, insertRows, markWork, type CrmEventRow } from '../db';
import { newId } from '../ids';
import { crmContractOf } from '../../core/crms';
import type { Crms } from '../crms/crm';
import type { Account } from '../platforms/accounts';
import { ServiceAway } from '../platforms/call';
import type { Releases } from '../releases/releases';
import { isSealed, type CrmArrivals } from './arrivals';
import { storeGone, storeRecords } from './records';

/** A webhook older than this is refused, so that a recorded one cannot be played again later. */
const sealSeconds = 300;

export type CrmEvents = ReturnType<typeof makeCrmEvents>;

/** What the CRM tells: taken by signed webhook, each event once; then the deal is read back and joined. */
export function makeCrmEvents(context: Context, crms: Crms, releases: Releases, arrivals: CrmArrivals) {
  const { db, tables } = context;

  return {
    /**
     * Takes one webhook of the account that it names: its seal proves that it comes from there.
     * @param header its headers by name
     * @throws AVX_NOT_FOUND, AVX_SEAL_WRONG, AVX_SEAL_OLD, AVX_BODY_NOT_JSON, AVX_FIELD_WRONG
     */
    async take(account: Account, body: string, header: (name: string) => string): Promise<void> {
      const contract = crmContractOf(account.kind, []);
      if (contract?.gives !== 'numbers') return arrivals.take(account, body, header);
      const { webhook } = contract;
      const sent = header(webhook.sentHeader);
      if (!isSealed(account, webhook.sealed(body, sent), header(webhook.sealHeader)))
        throw new AvrixError('AVX_SEAL_WRONG');
      const seconds = Math.abs(Math.round((nowMs() - Number(sent)) / 1000));
      if (!(seconds <= sealSeconds)) throw new AvrixError('AVX_SEAL_OLD', { seconds, limit: sealSeconds });
      const event = readBodyAs(webhook.body, body, 'Send {"event", "kind", "deal", "at"}.');
      const { businessId } = account;
      const id = newId();
      const row: CrmEventRow = {
        businessId,
        id,
        accountId: account.id,
        crmEvent: event.event,
        kind: event.kind,
        deal: event.deal,
        happenedAt: new Date(event.at),
        receivedAt: now(),
        readAt: null,
      };
      await inTransaction(db, async (transaction) => {
        await insertRows(tables.crmEvents, [row], [], transaction);
        const stored = await tables.crmEvents.findOne({
          where: { businessId, accountId: account.id, crmEvent: event.event },
          transaction,
        });
        if (stored?.get({ plain: true }).id === id)
          await markWork(db, 'crm_event', businessId, [id], now(), transaction, account.id);
      });
    },

    /** Reads the deal of an event back from the CRM and joins it to its enquiry, or keeps that it is gone there. */
    async read(businessId: string, eventId: string): Promise<void> {
      const event = (await tables.crmEvents.findOne({ where: { businessId, id: eventId } }))?.get({ plain: true });
      const crm = event && (await crms.ofAccount(businessId, event.accountId));
      // While an account is paused nothing is read from it; the poll finds what changed once it goes on.
      if (!event || crm?.contract.gives !== 'numbers' || crm.account.pausedAt || crm.account.retiredAt) return;
      const { account } = crm;
      const read = await crm.ask(crm.contract.record(event.deal)).catch((error: unknown) => {
        // Deleted there: asking again would find nothing either.
        if (error instanceof ServiceAway && ['404', '410'].includes(error.status)) return { mergedInto: '' };
        throw error;
      });
      await inTransaction(db, async (transaction) => {
        if ('record' in read) await storeRecords(context, releases, account, [read], true, transaction);
        else {
          const gone = { at: event.happenedAt, mergedInto: read.mergedInto };
          await storeGone(context, account, event.deal, gone, transaction);
        }
        await tables.crmEvents.update({ readAt: now() }, { where: { businessId, id: eventId }, transaction });
      });
    },
  };
}
